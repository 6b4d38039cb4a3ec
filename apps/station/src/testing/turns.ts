import { DEFAULT_RETRY } from '@tombolo/core';
import type { DataSource, EntityManager } from 'typeorm';
import { addEvidence } from '../store/evidence';
import { queueByItself, settle } from '../transmissions/write';
import { eventually, RADIO, type WithModem } from './harness';

/** Until a statement of that database waits for a row that another transaction holds. */
export const blocked = (database: DataSource): Promise<unknown> =>
  eventually(async () => {
    const waits = await database.query<unknown[]>(
      `select 1 from pg_stat_activity where wait_event_type = 'Lock' and query like '%for update' and datname = current_database()`,
    );
    return waits.length > 0;
  });

/** What another turn queued for `detail`, and what went out already: it waits no longer. */
export async function wentOutMeanwhile(manager: EntityManager, detail: object | undefined, at: Date): Promise<void> {
  const own = 'QT2AR-7';
  const legId = await queueByItself(
    manager,
    {
      role: 'convey',
      bearerId: RADIO,
      fromCall: own,
      toCall: 'everybody',
      policy: DEFAULT_RETRY,
      ...(detail && { detail }),
    },
    { at, dueAt: at, by: own, note: 'of the other turn' },
  );
  await addEvidence(manager, {
    key: `sent:${legId}`,
    itemId: null,
    legId,
    kind: 'sent',
    at,
    bearer: RADIO,
    by: own,
    note: '',
  });
  await settle(manager, legId);
}

/** Until so many went out, and all of it is on record: before that the next is not due. */
export const wentOut = ({ modem, station, lines }: WithModem, n: number): Promise<unknown> =>
  eventually(async () => {
    if (modem.sent.length !== n) return false;
    const [row] = await station.context.database.query<[{ waiting: number }]>(
      'select count(*)::int as waiting from leg where next_at is not null',
    );
    return row.waiting === 0;
  }, 20).catch((error: unknown) => {
    // What did go out says more than that it was not so many.
    expect(lines()).toHaveLength(n);
    throw error;
  });
