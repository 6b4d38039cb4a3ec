import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { addEvidence } from '../store/evidence';
import { appendEvents, type NewEvent } from '../store/events';
import { renew } from '../transmissions/write';

/** What a session that was cut off is called. */
export const CUT_OFF_STAGE = 'the station stopped during this session';

/**
 * Sessions whose process was killed: their record is closed, and what they were handing over waits again – openly, as something that the
 * other side may already have. `hold` gives the place of a session to this process where nobody else has it: then nobody runs one.
 */
export async function closeCutOff(
  source: DataSource,
  hold: (bearerId: string) => Promise<boolean>,
  free: (bearerId: string) => Promise<void>,
  now: () => Date,
): Promise<number> {
  const open = await rowsOf<{ bearer_id: string }>(
    source,
    `select distinct bearer_id from session_run where ended_at is null
     union
     select distinct l.bearer_id from attempt a join leg l on l.id = a.leg_id join bearer b on b.id = l.bearer_id
     where (b.config ? 'over') and l.next_at is null and l.role = 'convey' and ${OPEN_ATTEMPT}`,
    [],
  );
  let closed = 0;
  for (const { bearer_id: bearerId } of open) {
    if (!(await hold(bearerId))) continue;
    try {
      closed += await closeCutOffOn(source, bearerId, now());
    } finally {
      await free(bearerId);
    }
  }
  return closed;
}

const OPEN_ATTEMPT = `not exists (select 1 from evidence e where e.leg_id = a.leg_id and e.attempt = a.n
  and e.kind in ('sent', 'interrupted', 'not taken', 'accepted', 'refused', 'acknowledged', 'rejected'))`;

/** The same of one bearer, by whoever has its place. Gives how many sessions and tries were closed. */
export async function closeCutOffOn(source: DataSource, bearerId: string, at: Date): Promise<number> {
  return source.transaction(async (manager) => {
    const sessions = await rowsOf<{ id: string }>(
      manager,
      `select id from session_run where bearer_id = $1 and ended_at is null for update`,
      [bearerId],
    );
    for (const { id } of sessions)
      await manager.query('update session_run set ended_at = $2, stage = $3, problem = $4 where id = $1', [
        id,
        at,
        CUT_OFF_STAGE,
        'It was cut off. What was done before is kept; what was being handed over waits, and may already have been taken.',
      ]);
    const attempts = await rowsOf<{ leg_id: string; n: number; item_id: string }>(
      manager,
      `select a.leg_id, a.n, l.item_id from attempt a join leg l on l.id = a.leg_id
       where l.bearer_id = $1 and l.role = 'convey' and ${OPEN_ATTEMPT} order by a.leg_id, a.n`,
      [bearerId],
    );
    for (const attempt of attempts) {
      await addEvidence(manager, {
        key: `interrupted:${attempt.leg_id}:${attempt.n}`,
        itemId: attempt.item_id,
        legId: attempt.leg_id,
        attempt: attempt.n,
        kind: 'interrupted',
        at,
        bearer: bearerId,
        note: 'the station stopped while handing it over: it may already have been taken; the next session finds out, or gives it again as the same message',
      });
      await renew(manager, attempt.leg_id, at, {});
    }
    const events: NewEvent[] = [
      ...sessions.map(({ id }): NewEvent => ({ type: 'session', data: { id, bearerId } })),
      ...[...new Set(attempts.map(({ item_id }) => item_id))].map((id): NewEvent => ({ type: 'item', data: { id } })),
    ];
    await appendEvents(manager, events, at);
    return attempts.length + sessions.length;
  });
}
