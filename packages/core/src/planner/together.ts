/** What makes a way arrive or not, so that two of them can be judged together. */
export interface Together {
  /** What must hold for it to arrive at all, by name, each with its chance: that they answer, that the path does what is asked. */
  readonly causes: ReadonlyMap<string, number>;
  /** If all of that holds: its chance, for what is believed of links drawn together with every other way; one where it shares no link. */
  readonly draws: readonly number[];
}

/** Chances in rising order, put where `by` rises: what is reckoned of a crossing goes up and down with the links that it goes over. */
export function coupled(rising: readonly number[], by: readonly number[]): number[] {
  const order = by.map((_, n) => n).sort((a, b) => by[a]! - by[b]!);
  const put = Array<number>(by.length);
  order.forEach((at, rank) => (put[at] = rising[Math.floor((rank * rising.length) / order.length)] ?? 0));
  return put;
}

const product = (chances: Iterable<number>): number => [...chances].reduce((all, chance) => all * chance, 1);
const chanceOf = ({ causes, draws }: Together): number => product(causes.values()) * meanOfDraws(draws);
const meanOfDraws = (draws: readonly number[]): number => draws.reduce((sum, p) => sum + p, 0) / draws.length;

/**
 * Of the chance of `other` so much is left where `first` has not arrived: 1 where they share nothing, less the more they hang on the same
 * links and causes. Their tries are made at different times, so that only what lasts is shared: how good a link is, and whether a cause holds.
 */
export function leftAfter(first: Together, other: Together): number {
  const alone = chanceOf(other);
  const fails = 1 - chanceOf(first);
  if (alone <= 0 || fails <= 0) return 1;
  // Where the other one arrives, what both need held.
  const rest = product([...first.causes].flatMap(([name, chance]) => (other.causes.has(name) ? [] : [chance])));
  const many = Math.max(first.draws.length, other.draws.length);
  const at = ({ draws }: Together, n: number) => draws[n % draws.length] ?? 0;
  const both = meanOfDraws(Array.from({ length: many }, (_, n) => at(other, n) * (1 - rest * at(first, n))));
  return Math.min(1, Math.max(0, (product(other.causes.values()) * both) / (fails * alone)));
}
