import { readServiceWord, serviceAt, wrappedProperly, type Information } from '@tombolo/core';
import { rowsOf, type Queries } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { settle, settleItem } from '../../transmissions/write';
import type { Stored } from '../store-heard';
import { answeredTry } from './proof';

export type Message = Extract<Information, { kind: 'message' }>;
type Answer = Extract<Information, { kind: 'ack' | 'rej' }>;

interface OutgoingLeg {
  item_id: string;
  leg_id: string;
  attempt: number | null;
}

/** Over the air anybody can use any call: what a packet's source says is a claim. */
const underCall = (call: string) => `under the call ${call}`;

export async function noteAnswer(
  queries: Queries,
  row: Stored,
  kind: Answer['kind'],
  number: string,
  touched: Set<string>,
): Promise<void> {
  const { packet, heard, line, words, path } = row.understood;
  const from = packet!.source;
  const leg = await answeredTry(queries, row, { from, number });
  if (!leg) return;
  // A service that acknowledges has taken the text; the person behind it has not read it yet.
  const ladder = { ack: serviceAt(from) ? 'accepted' : 'delivered', rej: 'refused' } as const;
  await addEvidence(queries, {
    key: `${ladder[kind]}:${leg.leg_id}:${row.packetId}`,
    itemId: leg.item_id,
    legId: leg.leg_id,
    attempt: leg.attempt,
    kind: ladder[kind],
    at: new Date(heard.heardAtMs),
    bearer: heard.bearerId,
    by: from,
    via: path!.via,
    raw: line,
    note:
      kind === 'rej'
        ? `the station answered that it cannot take the message, ${underCall(from)}`
        : `${words}, ${underCall(from)}`,
    packetId: row.packetId,
  });
  await settle(queries, leg.leg_id);
  await settleItem(queries, leg.item_id, true);
  touched.add(leg.item_id);
}

/** An answer from a phone or a mailbox may take a day. (Common practice, no source.) */
const ANSWER_WINDOW_MS = 24 * 3600_000;

/**
 * What a gateway service says about a text that went through it: taken further, refused, or the far side's answer.
 * Gives the item that is answered.
 */
export async function noteServiceWord(
  queries: Queries,
  row: Stored,
  message: Message,
  touched: Set<string>,
): Promise<{ answers: string | null; settled: boolean }> {
  const { packet, outer, heard, line, path } = row.understood;
  const service = wrappedProperly(outer!) ? serviceAt(packet!.source) : undefined;
  const word = service ? readServiceWord(service, message.text) : null;
  if (!service || !word) return { answers: null, settled: false };
  const far = word.kind === 'answer' ? word.from : word.kind === 'accepted' ? word.to : null;
  const [leg] = await rowsOf<OutgoingLeg>(
    queries,
    `select l.item_id, l.id as leg_id, a.n as attempt from leg l join attempt a on a.leg_id = l.id
     where l.role = 'convey' and l.to_call = $1 and a.intended_at > $3 and a.intended_at <= $4
       and ($2::text is null or l.detail->'relay'->>'far' = $2 or l.detail is null)
     order by l.created_at desc, a.intended_at desc limit 1`,
    [service.address, far, new Date(heard.heardAtMs - ANSWER_WINDOW_MS), new Date(heard.heardAtMs)],
  );
  if (!leg) return { answers: null, settled: false };
  const kind = word.kind === 'answer' ? 'answered' : word.kind === 'accepted' ? 'handed on' : 'refused';
  await addEvidence(queries, {
    key: `${kind}:${leg.leg_id}:${row.packetId}`,
    itemId: leg.item_id,
    legId: leg.leg_id,
    attempt: leg.attempt,
    kind,
    at: new Date(heard.heardAtMs),
    bearer: heard.bearerId,
    by: word.kind === 'answer' ? word.from : service.address,
    via: path!.via,
    raw: line,
    note: `${message.text} (said ${underCall(service.address)})`,
    packetId: row.packetId,
  });
  await settle(queries, leg.leg_id);
  touched.add(leg.item_id);
  return { answers: word.kind === 'answer' ? leg.item_id : null, settled: word.kind !== 'answer' };
}
