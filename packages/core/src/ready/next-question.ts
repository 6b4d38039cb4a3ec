import { faultTable, posterior, type Answers } from './fault-table';
import { bestTest } from './lookahead';
import { canShow, NOT_LISTED, type FaultTest, type RuleBase } from './rule-base';

export interface Possible {
  /** Identifier of a cause, or NOT_LISTED. */
  readonly causeId: string;
  readonly chance: number;
}

/** Where a check stands. */
export type CheckState =
  | {
      readonly is: 'question';
      readonly test: FaultTest;
      /** Expected time until the fault is known, this question included, s; null for what comes first because it is dangerous. */
      readonly expectedS: number | null;
      /** Nothing else in any order would be quicker on average. */
      readonly exact: boolean;
      /** How many causes each outcome leaves. */
      readonly leaves: readonly { readonly outcomeId: string; readonly left: number }[];
      readonly possible: readonly Possible[];
    }
  /** One is left, or several that no question tells apart. */
  | { readonly is: 'verdict'; readonly possible: readonly Possible[] }
  /** No cause shows all that was answered. */
  | { readonly is: 'contradiction' };

/** Dangerous questions in their order: one that is open, or what one of them found, whatever else was seen. */
function dangerState(base: RuleBase, answers: Answers, possible: readonly Possible[]): CheckState | null {
  for (const test of base.tests) {
    if (test.danger === undefined) continue;
    const outcome = test.outcomes.find(({ id }) => id === answers[test.id]);
    if (!outcome)
      return {
        is: 'question',
        test,
        expectedS: null,
        exact: false,
        leaves: test.outcomes.map(({ id, shows }) => ({
          outcomeId: id,
          left:
            shows === 'rest' ? possible.filter(({ causeId }) => canShow(test, outcomeOf(test, id), causeId)).length : 1,
        })),
        possible,
      };
    if (outcome.shows !== 'rest')
      return {
        is: 'verdict',
        possible: outcome.shows.map((causeId) => ({ causeId, chance: 1 / outcome.shows.length })),
      };
  }
  return null;
}

const outcomeOf = (test: FaultTest, id: string) => test.outcomes.find((one) => one.id === id)!;

/**
 * What to ask next: dangerous questions in their order, then the one that finds the fault soonest on average, by how often each cause was
 * found (`counted`) and how long each test takes.
 */
export function checkState(
  base: RuleBase,
  answers: Answers,
  counted: Readonly<Record<string, number>> = {},
): CheckState {
  const table = faultTable(base, counted);
  const weights = posterior(table, answers);
  const possible = table.causeIds
    .map((causeId, n) => ({ causeId, chance: weights[n]! }))
    .filter(({ chance }) => chance > 0)
    .sort((a, b) => b.chance - a.chance);
  const danger = dangerState(base, answers, possible);
  if (danger) return danger;
  if (possible.length === 0) return { is: 'contradiction' };
  if (possible.length === 1) return { is: 'verdict', possible };
  const open = [...base.tests.keys()].filter((n) => answers[base.tests[n]!.id] === undefined);
  const best = bestTest(
    weights,
    open.map((n) => table.tests[n]!),
  );
  if (!best) return { is: 'verdict', possible };
  const n = open[best.test]!;
  const { outcomeIds, chances } = table.tests[n]!;
  return {
    is: 'question',
    test: base.tests[n]!,
    expectedS: best.expectedS,
    exact: best.exact,
    leaves: outcomeIds.map((outcomeId, o) => ({
      outcomeId,
      left: weights.filter((weight, c) => weight * chances[o]![c]! > 0).length,
    })),
    possible,
  };
}

/** Words and remedy of a possible cause. */
export const causeWords = ({ causes }: RuleBase, causeId: string): { words: string; remedy: string } =>
  causes.find(({ id }) => id === causeId) ?? {
    words: causeId === NOT_LISTED ? 'Something that is not on this list' : causeId,
    remedy:
      'Go back to the last thing that worked, and change one thing at a time. What it was can be added below, so that it is asked for next time.',
  };
