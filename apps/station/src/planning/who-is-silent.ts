import { aboutTime, beliefOf, meanOf, stillThere, type Belief } from '@tombolo/core';
import { hoursOf, type LinkRow } from './link-rows';

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

/** Whether somebody is still there, by how steadily it was heard in the last hours. */
export function silenceOf(
  call: string,
  rows: readonly LinkRow[],
  listeningSinceMs: number | null,
  nowMs: number,
): Silence {
  const own = rows.filter((row) => row.from_call === call && row.count > 0);
  // Who does not listen cannot tell who is silent.
  if (own.length === 0 || listeningSinceMs === null) return HERE;
  const lastMs = Math.max(...own.map(({ last_at }) => last_at.getTime()));
  const sinceHour = Math.floor(lastMs / HOUR_MS) - 2;
  // Of several who heard it the one that did so most: copies are one packet.
  const heard = own.map((row) => ({
    count: hoursOf(row).reduce(
      (sum, hour) => sum + (hour.atMs >= sinceHour * HOUR_MS ? hour.heard + hour.inferred : 0),
      0,
    ),
    overS: (lastMs - Math.max(row.first_at.getTime(), sinceHour * HOUR_MS)) / 1000,
  }));
  const most = heard.reduce((best, one) => (one.count > best.count ? one : best));
  const silentS = (nowMs - Math.max(lastMs, listeningSinceMs)) / 1000;
  const chance = stillThere({ ...most, silentS });
  if (chance >= WORTH_A_WORD) return { chance, words: null };
  const others = rows.some((row) => row.count > 0 && row.last_at.getTime() > lastMs + QUIET_MS);
  return {
    chance,
    words: `${call} was heard every ${aboutTime(most.overS / most.count)} and is silent for ${aboutTime(silentS)}: it may be off${others ? '' : ', or nothing is heard here any more'}.`,
  };
}

/** What is believed of a hop when one of its ends may be off. */
export function ifThere(belief: Belief, chance: number): Belief {
  if (chance >= 1) return belief;
  return beliefOf(meanOf(belief) * chance, Math.min(belief.alpha + belief.beta, MOST_WHILE_SILENT));
}
