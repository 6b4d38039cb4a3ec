import { explainPath, hopsAskedFor } from '@tombolo/core';
import { packetOf } from '../ingest/understand';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt } from '../store/moments';

const WITHIN_MS = 48 * 3_600_000;
/** Among so many of their last packets a text or an answer is looked for, whose path tells most of how the next answer comes. */
const LOOKED_AT = 20;
const KINDS = new Set(['message', 'ack', 'rej']);

/** Over how many digipeaters the packets of a station ask to go, by the last that a modem of ours heard; null where none was heard in two days. */
export async function theirHops(queries: Queries, call: string, nowMs: number): Promise<number | null> {
  const rows = await rowsOf<{ kind: string; raw: Buffer }>(
    queries,
    `select p.kind, r.raw from packet p join reception r on r.packet_id = p.id
     where p.source = $1 and p.id > $2 and r.id > $2 and r.form = 'ax25'
     order by p.id desc limit ${LOOKED_AT}`,
    [call, firstIdAt(nowMs - WITHIN_MS)],
  );
  const asked = rows.flatMap(({ kind, raw }) => {
    const packet = packetOf({ form: 'ax25', raw, importId: null });
    // What a gateway wraps goes by the gateway's path.
    if (!packet.ok || packet.value.source !== call) return [];
    const path = explainPath(packet.value);
    return path.how === 'internet' ? [] : [{ kind, hops: hopsAskedFor(path) }];
  });
  return (asked.find(({ kind }) => KINDS.has(kind)) ?? asked[0])?.hops ?? null;
}
