import { bestExact, MOST_EXACT, type Choice } from './exact';
import type { TableTest } from './fault-table';

/** Tests that are followed to the end before one is chosen. */
const FOLLOWED = 3;

const sumOf = (weights: Float64Array): number => {
  let sum = 0;
  for (const one of weights) sum += one;
  return sum;
};

/** What is left after an outcome, not brought to a sum of 1. */
function after(weights: Float64Array, row: Float64Array): { weights: Float64Array; sum: number; left: number } {
  const made = new Float64Array(weights.length);
  let sum = 0;
  let left = 0;
  for (let n = 0; n < made.length; n++) {
    const one = weights[n]! * row[n]!;
    if (one <= 0) continue;
    made[n] = one;
    sum += one;
    left++;
  }
  return { weights: made, sum, left };
}

/** How much a test tells apart for its time: the chance that two causes drawn at random show different outcomes, by second. */
function worth(weights: Float64Array, all: number, { chances, costS }: TableTest): number {
  let same = 0;
  for (const row of chances) {
    let sum = 0;
    for (let n = 0; n < weights.length; n++) sum += weights[n]! * row[n]!;
    same += (sum / all) ** 2;
  }
  return (1 - same) / costS;
}

const WORTH_NOTHING = 1e-12;

/** The tests that tell anything apart, the best for their time first. */
function inOrder(weights: Float64Array, tests: readonly TableTest[]): number[] {
  const all = sumOf(weights);
  const worths = tests.map((test) => worth(weights, all, test));
  return [...worths.keys()].filter((t) => worths[t]! > WORTH_NOTHING).sort((a, b) => worths[b]! - worths[a]!);
}

/** Expected time of going on with the best test for its time until nothing can be told apart, s. */
function greedyS(weights: Float64Array, left: number, tests: readonly TableTest[]): number {
  if (left <= 1) return 0;
  const all = sumOf(weights);
  let best = -1;
  let most = WORTH_NOTHING;
  for (let t = 0; t < tests.length; t++) {
    const one = worth(weights, all, tests[t]!);
    if (one > most) {
      most = one;
      best = t;
    }
  }
  if (best < 0) return 0;
  return followedS(weights, left, best, tests);
}

/** Expected time of one test and of going on after it. */
function followedS(weights: Float64Array, left: number, test: number, tests: readonly TableTest[]): number {
  const all = sumOf(weights);
  const rest = tests.filter((_, t) => t !== test);
  let time = tests[test]!.costS;
  for (const row of tests[test]!.chances) {
    const then = after(weights, row);
    // An outcome that rules nothing out and comes for certain would be no test.
    if (then.left > 0 && (then.left < left || rest.length > 0))
      time += (then.sum / all) * greedyS(then.weights, then.left, rest);
  }
  return time;
}

/**
 * A test to begin with when there are too many causes for the best order: the few that tell most apart for their time are followed to the end,
 * and the one with the least expected time is taken. Null when no test tells what is left apart.
 */
export function bestFollowed(weights: Float64Array, tests: readonly TableTest[]): Choice | null {
  let left = 0;
  for (const one of weights) if (one > 0) left++;
  let best: Choice | null = null;
  for (const test of inOrder(weights, tests).slice(0, FOLLOWED)) {
    const expectedS = followedS(weights, left, test, tests);
    if (!best || expectedS < best.expectedS) best = { test, expectedS };
  }
  return best;
}

/** The test to begin with, exactly where that can be afforded. */
export function bestTest(weights: Float64Array, tests: readonly TableTest[]): (Choice & { exact: boolean }) | null {
  let left = 0;
  for (const one of weights) if (one > 0) left++;
  const exact = left <= MOST_EXACT;
  const found = exact ? bestExact(weights, tests) : bestFollowed(weights, tests);
  // What a set of causes cannot say exactly, because some show an outcome only at times, may still tell something.
  const any = found ?? (exact ? bestFollowed(weights, tests) : null);
  return any && { ...any, exact: exact && found !== null };
}
