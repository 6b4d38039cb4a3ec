import { ownStation } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { addEvidence } from '../store/evidence';
import type { NewEvent } from '../store/events';
import { noteAnswer } from './own/answers';
import { keepBulletin } from './own/arrived';
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
  await noteRepeats(queries, echoes, touched);
  for (const row of stored) {
    const { information, packet } = row.understood;
    if (!row.isNewPacket || !information || !packet || packet.source === own) continue;
    if (information.kind === 'bulletin') await keepBulletin(queries, row, information, context.settings, touched);
    else if (own === null || !('addressee' in information) || information.addressee !== own) continue;
    else if (information.kind === 'message') await receive(queries, row, information, own, context, touched);
    else await noteAnswer(queries, row, information.kind, information.number, touched);
  }
  return [...touched].map((id) => ({ type: 'item', data: { id } }));
}

/** Our own packet heard from somebody else: it was repeated, or a gateway had it. */
async function noteRepeats(queries: Queries, echoes: readonly Stored[], touched: Set<string>): Promise<void> {
  for (const { understood, receptionId, packetId } of echoes) {
    const path = understood.path!;
    if (path.how === 'direct') continue;
    // Copies may be stamped a moment before the record of our own hand-over.
    const [attempt] = await rowsOf<{ leg_id: string; n: number; item_id: string; role: string }>(
      queries,
      `select a.leg_id, a.n, l.item_id, l.role from attempt a join leg l on l.id = a.leg_id
       where a.identity = $1 and a.intended_at <= $2 order by a.intended_at desc limit 1`,
      [understood.identity, new Date(understood.heard.heardAtMs + 2000)],
    );
    if (!attempt || attempt.role !== 'convey') continue;
    const by = path.how === 'internet' ? path.gate : (path.heardFrom ?? path.via.at(-1) ?? null);
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
      raw: understood.line,
      note: understood.words,
      packetId,
    });
    if (isNew) touched.add(attempt.item_id);
  }
}
