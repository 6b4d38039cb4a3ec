import { createHash } from 'node:crypto';
import type { DataSource } from 'typeorm';
import type { EvidenceKind } from '@tombolo/core';
import { addCustody } from '../store/custody';
import { rowsOf } from '../store/database';
import type { LegDetail } from '../store/entities';
import { addEvidence } from '../store/evidence';
import { appendEvents } from '../store/events';
import { failpoint } from '../store/failpoints';
import { recordIntent } from '../transmissions/intent';
import { renew } from '../transmissions/write';

/** A leg that waits to be left at a board or gateway. */
export interface WaitingLeg {
  readonly id: string;
  readonly item_id: string;
  readonly from_call: string;
  readonly to_call: string;
  readonly info: Buffer;
  readonly detail: LegDetail | null;
  readonly subject: string | null;
  readonly body: string;
  /** Tries that were cut off: whoever was to take it may have it already. */
  readonly interrupted: number;
}

export const waitingLegs = (source: DataSource, bearerId: string): Promise<WaitingLeg[]> =>
  rowsOf<WaitingLeg>(
    source,
    `select l.id, l.item_id, l.from_call, l.to_call, l.info, l.detail, i.subject, i.body,
       (select count(*)::int from evidence e where e.leg_id = l.id and e.kind = 'interrupted') as interrupted
     from leg l join item i on i.id = l.item_id
     where l.bearer_id = $1 and l.role = 'convey' and l.next_at is not null and l.held is null order by l.created_at`,
    [bearerId],
  );

/** Records the intent before anything is sent, as the outbox does: a station that stops in between leaves a true record. */
export async function beginAttempt(
  source: DataSource,
  bearerId: string,
  leg: WaitingLeg,
  at: Date,
  detail: Partial<LegDetail> = {},
): Promise<number> {
  const n = await source.transaction(async (manager) => {
    // Until there is an answer the leg is not taken up again by itself: nobody could tell a second copy from the first.
    await renew(manager, leg.id, null, detail);
    const [row] = await rowsOf<{ n: number }>(
      manager,
      'select coalesce(max(n), 0) + 1 as n from attempt where leg_id = $1',
      [leg.id],
    );
    await recordIntent(
      manager,
      { id: leg.id, itemId: leg.item_id, bearerId },
      {
        n: row!.n,
        at,
        frame: leg.info,
        identity: createHash('sha256').update(leg.id).digest().subarray(0, 16),
        tuned: null,
        note: 'about to be handed over in a session',
      },
    );
    return row!.n;
  });
  failpoint('session:intended');
  return n;
}

/** Records how an attempt ended, and whether it is tried again in the next session. */
export async function endAttempt(
  source: DataSource,
  bearerId: string,
  leg: WaitingLeg,
  attempt: number,
  end: {
    readonly kind: Extract<EvidenceKind, 'accepted' | 'refused' | 'interrupted' | 'not taken'>;
    readonly by: string | null;
    readonly raw: string | null;
    readonly packetId?: string | null;
    readonly note: string;
    readonly again: boolean;
    readonly detail?: Partial<LegDetail>;
  },
  at: Date,
): Promise<void> {
  failpoint('session:answered');
  await source.transaction(async (manager) => {
    await addEvidence(manager, {
      key: `${end.kind}:${leg.id}:${attempt}`,
      itemId: leg.item_id,
      legId: leg.id,
      attempt,
      kind: end.kind,
      at,
      bearer: bearerId,
      by: end.by,
      raw: end.raw,
      packetId: end.packetId ?? null,
      note: end.note,
    });
    if (end.kind === 'accepted')
      await addCustody(manager, {
        key: `passed:${leg.id}`,
        itemId: leg.item_id,
        what: 'passed',
        other: end.by ?? leg.to_call,
        at,
        by: leg.from_call,
        bearer: bearerId,
        note: end.note,
      });
    await renew(manager, leg.id, end.again ? at : null, end.detail ?? {});
    await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
  });
  failpoint('session:recorded');
}
