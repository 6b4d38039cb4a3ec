/** Ways whose chances differ by less are equally sure, for what is known. */
const NEARLY = 0.005;

/** Of those that are nearly as sure as the surest, the one that takes least of the channel; undefined of none. */
export function leastOfSurest<T>(
  all: readonly T[],
  of: (one: T) => { readonly chance: number; readonly airS: number },
): T | undefined {
  const surest = Math.max(0, ...all.map((one) => of(one).chance));
  return all.filter((one) => of(one).chance >= surest - NEARLY).sort((a, b) => of(a).airS - of(b).airS)[0];
}
