import { bestExact, bestFollowed, checkState, faultTable, type FaultTable, type RuleBase } from '@tombolo/core';
import seedrandom from 'seedrandom';
import { median, type Figure } from './figure';

/** A rule base as large as one may get: tests that see one cause, some, or half of them. */
function baseOf(causes: number, tests: number, seed: string): RuleBase {
  const random = seedrandom(seed);
  const ids = Array.from({ length: causes }, (_, n) => `c${n}`);
  return {
    symptom: 'any',
    causes: ids.map((id) => ({ id, words: id, remedy: id, weight: 1 + Math.floor(random() * 20) })),
    tests: Array.from({ length: tests }, (_, t) => {
      const share = [1 / causes, 0.1, 0.5][t % 3]!;
      const shows = ids.filter(() => random() < share);
      return {
        id: `t${t}`,
        question: '',
        costS: 1 + Math.floor(random() * 120),
        outcomes: [
          { id: 'yes', words: '', shows: shows.length > 0 ? shows : [ids[t % causes]!] },
          { id: 'no', words: '', shows: 'rest' as const },
        ],
      };
    }),
  };
}

const ROUNDS = 9;
const timeOf = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

/** How much longer than the best order the followed one takes, where the best can still be computed. */
function ratios(n: number): number[] {
  return Array.from({ length: n }, (_, k): FaultTable => faultTable(baseOf(11, 14, `ratio ${k}`))).flatMap((table) => {
    const best = bestExact(table.priors, table.tests);
    const followed = bestFollowed(table.priors, table.tests);
    return best && followed ? [followed.expectedS / best.expectedS] : [];
  });
}

/** The next question of the ready check, and how near to the best order it is. */
export async function ready(): Promise<Figure[]> {
  const large = baseOf(200, 100, 'large');
  const next = median(Array.from({ length: ROUNDS }, () => timeOf(() => checkState(large, {}))));
  const found = ratios(200);
  return [
    {
      name: 'next question, 200 causes and 100 tests',
      value: next,
      unit: 'ms',
      goal: 20,
      better: 'less',
      note: 'from the empty check, median of 9',
    },
    {
      name: 'expected time against the best order, mean of 200',
      value: found.reduce((sum, one) => sum + one, 0) / found.length,
      unit: 'times',
      goal: 1.05,
      better: 'less',
      note: 'eleven causes and fourteen tests, followed as with many',
    },
    {
      name: 'the same, worst of 200',
      value: Math.max(...found),
      unit: 'times',
      goal: 1.25,
      better: 'less',
      note: 'the same rule bases',
    },
  ];
}
