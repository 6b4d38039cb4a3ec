import { meanOf } from './beta';
import type { HopLink } from './reliability';

/**
 * How many of those who repeat will repeat one transmission of ours: each that hears it, or one who repeated it, as far as the path goes,
 * and each once. All of them take the channel, whether or not they bring it nearer to whom it is for. Exact for a path of up to two hops;
 * for a longer one as if what reaches them by different roads shared no hop.
 * @param repeaters those who pass on what they hear
 * @param mostHops hops that the path gives
 */
export function expectedRepeats(
  hops: readonly HopLink[],
  own: string,
  repeaters: readonly string[],
  mostHops: number,
): number {
  if (mostHops === 0) return 0;
  const repeats = new Set(repeaters);
  const into = new Map<string, { readonly from: string; readonly chance: number }[]>();
  for (const { from, to, belief } of hops)
    if (to !== own && repeats.has(to) && (from === own || repeats.has(from)))
      into.set(to, [...(into.get(to) ?? []), { from, chance: meanOf(belief) }]);
  let reached = new Map<string, number>();
  for (let hop = 1; hop <= mostHops; hop++) {
    const before = reached;
    reached = new Map(
      [...into].map(([to, links]) => [
        to,
        1 -
          links.reduce(
            (none, { from, chance }) => none * (1 - chance * (from === own ? 1 : (before.get(from) ?? 0))),
            1,
          ),
      ]),
    );
  }
  return [...reached.values()].reduce((sum, chance) => sum + chance, 0);
}
