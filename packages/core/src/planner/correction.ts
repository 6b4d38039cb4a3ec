import type { Judged } from './calibration';
import type { Spread } from './tried';

/** What the log odds of a forecast are corrected by: `scale` times them, plus `shift`. */
export interface Correction {
  readonly shift: number;
  readonly scale: number;
}

/** What came of the forecasts for one addressee. */
export interface Theirs {
  /** Added to the shift of all, in log odds. */
  readonly shift: number;
  readonly count: number;
  /** So many were to be expected to happen, and so many did. */
  readonly expected: number;
  readonly happened: number;
}

/** What forecasts are corrected by, and what those for one addressee are besides. */
export interface Corrections extends Correction {
  readonly theirs: ReadonlyMap<string, Theirs>;
}

/** A forecast and what came of it, with how much that says by now: 1 is as much as it can. */
export interface JudgedThen extends Judged {
  readonly weight?: number;
  /** Whom it was for; absent: nobody of their own. */
  readonly to?: string;
}

export const NO_CORRECTION: Corrections = { shift: 0, scale: 1, theirs: new Map() };

/**
 * The correction is held to none as by so many sendings at even odds would, so that a few say little (common practice: ridge, or a
 * normal prior; no source for the strengths).
 */
const SHIFT_HELD = 4;
const SCALE_HELD = 16;
/** What is of one addressee alone, likewise. */
const OWN_HELD = 1;
const MOST_ROUNDS = 100;
const NEAR = 1e-7;
/** A forecast is never taken for surer than that. */
const SUREST = 0.999;

const logOdds = (p: number): number => {
  const within = Math.min(SUREST, Math.max(1 - SUREST, p));
  return Math.log(within / (1 - within));
};
const chanceOf = (odds: number): number => 1 / (1 + Math.exp(-odds));

interface Row {
  readonly x: number;
  readonly y: number;
  readonly weight: number;
}

/** One step of Newton's method towards what makes what happened likeliest, shortened where it is long: far out the curvature tells nothing. */
const shortened = (steps: readonly number[]): number => Math.min(1, 2 / Math.max(NEAR, ...steps.map(Math.abs)));

/** A step of what all share, with what each has of its own as it is. */
function stepOfAll(groups: readonly Group[], { shift, scale }: Correction): Correction {
  let [g0, g1, h00, h01, h11] = [-SHIFT_HELD * shift, -SCALE_HELD * (scale - 1), SHIFT_HELD, 0, SCALE_HELD];
  for (const { rows, own } of groups)
    for (const { x, y, weight } of rows) {
      const p = chanceOf(shift + own + scale * x);
      const w = weight * p * (1 - p);
      g0 += weight * (y - p);
      g1 += weight * (y - p) * x;
      h00 += w;
      h01 += w * x;
      h11 += w * x * x;
    }
  const determinant = h00 * h11 - h01 * h01;
  const step0 = (h11 * g0 - h01 * g1) / determinant;
  const step1 = (h00 * g1 - h01 * g0) / determinant;
  const shorter = shortened([step0, step1]);
  return { shift: shorter * step0, scale: shorter * step1 };
}

/** A step of what one has of its own, with what all share as it is. */
function stepOfOne({ rows, own }: Group, { shift, scale }: Correction): number {
  let [g, h] = [-OWN_HELD * own, OWN_HELD];
  for (const { x, y, weight } of rows) {
    const p = chanceOf(shift + own + scale * x);
    g += weight * (y - p);
    h += weight * p * (1 - p);
  }
  return shortened([g / h]) * (g / h);
}

interface Group {
  readonly to: string | null;
  readonly rows: readonly Row[];
  own: number;
}

/**
 * The correction of the forecasts' log odds that makes what happened likeliest, held to none (Platt 1999, from memory; penalised logistic
 * regression by Newton's method), with a shift for each of those whom they were for (random intercepts, step by step in turn with what all
 * share). Without forecasts it is none; it never turns a greater chance into a smaller one.
 */
export function correctionOf(judged: readonly JudgedThen[]): Corrections {
  const groups = groupsOf(judged);
  let [shift, scale] = [0, 1];
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const step = stepOfAll(groups, { shift, scale });
    shift += step.shift;
    scale += step.scale;
    let far = Math.abs(step.shift) + Math.abs(step.scale);
    for (const group of groups) {
      if (group.to === null) continue;
      const own = stepOfOne(group, { shift, scale });
      group.own += own;
      far = Math.max(far, Math.abs(own));
    }
    if (far < NEAR) break;
  }
  return {
    shift,
    scale: Math.max(0, scale),
    theirs: new Map(
      groups.flatMap((group): [string, Theirs][] => (group.to === null ? [] : [[group.to, theirsOf(group)]])),
    ),
  };
}

const theirsOf = ({ rows, own }: Group): Theirs => ({
  shift: own,
  count: rows.length,
  expected: rows.reduce((sum, { x }) => sum + chanceOf(x), 0),
  happened: rows.filter(({ y }) => y === 1).length,
});

function groupsOf(judged: readonly JudgedThen[]): Group[] {
  const groups = new Map<string | null, Row[]>();
  for (const { predicted, happened, weight = 1, to = null } of judged) {
    const rows = groups.get(to) ?? [];
    rows.push({ x: logOdds(predicted), y: Number(happened), weight });
    groups.set(to, rows);
  }
  return [...groups].map(([to, rows]) => ({ to, rows, own: 0 }));
}

/** What forecasts for somebody are corrected by. */
export const correctionFor = ({ shift, scale, theirs }: Corrections, to: string): Correction => ({
  shift: shift + (theirs.get(to)?.shift ?? 0),
  scale,
});

/** A chance, corrected. What is sure either way, or impossible, stays so. */
export function corrected(chance: number, { shift, scale }: Correction): number {
  if (chance <= 0 || chance >= 1 || (shift === 0 && scale === 1)) return chance;
  return chanceOf(shift + scale * Math.log(chance / (1 - chance)));
}

/** The same of a chance and of what lies about it. */
export const correctedSpread = ({ chance, low, high }: Spread, by: Correction): Spread => ({
  chance: corrected(chance, by),
  low: corrected(low, by),
  high: corrected(high, by),
});
