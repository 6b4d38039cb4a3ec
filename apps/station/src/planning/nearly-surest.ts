/** Ways whose chances differ by less are equally sure, for what is known. */
const NEARLY = 0.005;
/** Of a small chance no more than so much is given away: what has none at all is not as good as what has little. */
const NEARLY_OF_SMALL = 0.2;

/** What differs by less comes to the same: chances are sums over draws, and rounded (common practice, no source). */
const SAME = 1.001;

/** The first of those that come to the least, or to the same; undefined of none. */
export function firstOfLeast<T>(all: readonly T[], of: (one: T) => number): T | undefined {
  const least = Math.min(...all.map(of));
  return all.find((one) => of(one) <= SAME * least);
}

/** Of those that are nearly as sure as the surest, the one that takes least of the channel, the first where several do; undefined of none. */
export function leastOfSurest<T>(
  all: readonly T[],
  of: (one: T) => { readonly chance: number; readonly airS: number },
): T | undefined {
  const surest = Math.max(0, ...all.map((one) => of(one).chance));
  const enough = surest - Math.min(NEARLY, NEARLY_OF_SMALL * surest);
  return firstOfLeast(
    all.filter((one) => of(one).chance >= enough),
    (one) => of(one).airS,
  );
}
