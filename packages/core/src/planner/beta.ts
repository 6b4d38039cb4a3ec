import { remembered } from './remembered';

/**
 * What is believed of a chance: Beta(α, β), as if α tries had succeeded and β had failed. Its mean is the chance, its spread how little
 * is known.
 */
export interface Belief {
  readonly alpha: number;
  readonly beta: number;
}

/** A belief by its mean, and by how many tries it counts. */
export function beliefOf(chance: number, strength: number): Belief {
  // A chance of 0 or 1 would never learn again.
  const mean = Math.min(0.999, Math.max(0.001, chance));
  return { alpha: mean * strength, beta: (1 - mean) * strength };
}

export const meanOf = ({ alpha, beta }: Belief): number => alpha / (alpha + beta);

/** More tries with known outcomes; they need not be whole. */
export const learned = (belief: Belief, successes: number, failures: number): Belief => ({
  alpha: belief.alpha + successes,
  beta: belief.beta + failures,
});

/**
 * Chance that at least one of `tries` succeeds, 1 − B(α, β + n) / B(α, β): less than 1 − (1 − mean)ⁿ, because what made one try fail may
 * make the next one fail too.
 */
export function chanceWithin({ alpha, beta }: Belief, tries: number): number {
  let none = 1;
  for (let n = 0; n < tries; n++) none *= (beta + n) / (alpha + beta + n);
  return 1 - none;
}

/** ln Γ(x) for x > 0, by the approximation of Lanczos (g = 7, nine terms; coefficients from memory). */
export function logGamma(x: number): number {
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  const t = x + 6.5;
  let sum = LANCZOS[0]!;
  for (let n = 1; n < LANCZOS.length; n++) sum += LANCZOS[n]! / (x + n - 1);
  return 0.5 * Math.log(2 * Math.PI) + (x - 0.5) * Math.log(t) - t + Math.log(sum);
}

const LANCZOS = [
  0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
  12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
];

/** Chance that the chance is at most `x`: the regularised incomplete beta function, DLMF 8.17.22 (continued fraction). */
export const betaBelow = (belief: Belief, x: number): number => below(belief, logBeta(belief), x);

const logBeta = ({ alpha, beta }: Belief): number => logGamma(alpha) + logGamma(beta) - logGamma(alpha + beta);

function below({ alpha: a, beta: b }: Belief, logB: number, x: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(a * Math.log(x) + b * Math.log1p(-x) - logB);
  // The fraction converges fast below the mean, and the other side is its mirror (DLMF 8.17.4).
  return x < (a + 1) / (a + b + 2) ? (front * fraction(a, b, x)) / a : 1 - (front * fraction(b, a, 1 - x)) / b;
}

/** By the method of Lentz as it was modified by Thompson and Barnett; two terms at a time, written out, for it is what planning does most. */
function fraction(a: number, b: number, x: number): number {
  let c = 1;
  let d = 1 / notZero(1 - ((a + b) * x) / (a + 1));
  let value = d;
  for (let m = 1; m <= 300; m++) {
    const twice = a + 2 * m;
    const even = (m * (b - m) * x) / ((twice - 1) * twice);
    d = 1 / notZero(1 + even * d);
    c = notZero(1 + even / c);
    value *= c * d;
    const odd = (-(a + m) * (a + b + m) * x) / (twice * (twice + 1));
    d = 1 / notZero(1 + odd * d);
    c = notZero(1 + odd / c);
    const step = c * d;
    value *= step;
    if (Math.abs(step - 1) < 1e-13) break;
  }
  return value;
}
const TINY = 1e-300;
const notZero = (value: number): number => (Math.abs(value) < TINY ? TINY : value);

/** The chance below which the chance lies with probability `share`: by the method of Halley, kept between bounds; within 1e-9. */
export function betaQuantile(belief: Belief, share: number): number {
  if (share <= 0) return 0;
  if (share >= 1) return 1;
  return quantileFrom(belief, logBeta(belief), share, 0, meanOf(belief), 1e-9);
}

const keyOfBelief = ({ alpha, beta }: Belief): string => `${alpha} ${beta}`;

/** What is reckoned of a belief, remembered for the beliefs that were asked for last: the same few are asked for again and again. */
export const rememberedOf = <T>(reckon: (belief: Belief) => T): ((belief: Belief) => T) =>
  remembered(keyOfBelief, reckon);

/** The middles of so many equal parts of a belief, the least first; within 1e-8, for each begins where the one before it was found. */
export function betaParts(belief: Belief, parts: number): number[] {
  const logB = logBeta(belief);
  const found: number[] = [];
  for (let n = 0; n < parts; n++) {
    const before = found.at(-1) ?? 0;
    const begin = before > 0 ? before : meanOf(belief);
    found.push(quantileFrom(belief, logB, (n + 0.5) / parts, before, begin, 1e-8));
  }
  return found;
}

function quantileFrom(
  belief: Belief,
  logB: number,
  share: number,
  least: number,
  begin: number,
  within: number,
): number {
  const { alpha, beta } = belief;
  let low = least;
  let high = 1;
  let x = begin;
  while (high - low > within) {
    const off = below(belief, logB, x) - share;
    if (off < 0) low = x;
    else high = x;
    const slope = Math.exp((alpha - 1) * Math.log(x) + (beta - 1) * Math.log1p(-x) - logB);
    const newton = off / slope;
    const bend = (alpha - 1) / x - (beta - 1) / (1 - x);
    const next = x - newton / Math.max(0.5, 1 - (newton * bend) / 2);
    // A step that leaves the bounds is halved instead.
    if (next > low && next < high) {
      if (Math.abs(next - x) < within / 100) return next;
      x = next;
    } else x = (low + high) / 2;
  }
  return x;
}
