import type { Queries } from '../store/database';
import type { ItemRow, LegDetail, LegRow } from '../store/entities';
import { addEvidence } from '../store/evidence';
import { appendEvents } from '../store/events';
import { failpoint } from '../store/failpoints';
import { queueTransmission } from './write';

/** Puts a transmission of an item in the queue, with the record of it. */
export async function queueLeg(
  manager: Queries,
  item: Pick<ItemRow, 'id' | 'sender' | 'addressee' | 'acknowledgementAsked'>,
  leg: Pick<LegRow, 'bearerId' | 'path' | 'info' | 'policy'> & {
    detail?: LegDetail | null;
    note?: string;
    id?: string;
    /** At once where nothing is said. */
    dueAt?: Date;
  },
  at: Date,
): Promise<string> {
  // Without an acknowledgement nothing could stop further tries: one is all.
  const policy = item.acknowledgementAsked ? leg.policy : { ...leg.policy, tries: 1 };
  const id = await queueTransmission(
    manager,
    {
      id: leg.id,
      itemId: item.id,
      role: 'convey',
      bearerId: leg.bearerId,
      fromCall: item.sender,
      toCall: item.addressee,
      path: leg.path,
      info: leg.info,
      acknowledgementAsked: item.acknowledgementAsked,
      policy,
      detail: leg.detail ?? null,
    },
    at,
    leg.dueAt,
  );
  failpoint('queue:written');
  await addEvidence(manager, {
    key: `queued:${id}`,
    itemId: item.id,
    legId: id,
    kind: 'queued',
    at,
    bearer: leg.bearerId,
    by: item.sender,
    note: leg.note ?? (leg.path.length > 0 ? `path ${leg.path.join(',')}` : 'no digipeater'),
  });
  await appendEvents(manager, [{ type: 'item', data: { id: item.id } }], at);
  return id;
}
