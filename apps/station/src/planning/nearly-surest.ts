/** Ways whose chances differ by less are equally sure, for what is known. */
const NEARLY = 0.005;
/** Of a small chance no more than so much is given away: what has none at all is not as good as what has little. */
const NEARLY_OF_SMALL = 0.2;

/** Of those that are nearly as sure as the surest, the one that takes least of the channel; undefined of none. */
export function leastOfSurest<T>(
  all: readonly T[],
  of: (one: T) => { readonly chance: number; readonly airS: number },
): T | undefined {
  const surest = Math.max(0, ...all.map((one) => of(one).chance));
  const enough = surest - Math.min(NEARLY, NEARLY_OF_SMALL * surest);
  return all.filter((one) => of(one).chance >= enough).sort((a, b) => of(a).airS - of(b).airS)[0];
}
