import { rowsOf, type Queries } from '../store/database';

const MONTH = /^\d{4}-\d\d$/;

/** `2026-11` of a time, in UTC. */
export const monthOf = (at: Date): string => at.toISOString().slice(0, 7);

/** So many months on, or back. */
export function monthAfter(month: string, by: number): string {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return monthOf(new Date(Date.UTC(year, number - 1 + by, 1)));
}

/** When a month begins. */
export const startOf = (month: string): Date => new Date(`${month}-01T00:00:00.000Z`);

/** Partitions of this month and of the two that follow: what comes in never waits for one. */
export async function makeMonthsAhead(queries: Queries, now: Date): Promise<void> {
  const present = monthOf(now);
  for (const month of [present, monthAfter(present, 1), monthAfter(present, 2)])
    await queries.query('select make_month($1::date)', [`${month}-01`]);
}

export interface StoredMonth {
  readonly month: string;
  /** Of the disk, with indexes and with what hangs on it. */
  readonly octets: number;
  /** As the database reckons, without counting. */
  readonly packets: number;
}

/** Every month that has partitions of its own, the latest first, and the rest. */
export async function storedMonths(queries: Queries): Promise<{ months: StoredMonth[]; restOctets: number }> {
  const rows = await rowsOf<{ month: string | null; octets: string; packets: string }>(
    queries,
    `select replace(substring(c.relname from '_(\\d{4}_\\d\\d)$'), '_', '-') as month, sum(pg_total_relation_size(c.oid)) as octets,
       coalesce(sum(greatest(c.reltuples, 0)) filter (where c.relname like 'packet\\_%'), 0)::bigint as packets
     from pg_class c join pg_namespace n on n.oid = c.relnamespace
     where n.nspname = 'months' and c.relkind = 'r' group by 1 order by 1 desc`,
  );
  return {
    months: rows.flatMap(({ month, octets, packets }) =>
      month !== null && MONTH.test(month) ? [{ month, octets: Number(octets), packets: Number(packets) }] : [],
    ),
    restOctets: Number(rows.find(({ month }) => month === null)?.octets ?? 0),
  };
}

/** The first month that is kept; null when all are. */
export const firstKept = (keepMonths: number | null, now: Date): string | null =>
  keepMonths === null ? null : monthAfter(monthOf(now), -keepMonths);
