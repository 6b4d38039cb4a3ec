import { COPY_WINDOW_MS, withinCopyWindow } from '@tombolo/core';
import { channelIds, type Channel } from '../store/channels';
import { rowsOf, storable, type Queries } from '../store/database';
import { INGEST_LOCK } from '../store/locks';
import { firstIdAt, idAt, lastIdAt, msOfId, receptionsOf } from '../store/moments';
import type { Understood } from './understand';

/** A reception as stored: which packet it is a copy of, and whether it was the first. */
export interface Stored {
  readonly understood: Understood;
  readonly receptionId: string;
  readonly packetId: string | null;
  readonly isNewPacket: boolean;
}

/**
 * Stores a batch inside the caller's transaction: joins copies to packets inside the window, appends receptions. A handful of
 * statements, whatever the size of the batch.
 */
export async function storeHeard(queries: Queries, batch: readonly Understood[], recordedAt: Date): Promise<Stored[]> {
  if (batch.length === 0) return [];
  await queries.query('select pg_advisory_xact_lock($1)', [INGEST_LOCK]);
  const known = await knownPackets(queries, batch);
  const receptionNumbers = await reserve(queries, 'reception_id_seq', batch.length);
  const fresh: { understood: Understood; index: number }[] = [];
  const joined = batch.map((understood, index): Candidate | null => {
    if (!understood.identity) return null;
    const key = understood.identity.toString('latin1');
    const candidates = known.get(key) ?? [];
    const found = candidates.find((packet) => withinCopyWindow(packet.firstAtMs, understood.heard.heardAtMs));
    if (found) return found;
    const packet = { place: { fresh: fresh.length }, firstAtMs: understood.heard.heardAtMs };
    fresh.push({ understood, index });
    known.set(key, [...candidates, packet]);
    return packet;
  });
  const packetNumbers = await reserve(queries, 'packet_id_seq', fresh.length);
  const packetIds = fresh.map(({ understood }, i) => idAt(understood.heard.heardAtMs, packetNumbers[i]!));
  await insertPackets(
    queries,
    fresh.map(({ understood }) => understood),
    packetIds,
  );

  const firstOf = new Set(fresh.map(({ index }) => index));
  const stored = batch.map((understood, i): Stored => {
    const place = joined[i]?.place;
    const packetId = !place ? null : 'fresh' in place ? packetIds[place.fresh]! : place.id;
    const receptionId = idAt(understood.heard.heardAtMs, receptionNumbers[i]!);
    return { understood, receptionId, packetId, isNewPacket: firstOf.has(i) };
  });
  await insertReceptions(queries, stored, await openings(queries, stored), recordedAt);
  await noteForRemake(queries, stored);
  return stored;
}

/** While what is derived is made anew, what comes meanwhile is put down for it, in its order. */
const noteForRemake = (queries: Queries, stored: readonly Stored[]): Promise<unknown> =>
  queries.query(
    `insert into remake_tail (reception_id)
     select id from unnest($1::bigint[]) with ordinality as s (id, n) where exists (select 1 from remake) order by n`,
    [stored.map((row) => row.receptionId)],
  );

const originOf = ({ bearerId, importId }: { readonly bearerId: string | null; readonly importId: string | null }) =>
  `${bearerId}/${importId}`;

/** Which of these is the first hearing of its packet by its bearer or recording. */
async function openings(queries: Queries, stored: readonly Stored[]): Promise<boolean[]> {
  const copies = stored.flatMap(({ packetId, isNewPacket }) => (packetId !== null && !isNewPacket ? [packetId] : []));
  const rows =
    copies.length === 0
      ? []
      : await rowsOf<{ packet_id: string; bearer_id: string | null; import_id: string | null }>(
          queries,
          `select r.packet_id, c.bearer_id, c.import_id from reception r join channel c on c.id = r.channel_id
           where r.packet_id = any($1::bigint[]) and r.id between $2 and $3`,
          [copies, ...receptionsOf(copies)],
        );
  const seen = new Set(
    rows.map((row) => `${row.packet_id}/${originOf({ bearerId: row.bearer_id, importId: row.import_id })}`),
  );
  return stored.map(({ packetId, understood }) => {
    if (packetId === null) return false;
    const key = `${packetId}/${originOf(understood.heard)}`;
    return !seen.has(key) && seen.add(key) !== undefined;
  });
}

/** A packet that a reception may be a copy of: stored already, or new in this batch. */
interface Candidate {
  readonly place: { readonly id: string } | { readonly fresh: number };
  readonly firstAtMs: number;
}

async function knownPackets(queries: Queries, batch: readonly Understood[]): Promise<Map<string, Candidate[]>> {
  const identities: Buffer[] = [];
  let earliest = Infinity;
  let latest = -Infinity;
  for (const { identity, heard } of batch) {
    if (!identity) continue;
    identities.push(identity);
    earliest = Math.min(earliest, heard.heardAtMs);
    latest = Math.max(latest, heard.heardAtMs);
  }
  const known = new Map<string, Candidate[]>();
  if (identities.length === 0) return known;
  const rows = await rowsOf<{ id: string; identity: Buffer }>(
    queries,
    `select id, identity from packet
     where identity = any($1::bytea[]) and id between $2 and $3 order by id`,
    [identities, firstIdAt(earliest - COPY_WINDOW_MS), lastIdAt(latest + COPY_WINDOW_MS)],
  );
  for (const row of rows) {
    const key = row.identity.toString('latin1');
    const packet = { place: { id: row.id }, firstAtMs: msOfId(row.id) };
    const packets = known.get(key);
    if (packets) packets.push(packet);
    else known.set(key, [packet]);
  }
  return known;
}

async function reserve(queries: Queries, sequence: string, count: number): Promise<string[]> {
  if (count === 0) return [];
  const rows = await rowsOf<{ id: string }>(
    queries,
    `select nextval('${sequence}') as id from generate_series(1, $1)`,
    [count],
  );
  return rows.map((row) => row.id);
}

async function insertPackets(queries: Queries, packets: readonly Understood[], ids: readonly string[]): Promise<void> {
  if (packets.length === 0) return;
  await queries.query(
    `insert into packet (id, identity, source, destination, kind, addressee, summary)
     select * from unnest($1::bigint[], $2::bytea[], $3::text[], $4::text[], $5::text[], $6::text[], $7::text[])`,
    [
      ids,
      packets.map((u) => u.identity),
      packets.map((u) => u.head!.source),
      packets.map((u) => u.head!.destination),
      packets.map((u) => u.kind),
      packets.map((u) => (u.head!.addressee === null ? null : storable(u.head!.addressee))),
      packets.map((u) => storable(u.summary)),
    ],
  );
}

const channelOf = ({ heard }: Understood): Channel => ({
  bearerId: heard.bearerId,
  importId: heard.importId,
  port: heard.port,
  frequencyHz: heard.frequencyHz ?? null,
});

async function insertReceptions(
  queries: Queries,
  stored: readonly Stored[],
  opensHere: readonly boolean[],
  recordedAt: Date,
): Promise<void> {
  const of = <T>(pick: (row: Stored, index: number) => T) => stored.map(pick);
  const channel = await channelIds(
    queries,
    of((s) => channelOf(s.understood)),
  );
  await queries.query(
    `insert into reception (id, packet_id, recorded_at, channel_id, opens, opens_here, form, raw, snr_db, rssi_dbm, error_at, error)
     select r.id, r.packet_id, $12, r.channel_id, r.opens, r.opens_here, r.form, r.raw, r.snr_db, r.rssi_dbm, r.error_at, r.error
     from unnest($1::bigint[], $2::bigint[], $3::int[], $4::boolean[], $5::boolean[], $6::text[], $7::bytea[], $8::float4[], $9::float4[],
                 $10::int[], $11::text[])
       as r (id, packet_id, channel_id, opens, opens_here, form, raw, snr_db, rssi_dbm, error_at, error)`,
    [
      of((s) => s.receptionId),
      of((s) => s.packetId),
      of((s) => channel(channelOf(s.understood))),
      of((s) => s.isNewPacket),
      opensHere,
      of((s) => s.understood.heard.form),
      of((s) => Buffer.from(s.understood.heard.raw)),
      of((s) => s.understood.heard.signal?.snrDb ?? null),
      of((s) => s.understood.heard.signal?.rssiDbm ?? null),
      of((s) => s.understood.error?.at ?? null),
      of((s) => (s.understood.error ? storable(s.understood.error.reason) : null)),
      recordedAt,
    ],
  );
}
