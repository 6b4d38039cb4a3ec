/** As many equal shares of what arrives are told apart. */
export const SHARES = 16;

/**
 * When something arrives, if at all: `chance` that it ever does, and of that the mean time of each sixteenth, s, ascending; empty when it
 * never does. Taking means keeps the expected time exact.
 */
export interface Arrival {
  readonly chance: number;
  readonly atS: readonly number[];
}

/** A time and how likely it is. */
export interface Moment {
  readonly atS: number;
  readonly chance: number;
}

export const NEVER: Arrival = { chance: 0, atS: [] };

/** Arrivals from moments in any order; chances add up to what arrives. */
export function arrivalOf(moments: readonly Moment[]): Arrival {
  const sorted = moments.filter(({ chance }) => chance > 0).sort((a, b) => a.atS - b.atS);
  const chance = sorted.reduce((sum, moment) => sum + moment.chance, 0);
  if (!(chance > 0)) return NEVER;
  const share = chance / SHARES;
  const atS: number[] = [];
  let room = share;
  let sum = 0;
  for (const moment of sorted) {
    let left = moment.chance;
    while (left >= room && atS.length < SHARES - 1) {
      atS.push((sum + moment.atS * room) / share);
      left -= room;
      room = share;
      sum = 0;
    }
    sum += moment.atS * left;
    room -= left;
  }
  // What rounding left over belongs to the last.
  const filled = share - room;
  if (atS.length < SHARES) atS.push(filled > 0 ? sum / filled : sorted.at(-1)!.atS);
  return { chance: Math.min(1, chance), atS };
}

/** Something that is there at once. */
export const AT_ONCE: Arrival = { chance: 1, atS: Array<number>(SHARES).fill(0) };

/**
 * Arrival after a crossing that takes `crossing` from when it begins; `opensAt` says when it can begin, for something that is there at a
 * time (first in, first out: never earlier for what comes later).
 */
export function across(
  before: Arrival,
  crossing: Arrival,
  opensAt: (atS: number) => number | null = (atS) => atS,
): Arrival {
  const moments: Moment[] = [];
  for (const atS of before.atS) {
    const beginsS = opensAt(atS);
    if (beginsS === null) continue;
    for (const tookS of crossing.atS)
      moments.push({
        atS: beginsS + tookS,
        chance: (before.chance * crossing.chance) / (before.atS.length * crossing.atS.length),
      });
  }
  return arrivalOf(moments);
}

/** Chance that it arrived by then; within a sixteenth of what arrives. */
export function chanceBy({ chance, atS }: Arrival, deadlineS: number): number {
  if (atS.length === 0) return 0;
  return (chance * atS.filter((at) => at <= deadlineS).length) / atS.length;
}

/** Mean time of what arrives, s; null when nothing does. */
export const expectedS = ({ atS }: Arrival): number | null =>
  atS.length === 0 ? null : atS.reduce((sum, at) => sum + at, 0) / atS.length;

/** Time by which nine of ten of those that arrive are there, s; null when nothing does. */
export const ninetyS = ({ atS }: Arrival): number | null =>
  atS.length === 0 ? null : atS[Math.ceil(0.9 * atS.length) - 1]!;

/**
 * Whether at every moment at least as much arrived of `a` as of `b`, less `slackChance`, when `a` is given `slackS` more time: stochastic
 * dominance of the first order over the whole distribution, not over summaries.
 */
export function dominates(a: Arrival, b: Arrival, slackChance = 0, slackS = 0): boolean {
  if (b.chance - a.chance > slackChance + 1e-12) return false;
  // Between two arrivals of `b` nothing of it is added: it is enough to look at these.
  return b.atS.every((atS, n) => {
    const ofB = (b.chance * (n + 1)) / b.atS.length;
    return ofB - chanceBy(a, atS + slackS + 1e-9) <= slackChance + 1e-12;
  });
}
