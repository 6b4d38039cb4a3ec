import { AIR_WINDOW_MS, fitsAirBudget, type AirBudget, type Spent } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { rowsOf, type Queries } from '../store/database';
import { AIR_TIME_LOCK } from '../store/locks';

/** What automatic air time is spent on. */
export type AutomaticUse = 'acknowledge' | 'reject' | 'answer' | 'connection';

export interface Spending {
  /** Modem port and frequency. */
  readonly channel: string;
  readonly ms: number;
  readonly what: AutomaticUse;
  /** The station that asked, as it calls itself. */
  readonly askedBy: string;
}

export const budgetOf = (settings: Pick<Settings, 'automaticAirS' | 'automaticAirPerStationS'>): AirBudget => ({
  windowMs: AIR_WINDOW_MS,
  channelMs: settings.automaticAirS * 1000,
  stationMs: settings.automaticAirPerStationS * 1000,
});

/** What was spent on a channel inside the window; what a clock that was set back left in the future counts as well. */
export async function spentOn(queries: Queries, channel: string, nowMs: number): Promise<Spent[]> {
  const rows = await rowsOf<{ at: Date; ms: number; asked_by: string }>(
    queries,
    'select at, ms, asked_by from air_time where channel = $1 and at > $2',
    [channel, new Date(nowMs - AIR_WINDOW_MS)],
  );
  return rows.map((row) => ({ atMs: row.at.getTime(), ms: row.ms, askedBy: row.asked_by }));
}

/**
 * Takes air time from the account, in the caller's transaction: it is spent before the frame goes out, so that a process that is killed
 * in between has spent too much rather than too little. False when it does not fit.
 */
export async function spendAirTime(
  queries: Queries,
  spending: Spending,
  budget: AirBudget,
  nowMs: number,
): Promise<boolean> {
  await queries.query('select pg_advisory_xact_lock($1)', [AIR_TIME_LOCK]);
  const wanted = { ...spending, ms: Math.ceil(spending.ms) };
  if (!fitsAirBudget(await spentOn(queries, spending.channel, nowMs), budget, wanted, nowMs)) return false;
  await queries.query('insert into air_time (channel, at, ms, what, asked_by) values ($1,$2,$3,$4,$5)', [
    spending.channel,
    new Date(nowMs),
    wanted.ms,
    spending.what,
    spending.askedBy,
  ]);
  return true;
}

/** What lies behind the window tells nobody anything any more; the attempts are the record. */
export const pruneAirTime = (queries: Queries, nowMs: number): Promise<unknown> =>
  queries.query('delete from air_time where at < $1', [new Date(nowMs - 24 * 3600_000)]);

export interface RefusalAccount {
  /** Whether a refusal for this station may go out; what does not fit is counted. */
  allow(spending: Omit<Spending, 'what'>): Promise<boolean>;
  leftOut(): number;
}

/** More questions than this at once are not even looked at. */
const MOST_ASKING = 4;

/**
 * For refusals of connections, which whoever is on the air can ask for as fast as he likes: what the account certainly refuses is
 * refused without asking the database.
 */
export function createRefusals(context: {
  readonly database: DataSource;
  readonly settings: () => Settings | null;
  readonly now: () => number;
}): RefusalAccount {
  let leftOut = 0;
  let asking = 0;
  /** Until when an account is known to be empty, by channel and by station on it. */
  const emptyUntil = new Map<string, number>();
  return {
    async allow(spending) {
      const settings = context.settings();
      const now = context.now();
      const keys = [spending.channel, `${spending.channel}/${spending.askedBy}`];
      const refused = () => {
        leftOut++;
        return false;
      };
      if (settings === null || asking >= MOST_ASKING || keys.some((key) => (emptyUntil.get(key) ?? 0) > now))
        return refused();
      asking++;
      try {
        const fits = await context.database.transaction((manager) =>
          spendAirTime(manager, { ...spending, what: 'connection' }, budgetOf(settings), now),
        );
        if (fits) return true;
        if (emptyUntil.size > 1000) emptyUntil.clear();
        emptyUntil.set(keys[1]!, now + 5000);
        return refused();
      } catch {
        // Without the account nothing is spent.
        return refused();
      } finally {
        asking--;
      }
    },
    leftOut: () => leftOut,
  };
}
