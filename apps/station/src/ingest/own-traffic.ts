import { ownStation } from '@tombolo/contract';
import { asText, COPY_WINDOW_MS, type HeardPath, type PathHop } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import { addEvidence } from '../store/evidence';
import { firstIdAt, lastIdAt, msOfId } from '../store/moments';
import type { NewEvent } from '../store/events';
import { createKnownBulletins } from '../bulletins/known';
import { noteAnswer } from './own/answers';
import { answerAll } from './own/answer-all';
import { bulletinSaid, keepBulletin } from './own/arrived';
import { everSent, PROOF_WINDOW_MS } from './own/proof';
import { receive, type OwnTrafficContext } from './own/receive';
import type { Stored } from './store-heard';

export type { OwnTrafficContext };

/**
 * What stored receptions mean for our own items: our packets heard repeated, answers to them, messages and
 * bulletins to us. Recordings prove things as of their own time; they never make us transmit.
 */
export async function applyToOwnTraffic(
  queries: Queries,
  stored: readonly Stored[],
  context: OwnTrafficContext,
): Promise<NewEvent[]> {
  const own = ownStation(context.settings);
  const touched = new Set<string>();
  const echoes = stored.filter((row) => own !== null && row.understood.packet?.source === own);
  const byThemselves = await noteRepeats(queries, echoes, touched);
  const bulletins = createKnownBulletins();
  await bulletins.read(
    queries,
    stored.flatMap((row) => (row.isNewPacket ? (bulletinSaid(row) ?? []) : [])),
  );
  for (const row of stored) {
    const { information, packet } = row.understood;
    if (!information || !packet || packet.source === own) continue;
    if (!row.isNewPacket && !(await isSendersRetry(queries, row))) continue;
    if (information.kind === 'query') {
      if (own !== null && row.isNewPacket)
        byThemselves.push(...(await answerAll(queries, row, information, own, context)));
    } else if (information.kind === 'bulletin') await keepBulletin(queries, row, context.settings, bulletins, touched);
    else if (own === null || !('addressee' in information) || information.addressee !== own) continue;
    else if (information.kind === 'message') await receive(queries, row, information, own, context, touched);
    else if (await everSent(queries, { from: packet.source, number: information.number }))
      await noteAnswer(queries, row, information.kind, information.number, touched);
    // “reject” and “rejoin” read like answers to numbers: what nothing was sent for is a text.
    else await receive(queries, row, asText(information), own, context, touched);
  }
  await bulletins.write(queries);
  return [...[...touched].map((id): NewEvent => ({ type: 'item', data: { id } })), ...byThemselves];
}

/** Copies over digipeaters follow within a few seconds. (Common practice, no source.) */
const RETRY_AFTER_MS = 8000;

/**
 * A sender's own retry inside the window in which copies are joined: the same transmission, by the same road, comes again although
 * digipeaters would have dropped it. It is answered again; nothing else is done with it.
 */
async function isSendersRetry(queries: Queries, { understood, packetId, receptionId }: Stored): Promise<boolean> {
  const { information, heard, path } = understood;
  if (information?.kind !== 'message' || information.number === null || heard.importId !== null) return false;
  if (path?.how !== 'direct') return false;
  // The last one by the same road, found by the index however many copies there are.
  const [before] = await rowsOf<{ id: string }>(
    queries,
    `select r.id from reception r join channel c on c.id = r.channel_id
     where r.packet_id = $1 and r.id between $2 and $3 and r.id <> $4 and c.bearer_id = $5 and r.raw = $6
     order by r.id desc limit 1`,
    [
      packetId,
      firstIdAt(heard.heardAtMs - COPY_WINDOW_MS),
      lastIdAt(heard.heardAtMs),
      receptionId,
      heard.bearerId,
      Buffer.from(heard.raw),
    ],
  );
  return before !== undefined && heard.heardAtMs - msOfId(before.id) >= RETRY_AFTER_MS;
}

/** Our packet with fewer hops left than we gave it, and no other mark: somebody repeated it who does not sign. */
function hopsTold(path: HeardPath, sent: readonly string[]): readonly PathHop[] {
  if (path.how !== 'direct') return path.hops;
  return path.unused.join() === sent.join() ? [] : [{ call: null, certain: true }];
}

/** Our own packet heard from somebody else: it was repeated, or a gateway had it. Gives which of those without an item it concerns. */
async function noteRepeats(queries: Queries, echoes: readonly Stored[], touched: Set<string>): Promise<NewEvent[]> {
  const byThemselves: NewEvent[] = [];
  for (const { understood, receptionId, packetId } of echoes) {
    const path = understood.path!;
    // Copies may be stamped a moment before the record of our own hand-over.
    const [attempt] = await rowsOf<{ leg_id: string; n: number; item_id: string | null; role: string; path: string[] }>(
      queries,
      `select a.leg_id, a.n, l.item_id, l.role, l.path from attempt a join leg l on l.id = a.leg_id
       where a.identity = $1 and a.intended_at <= $2 and a.intended_at > $3 order by a.intended_at desc limit 1`,
      [
        understood.identity,
        new Date(understood.heard.heardAtMs + 2000),
        new Date(understood.heard.heardAtMs - PROOF_WINDOW_MS),
      ],
    );
    if (!attempt || (attempt.item_id !== null && attempt.role !== 'convey')) continue;
    const hops = hopsTold(path, attempt.path);
    if (hops.length === 0 && path.how !== 'internet') continue;
    const by =
      path.how === 'internet'
        ? path.gate
        : ((path.heardFromCertain ? path.heardFrom : null) ?? path.via.at(-1) ?? null);
    const isNew = await addEvidence(queries, {
      key: `relayed:${receptionId}`,
      itemId: attempt.item_id,
      legId: attempt.leg_id,
      attempt: attempt.n,
      kind: 'relayed',
      at: new Date(understood.heard.heardAtMs),
      bearer: understood.heard.bearerId,
      by,
      via: path.via,
      road: { how: path.how, hops, open: path.unused, gate: path.gate },
      raw: understood.line,
      note: understood.words,
      packetId,
    });
    if (isNew && attempt.item_id !== null) touched.add(attempt.item_id);
    else if (isNew) byThemselves.push({ type: 'transmission', data: { id: attempt.leg_id } });
  }
  return byThemselves;
}
