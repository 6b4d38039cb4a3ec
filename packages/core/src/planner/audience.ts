import { meanOf } from './beta';
import { pathHops } from './paths';
import type { HopLink } from './reliability';

/** A path, and the hops as it finds them. */
export interface PathTried {
  readonly path: readonly string[];
  readonly hops: readonly HopLink[];
}

/** Who hears what goes to everybody over one path. */
export interface Audience {
  readonly path: readonly string[];
  /** How often it is repeated at most. */
  readonly repeats: number;
  /** Chance that each hears one transmission, 0 to 1. */
  readonly chances: ReadonlyMap<string, number>;
  /** How many of them hear it on average. */
  readonly expected: number;
}

/** Floods that are drawn: the standard error of a chance is below 0.012. */
const FLOODS = 2000;

/**
 * Who hears one transmission of ours that is meant for everybody, such as a position or a bulletin. Each hop is used once in a flood, so that
 * its mean chance is enough: what is believed of it need not be drawn.
 * @param repeaters those who pass on what they hear; all others keep it
 * @param listeners whose hearing it matters
 */
export function audienceOf(
  { path, hops }: PathTried,
  own: string,
  repeaters: readonly string[],
  listeners: readonly string[],
  random: () => number,
): Audience {
  const passesOn = new Set([own, ...repeaters]);
  const repeats = pathHops(path);
  const from = new Map<string, { readonly to: string; readonly chance: number }[]>();
  for (const hop of hops)
    if (passesOn.has(hop.from) && hop.to !== own)
      from.set(hop.from, [...(from.get(hop.from) ?? []), { to: hop.to, chance: meanOf(hop.belief) }]);
  const chances = repeats === 0 ? straight(from.get(own) ?? []) : flooded(from, own, repeats, random);
  const told = new Map(listeners.map((to) => [to, chances.get(to) ?? 0]));
  return { path, repeats, chances: told, expected: [...told.values()].reduce((sum, chance) => sum + chance, 0) };
}

type Outgoing = readonly { readonly to: string; readonly chance: number }[];

const straight = (outgoing: Outgoing): Map<string, number> => new Map(outgoing.map(({ to, chance }) => [to, chance]));

/** In how many of the floods each is reached. */
function flooded(
  from: ReadonlyMap<string, Outgoing>,
  own: string,
  repeats: number,
  random: () => number,
): Map<string, number> {
  const counts = new Map<string, number>();
  for (let flood = 0; flood < FLOODS; flood++) {
    const reached = new Set([own]);
    let edge = [own];
    for (let hop = 0; hop <= repeats && edge.length > 0; hop++) {
      const next: string[] = [];
      for (const here of edge)
        for (const { to, chance } of from.get(here) ?? [])
          if (!reached.has(to) && random() < chance) {
            reached.add(to);
            next.push(to);
          }
      edge = next;
    }
    for (const call of reached) counts.set(call, (counts.get(call) ?? 0) + 1);
  }
  return new Map([...counts].map(([call, count]) => [call, count / FLOODS]));
}

/** A longer path has to bring at least one more for nine that hear it anyhow: each repeat takes the channel from everybody (common practice, no source). */
const ENOUGH = 0.9;

/** The path of the fewest repeats that nearly as many hear as any other, of these the one that most hear; null where nobody hears any. */
export function enoughOf(audiences: readonly Audience[]): Audience | null {
  const most = Math.max(0, ...audiences.map(({ expected }) => expected));
  if (most === 0) return null;
  return audiences
    .filter(({ expected }) => expected >= ENOUGH * most)
    .reduce((best, one) =>
      one.repeats < best.repeats || (one.repeats === best.repeats && one.expected > best.expected) ? one : best,
    );
}
