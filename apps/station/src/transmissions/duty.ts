import { DUTY_WINDOW_MS, dutyFreeAtMs, type AirSpent, type DutyRule } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import { AIR_TIME_LOCK } from '../store/locks';

/** Whether we gave it the packet, or it was on the air by itself. */
export type DutyCause = 'own' | 'node';

export interface DutySpending {
  readonly bearerId: string;
  readonly subBand: string;
  /** Which packet: the same given again is transmitted once, and costs once. */
  readonly packet: string;
  readonly ms: number;
  readonly cause: DutyCause;
  /** It may go out so much later than it is given: it must not leave the hour before it does. */
  readonly waitsMs?: number;
}

/** What a bearer's transmitter spent in a sub-band within the sliding hour. */
export async function dutySpent(
  queries: Queries,
  bearerId: string,
  subBand: string,
  nowMs: number,
): Promise<AirSpent[]> {
  const rows = await rowsOf<{ at: Date; ms: number }>(
    queries,
    'select at, ms from duty_air where bearer_id = $1 and sub_band = $2 and at > $3',
    [bearerId, subBand, new Date(nowMs - DUTY_WINDOW_MS)],
  );
  return rows.map((row) => ({ atMs: row.at.getTime(), ms: row.ms }));
}

/** What went out is counted, whether it fits or not. */
export async function noteDuty(queries: Queries, spending: DutySpending, atMs: number): Promise<void> {
  await queries.query(
    `insert into duty_air (bearer_id, sub_band, packet, at, ms, cause) values ($1,$2,$3,$4,$5,$6)
     on conflict (bearer_id, packet, cause) do update set at = greatest(duty_air.at, excluded.at), ms = excluded.ms, sub_band = excluded.sub_band`,
    [spending.bearerId, spending.subBand, spending.packet, new Date(atMs), Math.ceil(spending.ms), spending.cause],
  );
}

/**
 * Takes air time of the hour in the caller's transaction, before the frame goes out: a process that is killed in between has spent too much
 * rather than too little. Gives when it fits: `nowMs` when it was taken, later when enough has left the hour, null when never.
 */
export async function spendDuty(
  queries: Queries,
  rule: DutyRule,
  spending: DutySpending,
  nowMs: number,
): Promise<number | null> {
  await queries.query('select pg_advisory_xact_lock($1)', [AIR_TIME_LOCK]);
  const again = await rowsOf(
    queries,
    'select 1 from duty_air where bearer_id = $1 and packet = $2 and cause = $3 and at > $4',
    [spending.bearerId, spending.packet, spending.cause, new Date(nowMs - DUTY_WINDOW_MS)],
  );
  if (again.length > 0) return nowMs;
  const spent = await dutySpent(queries, spending.bearerId, spending.subBand, nowMs);
  const freeAtMs = dutyFreeAtMs(spent, rule, Math.ceil(spending.ms), nowMs);
  if (freeAtMs === nowMs) await noteDuty(queries, spending, nowMs + (spending.waitsMs ?? 0));
  return freeAtMs;
}

/** What left the hour long ago tells nobody anything any more. */
export const pruneDuty = (queries: Queries, nowMs: number): Promise<unknown> =>
  queries.query('delete from duty_air where at < $1', [new Date(nowMs - 24 * DUTY_WINDOW_MS)]);
