import type { TableTest } from './fault-table';

/** Up to so many causes the best order is computed exactly: 2 to the power of it are the sets that can be left. */
export const MOST_EXACT = 12;

export interface Choice {
  /** Number of the test. */
  readonly test: number;
  /** Expected time until nothing more can be told apart, s. */
  readonly expectedS: number;
}

/**
 * The test to begin with so that the expected time until the fault is known is least, by dynamic programming over the sets of causes that can
 * be left. Exact where every cause always shows the same; where one shows an outcome at times, its weight is kept while the set lasts.
 * Null when no test tells what is left apart.
 */
export function bestExact(weights: Float64Array, tests: readonly TableTest[]): Choice | null {
  const left = [...weights.keys()].filter((n) => weights[n]! > 0);
  if (left.length > MOST_EXACT) throw new RangeError(`more than ${MOST_EXACT} causes`);
  const masks = tests.map(({ chances }) =>
    chances.map((row) => left.reduce((mask, n, bit) => (row[n]! > 0 ? mask | (1 << bit) : mask), 0)),
  );
  const shares = tests.map(({ chances }) => chances.map((row) => left.map((n) => weights[n]! * row[n]!)));
  const size = 1 << left.length;
  const cost = new Float64Array(size).fill(-1);
  const choice = new Int16Array(size).fill(-1);
  const sumOver = (row: readonly number[], mask: number): number => {
    let sum = 0;
    for (let rest = mask; rest !== 0; rest &= rest - 1) sum += row[31 - Math.clz32(rest & -rest)]!;
    return sum;
  };
  const plain = left.map((n) => weights[n]!);
  const expected = (mask: number): number => {
    const known = cost[mask]!;
    if (known >= 0) return known;
    let best = 0;
    let by = -1;
    if ((mask & (mask - 1)) !== 0) {
      const all = sumOver(plain, mask);
      for (let t = 0; t < tests.length; t++) {
        const outcomes = masks[t]!;
        // Every outcome that can come has to rule something out.
        if (outcomes.some((outcome) => (outcome & mask) === mask)) continue;
        let time = tests[t]!.costS;
        for (let o = 0; o < outcomes.length && (by < 0 || time < best); o++) {
          const after = outcomes[o]! & mask;
          if (after !== 0) time += (sumOver(shares[t]![o]!, after) / all) * expected(after);
        }
        if (by < 0 || time < best) {
          best = time;
          by = t;
        }
      }
    }
    cost[mask] = best;
    choice[mask] = by;
    return best;
  };
  const expectedS = expected(size - 1);
  const test = choice[size - 1]!;
  return test < 0 ? null : { test, expectedS };
}
