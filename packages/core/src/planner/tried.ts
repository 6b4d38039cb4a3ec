import type { RetryPolicy } from '../traffic/retry';
import { arrivalOf, type Arrival, type Moment } from './arrival';
import { betaQuantile, type Belief } from './beta';
import type { Shared } from './evidence-weight';
import { DRAWS } from './reliability';

/** A chance and how sure it is: nine of ten lie between. */
export interface Spread {
  readonly chance: number;
  readonly low: number;
  readonly high: number;
}

export interface TryingFor {
  readonly retry: Pick<RetryPolicy, 'firstS' | 'factor' | 'capS' | 'jitter'>;
  /** Transmissions in all. */
  readonly tries: number;
  readonly overDigipeaters: boolean;
  /** Before the first transmission can begin. */
  readonly queueS: number;
  /** As many texts, which all must come. */
  readonly parts?: number;
  /** Of one transmission of ours, of all parts, and of all that repeat it. */
  readonly airS: number;
  readonly repeatsS: number;
  /** From its beginning until it has come across, where several repeat it at once; absent: when all have repeated it. */
  readonly crossesS?: number;
  /** Chance that it works at all, whatever is tried: `worksAtAll`. Absent: for sure. */
  readonly works?: number;
  /** No try begins after it, s from now; null for none. */
  readonly deadlineS: number | null;
  /** Chance of something new for each second of channel that a repetition must bring; absent: whatever it costs. */
  readonly worthPerS?: number;
  /** So often it is sent in any case, as far as there is time; absent: twice. */
  readonly least?: number;
}

export interface Tried {
  /** How often it is sent at most, the first time counted. */
  readonly times: number;
  readonly arrival: Arrival;
  readonly arrives: Spread;
  /** If it works at all: the chance that it arrives, for what is believed drawn evenly, the least first. */
  readonly arrivesDraws: readonly number[];
  /** That what proves it reaches us; null where nothing could. */
  readonly proven: Spread | null;
  /** If it works at all: chance that one part alone is proved, and that all are, for what is believed drawn evenly; null where nothing could be. */
  readonly provenDraws: { readonly one: readonly number[]; readonly all: readonly number[] } | null;
  /** Expected seconds of the channel. */
  readonly airS: number;
}

/** What goes once tells nothing of the way when it is not answered: it is repeated at least once. */
const LEAST_TRIES = 2;
/**
 * So often something is sent at most where a repetition need not be worth its air time by hand but by reckoning; and what it must bring for
 * each second of channel that it takes (both measured over simulated seasons, no source).
 */
export const MOST_TRIES = 8;
export const WORTH_PER_S = 0.006;

/** Draws of what is believed: one from each equal part, in an order by `turn` so that two beliefs do not go up and down together. */
const drawsOf = (belief: Belief, turn: number): number[] =>
  Array.from({ length: DRAWS }, (_, n) => betaQuantile(belief, (((n * turn) % DRAWS) + 0.5) / DRAWS));

/**
 * A crossing that is tried until its proof comes back: when it arrives, how surely, how surely that is proved, and what it costs. What makes
 * one try fail may make the next one fail, so chances are drawn once for all tries.
 */
export function tried(there: Belief, back: Belief | null, plan: TryingFor): Tried {
  const forward = drawsOf(there, 1);
  // 13 shares no factor with the number of draws.
  const backward = back === null ? null : drawsOf(back, 13);
  const begins = beginsS(plan);
  const most = backward === null ? Math.min(1, begins.length) : begins.length;
  const mean = (of: (n: number) => number) => forward.reduce((sum, _, n) => sum + of(n), 0) / DRAWS;
  const { parts = 1, works = 1 } = plan;
  const arrivedBy = (k: number) => (n: number) => (1 - (1 - forward[n]!) ** k) ** parts;
  const oneProvenBy = (k: number) => (n: number) => 1 - (1 - forward[n]! * (backward?.[n] ?? 0)) ** k;
  const provenBy = (k: number) => (n: number) => oneProvenBy(k)(n) ** parts;
  const takesS = plan.airS + plan.repeatsS;
  // What the next try brings when none was answered yet: that it arrives after all, or that its proof does.
  const bringsNew = (k: number): number => {
    const unproven = 1 - works * mean(provenBy(k - 1));
    const gain = (of: (by: number) => (n: number) => number) => mean(of(k)) - mean(of(k - 1));
    return (works * Math.max(gain(arrivedBy), gain(provenBy))) / Math.max(unproven, 1e-9);
  };
  let tries = Math.min(Math.max(LEAST_TRIES, plan.least ?? 0), most);
  while (tries < most && bringsNew(tries + 1) >= (plan.worthPerS ?? 0) * takesS) tries++;
  const moments: Moment[] = [];
  let airS = 0;
  for (let k = 1; k <= tries; k++) {
    moments.push({
      atS: begins[k - 1]! + (plan.crossesS ?? takesS),
      chance: works * (mean(arrivedBy(k)) - mean(arrivedBy(k - 1))),
    });
    // Another try is only begun when nothing proved the last one.
    airS += (1 - works * mean(provenBy(k - 1))) * takesS;
  }
  const provenDraws = backward && {
    one: forward.map((_, n) => oneProvenBy(tries)(n)),
    all: forward.map((_, n) => provenBy(tries)(n)),
  };
  const arrivesDraws = forward.map((_, n) => arrivedBy(tries)(n));
  return {
    times: tries,
    arrival: arrivalOf(moments),
    arrives: doubted(arrivesDraws, works),
    arrivesDraws,
    proven: provenDraws && doubted(provenDraws.all, works),
    provenDraws,
    airS,
  };
}

/** A spread in which as many cases come to nothing as it may not work at all. */
function doubted(draws: readonly number[], works: number): Spread {
  const none = Math.round((draws.length * (1 - works)) / Math.max(works, 1e-3));
  const { low, high } = spreadOf([...draws, ...Array<number>(Math.min(none, 100 * draws.length)).fill(0)]);
  return { chance: works * spreadOf(draws).chance, low, high };
}

/** Before it was tried: of ten paths that look right one does not do what is asked (common practice, no source). */
const WORKS_BEFORE = 0.9;
/** Of the doubt that is left so much stays with each answer. */
const DOUBT_LEFT = 0.1;
/** However many answered, so much doubt stays: whoever is sure would learn nothing from silence any more (measured over simulated seasons, no source). */
const LEAST_DOUBT = 1e-6;
const doubtAfter = (before: number, answered: number): number => Math.max(LEAST_DOUBT, before * DOUBT_LEFT ** answered);

/**
 * Chance that a way works at all: tries by it that were answered take the doubt away, tries that were not make it grow, the more the surer
 * each should have been. `once` is the chance that one try is answered if it works.
 */
export function worksAtAll(tries: { readonly answered: number; readonly unanswered: number }, once: number): number {
  const doubt = doubtAfter(1 - WORKS_BEFORE, tries.answered);
  const silent = (1 - doubt) * (1 - Math.min(0.95, once)) ** tries.unanswered;
  return silent / (silent + doubt);
}

/** Before anything was tried: of twenty people three answer no texts, or are away (common practice, no source). */
const ANSWERS_BEFORE = 0.85;
/** The same of a call that was never heard here and that nobody noted: it may be mistyped, or nobody's (common practice, no source). */
const STRANGER_ANSWERS = 0.4;

/** What was tried to reach somebody by one path, by what it weighs, and what is believed of the way there and back if all works. */
export interface TriedByPath {
  readonly answered: number;
  readonly unanswered: number;
  /** Null where the path reaches nobody. */
  readonly crossing: Shared | null;
}

/** Chance that so many tries are not answered though all works: what makes one fail may make all fail, so chances are drawn once for all. */
function silentChance({ unanswered, crossing }: TriedByPath): number {
  if (crossing === null || unanswered <= 0) return 1;
  const backward = drawsOf(crossing.back, 13);
  const draws = drawsOf(crossing.there, 1).map((there, n) => (1 - Math.min(0.95, there * backward[n]!)) ** unanswered);
  return draws.reduce((sum, p) => sum + p, 0) / DRAWS;
}

/**
 * Chance that somebody answers at all, whatever the path: who did not answer by one will not answer by another if it is their set that is
 * off. Each path may not work by itself, so that many tries by one tell less than some by each.
 */
export function answersAtAll(paths: readonly TriedByPath[], isStranger = false): number {
  const answered = paths.reduce((sum, path) => sum + path.answered, 0);
  return afterSilence(1 - doubtAfter(1 - (isStranger ? STRANGER_ANSWERS : ANSWERS_BEFORE), answered), paths);
}

/** The chance that somebody answers, after tries by some paths that were not answered; those that were tell only of their path. */
export function afterSilence(before: number, paths: readonly TriedByPath[]): number {
  const answers = paths.reduce((all, path) => {
    const doubt = doubtAfter(1 - WORKS_BEFORE, path.answered);
    return all * ((1 - doubt) * silentChance(path) + doubt);
  }, before);
  return answers / (answers + 1 - before);
}

/** When each try begins, s from now, those before the deadline. */
function beginsS({ retry, tries, overDigipeaters, queueS, deadlineS }: TryingFor): number[] {
  const begins: number[] = [];
  let atS = queueS;
  for (let k = 1; k <= tries; k++) {
    if (deadlineS !== null && atS >= deadlineS) break;
    begins.push(atS);
    // By chance it waits longer, over digipeaters only longer: half of that on average.
    atS +=
      Math.min(retry.firstS * retry.factor ** (k - 1), retry.capS) * (1 + (overDigipeaters ? retry.jitter / 2 : 0));
  }
  return begins;
}

/** Mean, and what lies 5 % from either end. */
export function spreadOf(draws: readonly number[]): Spread {
  const sorted = [...draws].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
  return {
    chance: sorted.reduce((sum, p) => sum + p, 0) / Math.max(1, sorted.length),
    low: at(0.05),
    high: at(0.95),
  };
}

/** Counts for no more than so many tries: what hops tell together is no closer than that. */
const MOST_STRENGTH = 20;
const LEAST_STRENGTH = 1;

/** What draws of a chance come to, as a belief with their mean and spread. */
export function beliefOfDraws(draws: readonly number[]): Belief {
  const mean = draws.reduce((sum, p) => sum + p, 0) / draws.length;
  const spread = draws.reduce((sum, p) => sum + (p - mean) ** 2, 0) / draws.length;
  const m = Math.min(0.999, Math.max(0.001, mean));
  const strength = Math.min(
    MOST_STRENGTH,
    Math.max(LEAST_STRENGTH, spread > 0 ? (m * (1 - m)) / spread - 1 : MOST_STRENGTH),
  );
  return { alpha: m * strength, beta: (1 - m) * strength };
}
