import { canShow, NOT_LISTED, type RuleBase } from './rule-base';

/** How likely it is, against all causes together, that the fault is on no list. */
const NOT_LISTED_SHARE = 0.05;

/** A rule base as numbers: causes are columns, the last of them what is not listed. */
export interface FaultTable {
  readonly causeIds: readonly string[];
  /** How likely each is before anything is known; they sum to 1. */
  readonly priors: Float64Array;
  readonly tests: readonly TableTest[];
}

export interface TableTest {
  readonly id: string;
  readonly costS: number;
  readonly outcomeIds: readonly string[];
  /** For each outcome the chance that each cause shows it. */
  readonly chances: readonly Float64Array[];
}

/**
 * The numbers of a rule base. `counted` says how often each cause was found here: it is added to `strength` runs that are taken for made at
 * the weights of the base (the mean of a Dirichlet posterior).
 */
export function faultTable(
  { causes, tests }: RuleBase,
  counted: Readonly<Record<string, number>> = {},
  strength = 20,
): FaultTable {
  const causeIds = [...causes.map(({ id }) => id), NOT_LISTED];
  const sum = causes.reduce((all, { weight }) => all + weight, 0) || 1;
  const shares = [...causes.map(({ weight }) => (weight / sum) * (1 - NOT_LISTED_SHARE)), NOT_LISTED_SHARE];
  const found = causeIds.map((id) => Math.max(0, counted[id] ?? 0));
  const all = strength + found.reduce((n, one) => n + one, 0);
  return {
    causeIds,
    priors: Float64Array.from(shares, (share, n) => (share * strength + found[n]!) / all),
    tests: tests.map((test) => {
      const can = test.outcomes.map((outcome) => causeIds.map((id) => canShow(test, outcome, id)));
      return {
        id: test.id,
        costS: test.costS,
        outcomeIds: test.outcomes.map(({ id }) => id),
        chances: can.map((row) =>
          Float64Array.from(row, (one, n) => (one ? 1 / can.filter((other) => other[n]).length : 0)),
        ),
      };
    }),
  };
}

/** What was found out: the outcome of a test. */
export type Answers = Readonly<Record<string, string>>;

/** How likely each cause is after the answers, summing to 1; all 0 when the answers contradict each other. */
export function posterior({ priors, tests }: FaultTable, answers: Answers): Float64Array {
  const after = Float64Array.from(priors);
  for (const { id, outcomeIds, chances } of tests) {
    const row = answers[id] === undefined ? undefined : chances[outcomeIds.indexOf(answers[id])];
    if (row) for (let n = 0; n < after.length; n++) after[n]! *= row[n]!;
  }
  const sum = after.reduce((all, one) => all + one, 0);
  return sum > 0 ? after.map((one) => one / sum) : after;
}
