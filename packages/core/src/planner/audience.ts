import { meanOf } from './beta';
import { pathHops } from './paths';
import { crossingChance, type HopLink } from './reliability';

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

/**
 * Who hears one transmission of ours that is meant for everybody, such as a position or a bulletin.
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
  const carrying = hops.filter(({ from }) => passesOn.has(from));
  const chances = new Map(
    listeners.map((to) => {
      // Straight there is nothing to draw.
      if (repeats === 0) {
        const direct = carrying.find((hop) => hop.from === own && hop.to === to);
        return [to, direct ? meanOf(direct.belief) : 0] as const;
      }
      const { draws } = crossingChance(carrying, own, to, repeats, random);
      return [to, draws.reduce((sum, draw) => sum + draw, 0) / draws.length] as const;
    }),
  );
  return { path, repeats, chances, expected: [...chances.values()].reduce((sum, chance) => sum + chance, 0) };
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
