import { bestExact, MOST_EXACT, type Choice } from './exact';
import type { TableTest } from './fault-table';

/** Tests that are followed to the end before one is chosen. */
const FOLLOWED = 3;

/** Causes that are left: their columns and weights, without those that are ruled out. */
interface Left {
  readonly columns: Int32Array;
  readonly weights: Float64Array;
  readonly sum: number;
}

function leftOf(weights: Float64Array): Left {
  const columns = Int32Array.from([...weights.keys()].filter((n) => weights[n]! > 0));
  const kept = Float64Array.from(columns, (n) => weights[n]!);
  return { columns, weights: kept, sum: kept.reduce((all, one) => all + one, 0) };
}

/** What is left after an outcome. */
function after({ columns, weights }: Left, row: Float64Array): Left {
  const kept = new Int32Array(columns.length);
  const made = new Float64Array(columns.length);
  let count = 0;
  let sum = 0;
  for (let i = 0; i < columns.length; i++) {
    const one = weights[i]! * row[columns[i]!]!;
    if (one <= 0) continue;
    kept[count] = columns[i]!;
    made[count++] = one;
    sum += one;
  }
  return { columns: kept.subarray(0, count), weights: made.subarray(0, count), sum };
}

/** How much a test tells apart for its time: the chance that two causes drawn at random show different outcomes, by second. */
function worth({ columns, weights, sum: all }: Left, { chances, costS }: TableTest): number {
  let same = 0;
  for (const row of chances) {
    let sum = 0;
    for (let i = 0; i < columns.length; i++) sum += weights[i]! * row[columns[i]!]!;
    same += (sum / all) ** 2;
  }
  return (1 - same) / costS;
}

const WORTH_NOTHING = 1e-12;

/** The tests that tell anything apart, the best for their time first. */
function inOrder(left: Left, tests: readonly TableTest[]): number[] {
  const worths = tests.map((test) => worth(left, test));
  return [...worths.keys()].filter((t) => worths[t]! > WORTH_NOTHING).sort((a, b) => worths[b]! - worths[a]!);
}

/** Expected time of going on with the best test for its time until nothing can be told apart, s. `used` tests are over. */
function greedyS(left: Left, tests: readonly TableTest[], used: Uint8Array): number {
  if (left.columns.length <= 1) return 0;
  let best = -1;
  let most = WORTH_NOTHING;
  for (let t = 0; t < tests.length; t++) {
    if (used[t] === 1) continue;
    const one = worth(left, tests[t]!);
    if (one > most) {
      most = one;
      best = t;
    }
  }
  return best < 0 ? 0 : followedS(left, best, tests, used);
}

/** Expected time of one test and of going on after it. */
function followedS(left: Left, test: number, tests: readonly TableTest[], used: Uint8Array): number {
  let time = tests[test]!.costS;
  used[test] = 1;
  for (const row of tests[test]!.chances) {
    const then = after(left, row);
    if (then.columns.length > 0) time += (then.sum / left.sum) * greedyS(then, tests, used);
  }
  used[test] = 0;
  return time;
}

/**
 * A test to begin with when there are too many causes for the best order: the few that tell most apart for their time are followed to the end,
 * and the one with the least expected time is taken. Null when no test tells what is left apart.
 */
export function bestFollowed(weights: Float64Array, tests: readonly TableTest[]): Choice | null {
  const left = leftOf(weights);
  const used = new Uint8Array(tests.length);
  let best: Choice | null = null;
  for (const test of inOrder(left, tests).slice(0, FOLLOWED)) {
    const expectedS = followedS(left, test, tests, used);
    if (!best || expectedS < best.expectedS) best = { test, expectedS };
  }
  return best;
}

/** Whether every cause that is left always shows the same: only then is the best order known to be the best. */
const isPlain = (weights: Float64Array, tests: readonly TableTest[]): boolean =>
  tests.every(({ chances }) =>
    chances.every((row) => row.every((one, n) => weights[n]! <= 0 || one === 0 || one === 1)),
  );

/** The test to begin with, exactly where that can be afforded. */
export function bestTest(weights: Float64Array, tests: readonly TableTest[]): (Choice & { exact: boolean }) | null {
  let left = 0;
  for (const one of weights) if (one > 0) left++;
  const exact = left <= MOST_EXACT;
  const found = exact ? bestExact(weights, tests) : bestFollowed(weights, tests);
  // What a set of causes cannot say exactly, because some show an outcome only at times, may still tell something.
  const any = found ?? (exact ? bestFollowed(weights, tests) : null);
  return any && { ...any, exact: exact && found !== null && isPlain(weights, tests) };
}
