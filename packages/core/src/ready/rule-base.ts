/** A fault that can be behind a symptom. */
export interface FaultCause {
  readonly id: string;
  readonly words: string;
  /** What to do about it. */
  readonly remedy: string;
  /** How often it is the fault, against the others; estimates, until runs that were kept say more. */
  readonly weight: number;
}

/** What a test can show. */
export interface TestOutcome {
  readonly id: string;
  readonly words: string;
  /** Causes that always show it; `rest`: all that show none of the others. */
  readonly shows: readonly string[] | 'rest';
  /** Causes that show it at times. */
  readonly maybe?: readonly string[];
}

/** A look, a press or a question, and what each outcome rules out. */
export interface FaultTest {
  readonly id: string;
  readonly question: string;
  /** How long it takes. */
  readonly costS: number;
  /** Where it comes before the order of time: somebody or something can be hurt. */
  readonly danger?: string;
  /** It makes sense only where one of these is seen; left out, wherever it tells causes apart. */
  readonly symptoms?: readonly string[];
  readonly outcomes: readonly TestOutcome[];
}

/** What can be wrong when something is seen, and how to tell. */
export interface RuleBase {
  readonly symptom: string;
  readonly causes: readonly FaultCause[];
  readonly tests: readonly FaultTest[];
}

/** What every rule base may turn out to miss. It shows what nothing wrong would show. */
export const NOT_LISTED = 'not-listed';

/** Whether a cause can show an outcome of a test. */
export function canShow(test: FaultTest, outcome: TestOutcome, causeId: string): boolean {
  if (outcome.maybe?.includes(causeId)) return true;
  if (outcome.shows !== 'rest') return outcome.shows.includes(causeId);
  // What a cause shows always, it shows instead of the rest.
  return !test.outcomes.some(({ shows }) => shows !== 'rest' && shows.includes(causeId));
}

/** All that is wrong with a rule base, in words; empty when it can be used. */
export function ruleBaseFaults({ causes, tests }: RuleBase): string[] {
  const faults: string[] = [];
  const ids = new Set(causes.map(({ id }) => id));
  if (ids.size < causes.length || ids.has(NOT_LISTED)) faults.push('two causes have the same identifier');
  if (new Set(tests.map(({ id }) => id)).size < tests.length) faults.push('two tests have the same identifier');
  for (const { id, weight } of causes)
    if (!(weight > 0 && Number.isFinite(weight))) faults.push(`${id}: how likely it is has to be more than nothing`);
  for (const test of tests) {
    const { id, costS, outcomes } = test;
    if (!(costS > 0 && Number.isFinite(costS))) faults.push(`${id}: it has to take some time`);
    if (outcomes.length < 2) faults.push(`${id}: a test has two outcomes or more`);
    if (new Set(outcomes.map((one) => one.id)).size < outcomes.length) faults.push(`${id}: two outcomes are the same`);
    if (outcomes.filter(({ shows }) => shows === 'rest').length !== 1)
      faults.push(`${id}: exactly one outcome is that of the rest`);
    const always = outcomes.flatMap(({ shows }) => (shows === 'rest' ? [] : shows));
    for (const cause of new Set([...always, ...outcomes.flatMap(({ maybe = [] }) => maybe)]))
      if (!ids.has(cause)) faults.push(`${id}: it names ${cause}, which is no cause`);
    for (const cause of always)
      if (always.indexOf(cause) !== always.lastIndexOf(cause))
        faults.push(`${id}: ${cause} shows two outcomes always, which contradict each other`);
  }
  return [...new Set(faults)];
}
