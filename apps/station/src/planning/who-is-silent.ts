import {
  aboutTime,
  beliefOf,
  burstsOf,
  carriedShare,
  FEWEST_HEARD,
  leavesAnHour,
  meanOf,
  rateWithoutZeros,
  returnsAnHour,
  stillThere,
  type Belief,
} from '@tombolo/core';
import { hoursOf, type LinkRow } from './link-rows';
import type { Habit } from './own-tries';

const HOUR_MS = 3_600_000;

export interface Silence {
  readonly chance: number;
  readonly words: string | null;
}
export const HERE: Silence = { chance: 1, words: null };
/** What was heard so much later came without it. */
const QUIET_MS = 60_000;
/** Less is not worth a word. */
const WORTH_A_WORD = 0.9;
/** What is only believed because nothing was heard counts for no more tries than this: the next packet changes it. */
const MOST_WHILE_SILENT = 4;

/** Hours, since 1970, in which somebody was heard by whomever heard it most, and how often. */
function hoursHeard(rows: readonly LinkRow[]): ReadonlyMap<number, number> {
  const hours = new Map<number, number>();
  for (const row of rows)
    for (const { atMs, heard, inferred } of hoursOf(row)) {
      const hour = Math.floor(atMs / HOUR_MS);
      const count = heard + inferred;
      if (count > 0) hours.set(hour, Math.max(count, hours.get(hour) ?? 0));
    }
  return hours;
}

/** What silence is judged by. */
export interface Listening {
  readonly own: string;
  readonly rows: readonly LinkRow[];
  /** Since when our receiver is known to work, ms; null when it does not. */
  readonly sinceMs: number | null;
  readonly nowMs: number;
  /** Hours, since 1970, in which we heard anybody. */
  readonly anyHeard: readonly number[];
}

const linksFrom = (call: string, rows: readonly LinkRow[]): LinkRow[] =>
  rows.filter((row) => row.from_call === call && row.count > 0);

/** How somebody comes and goes, by the hours of two days. */
const comesAndGoes = (hours: ReadonlyMap<number, number>, anyHeard: readonly number[]) => ({
  bursts: burstsOf(hours),
  leavesAnHour: leavesAnHour(hours, anyHeard),
  returnsAnHour: returnsAnHour(hours, anyHeard),
});

/** How steadily somebody is heard in the hours in which it is there, of two days; null where it was not heard. */
export function habitOf(call: string, { rows, anyHeard }: Pick<Listening, 'rows' | 'anyHeard'>): Habit {
  const hours = hoursHeard(linksFrom(call, rows));
  if (hours.size === 0) return null;
  const count = [...hours.values()].reduce((sum, one) => sum + one, 0);
  return { count, overS: (hours.size * HOUR_MS) / 1000, ...comesAndGoes(hours, anyHeard) };
}

/** How steadily somebody was heard in the last hours, by whomever heard it most; null where nothing of it was. */
function lately(call: string, rows: readonly LinkRow[]) {
  const links = linksFrom(call, rows);
  if (links.length === 0) return null;
  const lastMs = Math.max(...links.map(({ last_at }) => last_at.getTime()));
  const sinceHour = Math.floor(lastMs / HOUR_MS) - 2;
  // Of several who heard it the one that did so most: copies are one packet.
  const heard = links.map((row) => ({
    by: row.by_call,
    count: hoursOf(row).reduce(
      (sum, hour) => sum + (hour.atMs >= sinceHour * HOUR_MS ? hour.heard + hour.inferred : 0),
      0,
    ),
    overS: (lastMs - Math.max(row.first_at.getTime(), sinceHour * HOUR_MS)) / 1000,
  }));
  const most = heard.reduce((best, one) => (one.count > best.count ? one : best));
  return { ...most, lastMs, hours: hoursHeard(links) };
}

/** Of who is heard too seldom to tell by the last hours: how often in all hours of two days in which it was heard. */
function seldom(hours: ReadonlyMap<number, number>, { bursts }: ReturnType<typeof comesAndGoes>) {
  const all = [...hours.values()].reduce((sum, one) => sum + one, 0);
  const rate = rateWithoutZeros(all / hours.size);
  return { count: rate * hours.size, overS: (hours.size * HOUR_MS) / 1000, bursts: Math.max(1, bursts) };
}

/** Whether somebody is still there, by how steadily it was heard in the last hours. */
export function silenceOf(call: string, { own, rows, sinceMs, nowMs, anyHeard }: Listening): Silence {
  const habit = lately(call, rows);
  // Who does not listen cannot tell who is silent.
  if (habit === null || sinceMs === null) return HERE;
  const { lastMs, hours } = habit;
  const silentS = (nowMs - Math.max(lastMs, sinceMs)) / 1000;
  const carriedFor =
    habit.by === own
      ? 1
      : carriedShare({
          hours,
          carrier: hoursHeard(rows.filter(({ from_call }) => from_call === habit.by)),
          lastMs,
          nowMs,
          silentS,
        });
  const comings = comesAndGoes(hours, anyHeard);
  const isSteady = habit.count >= FEWEST_HEARD;
  const { count, overS, bursts } = isSteady ? { ...habit, ...comings } : seldom(hours, comings);
  const chance = stillThere({ ...comings, count, overS, bursts, silentS, listenedS: silentS * carriedFor });
  if (chance >= WORTH_A_WORD) return { chance, words: null };
  const others = rows.some((row) => row.count > 0 && row.last_at.getTime() > lastMs + QUIET_MS);
  return {
    chance,
    words: `${call} was heard ${isSteady ? '' : 'about '}every ${aboutTime(overS / count)}${isSteady ? '' : ' while it was there,'} and is silent for ${aboutTime(silentS)}: it may be off${others ? '' : ', or nothing is heard here any more'}.`,
  };
}

/** What is believed of a hop when one of its ends may be off. */
export function ifThere(belief: Belief, chance: number): Belief {
  if (chance >= 1) return belief;
  const strength = belief.alpha + belief.beta;
  return beliefOf(meanOf(belief) * chance, chance < WORTH_A_WORD ? Math.min(strength, MOST_WHILE_SILENT) : strength);
}
