import type { KeptView, Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { archivedMonths, archiveMonth } from './archive';
import { firstKept, makeMonthsAhead, storedMonths } from './months';

export interface RetentionContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  /** Where months go before they are dropped; null where there is no place for them. */
  readonly archive: string | null;
}

/**
 * Makes the partitions of the months ahead, and drops those that the operator does not keep: each is written to the archive first. What
 * evidence, items and alarms cite stays in any case. A month that could not be archived stays.
 */
export async function keepMonths(
  { database, settings, archive }: RetentionContext,
  now: Date,
  stopping: () => boolean,
): Promise<string | undefined> {
  await makeMonthsAhead(database, now);
  const first = firstKept((await settings()).keepHeardMonths, now);
  if (first === null) return undefined;
  const { months } = await storedMonths(database);
  const done: string[] = [];
  for (const { month } of months.filter((one) => one.month < first).reverse()) {
    if (stopping()) break;
    if (archive === null) return `${month} stays: there is no folder for the archive`;
    const count = await archiveMonth(database, archive, month);
    await database.query('select drop_month($1::date, $2)', [`${month}-01`, count]);
    done.push(`${month} archived (${count} receptions) and dropped`);
  }
  return done.length === 0 ? undefined : done.join('; ');
}

/** What is kept, what goes next, and what that frees. */
export async function keptView({ database, settings, archive }: RetentionContext, now: Date): Promise<KeptView> {
  const { keepHeardMonths } = await settings();
  const first = firstKept(keepHeardMonths, now);
  const { months, restOctets } = await storedMonths(database);
  const [remake] = await rowsOf<{ done: number }>(database, 'select done from remake');
  const [last] = await rowsOf<{ outcome: string | null; ended_at: Date }>(
    database,
    `select outcome, ended_at from job where kind = 'months' and outcome is not null order by due_at desc limit 1`,
  );
  return {
    keepHeardMonths,
    months: months
      .filter(({ packets, month }) => packets > 0 || month <= now.toISOString().slice(0, 7))
      .map((month) => ({ ...month, goes: first !== null && month.month < first })),
    restOctets,
    archive: archive === null ? null : await archivedMonths(archive),
    remaking: remake ? { done: remake.done } : null,
    lastTurn: last ? { at: last.ended_at.toISOString(), words: last.outcome ?? '' } : null,
  };
}
