import type { Judged } from './calibration';
import type { Spread } from './tried';

/** What the log odds of a forecast are corrected by: `scale` times them, plus `shift`. */
export interface Correction {
  readonly shift: number;
  readonly scale: number;
}

/** A forecast and what came of it, with how much that says by now: 1 is as much as it can. */
export interface JudgedThen extends Judged {
  readonly weight?: number;
}

export const NO_CORRECTION: Correction = { shift: 0, scale: 1 };

/**
 * The correction is held to none as by so many sendings at even odds would, so that a few say little (common practice: ridge, or a
 * normal prior; no source for the strengths).
 */
const SHIFT_HELD = 4;
const SCALE_HELD = 16;
const MOST_ROUNDS = 25;
const NEAR = 1e-9;
/** A forecast is never taken for surer than that. */
const SUREST = 0.999;

const logOdds = (p: number): number => {
  const within = Math.min(SUREST, Math.max(1 - SUREST, p));
  return Math.log(within / (1 - within));
};
const chanceOf = (odds: number): number => 1 / (1 + Math.exp(-odds));

/**
 * The correction of the forecasts' log odds that makes what happened likeliest, held to none (Platt 1999, from memory; penalised logistic
 * regression by Newton's method). Without forecasts it is none; it never turns a greater chance into a smaller one.
 */
export function correctionOf(judged: readonly JudgedThen[]): Correction {
  const rows = judged.map(({ predicted, happened, weight = 1 }) => ({
    x: logOdds(predicted),
    y: Number(happened),
    weight,
  }));
  let [shift, scale] = [0, 1];
  for (let round = 0; round < MOST_ROUNDS; round++) {
    // Gradient and curvature of the penalised log likelihood.
    let [g0, g1, h00, h01, h11] = [-SHIFT_HELD * shift, -SCALE_HELD * (scale - 1), SHIFT_HELD, 0, SCALE_HELD];
    for (const { x, y, weight } of rows) {
      const p = chanceOf(shift + scale * x);
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
    // A long step is shortened: far out the curvature tells nothing.
    const shorter = Math.min(1, 2 / Math.max(Math.abs(step0), Math.abs(step1), NEAR));
    shift += shorter * step0;
    scale += shorter * step1;
    if (Math.abs(step0) + Math.abs(step1) < NEAR) break;
  }
  return { shift, scale: Math.max(0, scale) };
}

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
