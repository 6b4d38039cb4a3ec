import { ownStation, type RepeatingNow, type Settings } from '@tombolo/contract';
import { fillInAdvice } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { listLinks } from '../heard/links';
import { rowsOf } from '../store/database';
import { BearerEntity } from '../store/entities';
import { whyStopped } from '../transmissions/stopped';

const HOUR_MS = 3_600_000;
/** Who was heard directly so lately counts for the advice. */
const ADVICE_MS = 24 * HOUR_MS;

/** Whether we repeat for others, how much, and whether it helps anybody. */
export async function repeatingState(database: DataSource, settings: Settings, nowMs: number): Promise<RepeatingNow> {
  const since = new Date(nowMs - HOUR_MS);
  const [counts] = await rowsOf<{ repeated: number; left: number }>(
    database,
    `select count(*) filter (where e.kind = 'sent')::int as repeated, count(*) filter (where e.kind = 'left out')::int as left
     from leg l join evidence e on e.leg_id = l.id
     where l.item_id is null and l.detail ? 'repeats' and l.created_at > $1 and e.kind in ('sent', 'left out')`,
    [since],
  );
  return {
    repeating: settings.repeating,
    stopped:
      settings.repeating &&
      whyStopped(await database.getRepository(BearerEntity).findOneBy({ id: settings.repeating.bearerId }), settings),
    repeatedLastHour: counts?.repeated ?? 0,
    leftLastHour: counts?.left ?? 0,
    advice: await advice(database, ownStation(settings) ?? '', nowMs),
  };
}

/** Stations heard without a digipeater lately, those left out that repeat themselves. */
async function advice(database: DataSource, own: string, nowMs: number) {
  const direct = await rowsOf<{ call: string }>(
    database,
    `select call from station where (state->>'directAtMs')::float8 > $1 and state->>'kind' = 'station'
       and coalesce((state->>'relaysAtMs')::float8, 0) < $1 limit 500`,
    [nowMs - ADVICE_MS],
  );
  const recent = (await listLinks(database)).filter(({ lastAt }) => Date.parse(lastAt) > nowMs - ADVICE_MS);
  return fillInAdvice(
    direct.map(({ call }) => call),
    recent,
    own,
  );
}
