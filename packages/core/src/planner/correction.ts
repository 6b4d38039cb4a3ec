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
const MOST_ROUNDS = 50;
const NEAR = 1e-9;
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

interface Group {
  readonly to: string | null;
  readonly rows: readonly Row[];
  /** What it has of its own; 0 of those that are nobody's. */
  own: number;
}

/** Gradient and curvature of the likelihood over the rows of a group, in what all share: by the shift, by the scale, and mixed. */
function slopesOf({ rows, own }: Group, { shift, scale }: Correction) {
  let [g, gx, h, hx, hxx] = [0, 0, 0, 0, 0];
  for (const { x, y, weight } of rows) {
    const p = chanceOf(shift + own + scale * x);
    const w = weight * p * (1 - p);
    g += weight * (y - p);
    gx += weight * (y - p) * x;
    h += w;
    hx += w * x;
    hxx += w * x * x;
  }
  return { g, gx, h, hx, hxx };
}

/** A long step is shortened: far out the curvature tells nothing. */
const shortened = (steps: readonly number[]): number =>
  Math.min(1, 2 / steps.reduce((most, step) => Math.max(most, Math.abs(step)), NEAR));

/**
 * The correction of the forecasts' log odds that makes what happened likeliest, held to none (Platt 1999, from memory; penalised logistic
 * regression by Newton's method), with a shift for each of those whom they were for (random intercepts; each meets only what all share, so
 * that it is taken out of the step and put back: the complement of Schur). Without forecasts it is none; it never turns a greater chance into
 * a smaller one.
 */
export function correctionOf(judged: readonly JudgedThen[]): Corrections {
  const groups = groupsOf(judged);
  let [shift, scale] = [0, 1];
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let [g0, g1, h00, h01, h11] = [-SHIFT_HELD * shift, -SCALE_HELD * (scale - 1), SHIFT_HELD, 0, SCALE_HELD];
    const slopes = groups.map((group) => {
      const { g, gx, h, hx, hxx } = slopesOf(group, { shift, scale });
      // What it can answer by a shift of its own says so much less of what all share.
      const alone = group.to === null ? null : { g: g - OWN_HELD * group.own, h: h + OWN_HELD };
      const [byOwn, met] = alone ? [alone.g / alone.h, 1 / alone.h] : [0, 0];
      g0 += g - h * byOwn;
      g1 += gx - hx * byOwn;
      h00 += h - h * h * met;
      h01 += hx - h * hx * met;
      h11 += hxx - hx * hx * met;
      return { h, hx, alone };
    });
    const determinant = h00 * h11 - h01 * h01;
    const step0 = (h11 * g0 - h01 * g1) / determinant;
    const step1 = (h00 * g1 - h01 * g0) / determinant;
    const owns = slopes.map(({ h, hx, alone }) => (alone ? (alone.g - h * step0 - hx * step1) / alone.h : 0));
    const shorter = shortened([step0, step1, ...owns]);
    shift += shorter * step0;
    scale += shorter * step1;
    groups.forEach((group, n) => (group.own += shorter * owns[n]!));
    if (Math.abs(step0) + Math.abs(step1) + owns.reduce((sum, own) => sum + Math.abs(own), 0) < NEAR) break;
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
