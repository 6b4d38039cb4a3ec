import { counted } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { appendEvents, transmissionChanged } from '../store/events';
import { addEvidence } from '../store/evidence';
import type { DueLeg } from './due';
import { release } from './write';

/** What every record of a transmission, or of one try of it, names. */
export const evidenceOfLeg = <T extends object>(leg: DueLeg, attempt: number | null, more: T) => ({
  itemId: leg.item_id,
  legId: leg.id,
  attempt,
  bearer: leg.bearer_id,
  ...more,
});

/** When to look at it again: when it is due, or when its deadline passes. */
export const atTheLatest = ({ policy: { until } }: DueLeg, dueAt: Date): Date =>
  until && Date.parse(until) < dueAt.getTime() ? new Date(until) : dueAt;

/** What can never go out as it is: its record says why, and nothing more is tried. */
export async function cannotGo(manager: EntityManager, leg: DueLeg, reason: string, at: Date): Promise<void> {
  await addEvidence(
    manager,
    evidenceOfLeg(leg, null, {
      key: `unsendable:${leg.id}`,
      kind: 'refused',
      at,
      by: 'this station',
      note: reason,
    }),
  );
  await release(manager, leg.id, null);
  await appendEvents(manager, [transmissionChanged(leg)], at);
}

/** Its deadline passed: no further try is begun. */
export async function letPass(manager: EntityManager, leg: DueLeg, until: string, went: number, at: Date) {
  await addEvidence(
    manager,
    evidenceOfLeg(leg, null, {
      key: `overdue:${leg.id}`,
      kind: 'overdue',
      at,
      note: `it was to go out until ${until.slice(0, 16)}Z; ${counted(went, 'try', 'tries')} went out before`,
    }),
  );
  await release(manager, leg.id, null);
  await appendEvents(manager, [transmissionChanged(leg)], at);
}

/** Nothing more is tried: the tries are used up, or the equipment takes nothing. */
export async function giveUp(
  manager: EntityManager,
  leg: DueLeg,
  { handedOver, went, notTaken }: { handedOver: number; went: number; notTaken: number },
  at: Date,
) {
  const tries = counted(handedOver, 'try', 'tries');
  if (leg.acknowledgement_asked || went === 0)
    await addEvidence(
      manager,
      evidenceOfLeg(leg, null, {
        key: `expired:${leg.id}`,
        kind: 'expired',
        at,
        note:
          handedOver === 0
            ? `the equipment could not take it ${notTaken} times`
            : went === 0
              ? `${tries}, of none of which it is known whether it went out`
              : `${tries}, no acknowledgement`,
      }),
    );
  await release(manager, leg.id, null);
  await appendEvents(manager, [transmissionChanged(leg)], at);
}
