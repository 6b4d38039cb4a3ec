import { betaParts, rememberedOf, type Belief } from './beta';
import { createFlood, numbered, type Directed } from './flood';
import { remembered } from './remembered';
import { seeded } from './seeded';

/** One station hears another directly, with a chance that is believed. */
export interface HopLink extends Directed {
  readonly belief: Belief;
}

/** Over more than two repeats every state of so many links is looked at. */
export const MOST_EXACT_LINKS = 12;
const SAMPLES = 4000;
/** Of a crossing at least so many for each draw, then until a draw is so sure, half as far off as so many arrivals counted would leave it. */
const LEAST_SAMPLES = 16;
const NEAR_ENOUGH = 0.02;
/** Chances drawn for each link from what is believed of it. */
export const DRAWS = 32;

export interface CrossingChance {
  /** Chance of one transmission, for chances drawn together for all links: equally likely. */
  readonly draws: readonly number[];
  /** Links that matter; a link on no way is left out. */
  readonly links: readonly HopLink[];
  /** Standard error of a draw where floods were sampled; 0 where it is exact. */
  readonly standardError: number;
}

/**
 * Chance that one transmission gets from `from` to `to`, when every station between repeats what it hears, up to `mostHops` of them: a
 * flood, so that it is not the product along one path but the reliability of the whole net with a limit of hops.
 */
export function crossingChance(
  all: readonly HopLink[],
  from: string,
  to: string,
  mostHops: number,
  random: () => number,
): CrossingChance {
  const links = linksBetween(all, from, to, mostHops);
  if (links.length === 0) return { draws: Array<number>(DRAWS).fill(0), links, standardError: 0 };
  return { ...chanceOf(links, from, to, mostHops, baseOf(random)), links };
}

/** Nets are asked for the same crossing for each of those behind a gateway: so many are kept. */
const MOST_CROSSINGS = 500;

const chanceOf = remembered(
  (links: readonly HopLink[], from: string, to: string, mostHops: number, base: number) =>
    [
      `${base} ${mostHops} ${from}>${to}`,
      ...links.map((link) => `${link.from}>${link.to} ${link.belief.alpha} ${link.belief.beta}`),
    ].join('\n'),
  (links, from, to, mostHops, base): Omit<CrossingChance, 'links'> => {
    const chances = drawn(links, base);
    const flood = createFlood(links, from, to, chances);
    const each = (chance: (draw: number) => number) => Array.from({ length: DRAWS }, (_, draw) => chance(draw));
    const exactly = (draws: number[]) => ({ draws, standardError: 0 });
    const random = seeded(base);
    if (mostHops <= 1)
      return exactly(
        each((draw) => {
          flood.run(draw, 0, random);
          return flood.getsThere(draw, mostHops === 1);
        }),
      );
    if (mostHops === 2 && 2 ** flood.hearing <= SAMPLES / DRAWS) return exactly(each(flood.overTwo));
    if (links.length <= MOST_EXACT_LINKS) return exactly(byStates(links, from, to, mostHops, chances));
    return bySamples(flood, mostHops, random);
  },
  MOST_CROSSINGS,
);

/** Links that lie on a way of at most `mostHops` repeats, near the sender before the far ones. */
function linksBetween(all: readonly HopLink[], from: string, to: string, mostHops: number): HopLink[] {
  const distances = (start: string, forward: boolean) => {
    const found = new Map([[start, 0]]);
    let edge = new Set([start]);
    for (let n = 1; n <= mostHops + 1; n++) {
      const next = new Set<string>();
      for (const link of all) {
        const [here, there] = forward ? [link.from, link.to] : [link.to, link.from];
        if (!edge.has(here) || found.has(there)) continue;
        found.set(there, n);
        next.add(there);
      }
      edge = next;
    }
    return found;
  };
  const after = distances(from, true);
  const before = distances(to, false);
  return all
    .filter((link) => {
      const n = after.get(link.from);
      const m = before.get(link.to);
      // Nothing comes back to the sender, or goes on from where it is wanted.
      return n !== undefined && m !== undefined && n + m <= mostHops && link.to !== from && link.from !== to;
    })
    .sort((a, b) => after.get(a.from)! - after.get(b.from)!);
}

/** What a question draws its chances by. */
const baseOf = (random: () => number): number => Math.floor(random() * 2 ** 32);

/**
 * For each link so many chances, one from each equal part of its belief, in an order that is the link's own: two crossings over one link draw
 * the same chances together (common random numbers), so that what fails together is told as such.
 */
const drawn = (links: readonly HopLink[], base: number): number[][] =>
  links.map(({ from, to, belief }) => {
    const parts = partsOf(belief);
    return orderOf(base, `${from}>${to}`).map((part) => parts[part]!);
  });

const orderOf = remembered(
  (base: number, link: string) => `${base} ${link}`,
  (base, link): readonly number[] => {
    const ofLink = seeded(base ^ hashOf(link));
    const order = Array.from({ length: DRAWS }, (_, n) => n);
    for (let n = DRAWS - 1; n > 0; n--) {
      const other = Math.floor(ofLink() * (n + 1));
      [order[n], order[other]] = [order[other]!, order[n]!];
    }
    return order;
  },
);

/** One belief is asked for by crossing after crossing: each link stands on many ways. */
const partsOf = rememberedOf((belief) => betaParts(belief, DRAWS));

/** A number of 32 bits for a name (FNV-1a, from memory). */
function hashOf(name: string): number {
  let hash = 2_166_136_261;
  for (let n = 0; n < name.length; n++) hash = Math.imul(hash ^ name.charCodeAt(n), 16_777_619);
  // Names that differ in their end alone are to begin apart.
  return Math.imul(hash ^ (hash >>> 15), 2_246_822_519) >>> 0;
}

/** Whether it gets there over the links that are up: a bit of `state` for each. */
function getsThere(
  ends: readonly (readonly [number, number])[],
  from: number,
  to: number,
  mostHops: number,
  state: number,
): boolean {
  let reached = 1 << from;
  for (let hop = 0; hop <= mostHops; hop++) {
    let next = reached;
    for (let n = 0; n < ends.length; n++)
      if (state & (1 << n) && reached & (1 << ends[n]![0])) next |= 1 << ends[n]![1];
    if (next & (1 << to)) return true;
    if (next === reached) return false;
    reached = next;
  }
  return false;
}

function byStates(
  links: readonly HopLink[],
  from: string,
  to: string,
  mostHops: number,
  chances: readonly (readonly number[])[],
): number[] {
  const { ends, number } = numbered(links);
  const states = 2 ** links.length;
  const good = new Uint8Array(states);
  for (let state = 0; state < states; state++)
    good[state] = Number(getsThere(ends, number(from), number(to), mostHops, state));
  const weights = new Float64Array(states);
  return Array.from({ length: DRAWS }, (_, draw) => {
    // Chance of each state, grown link by link.
    weights[0] = 1;
    links.forEach((_, link) => {
      const p = chances[link]![draw]!;
      const half = 2 ** link;
      for (let state = 0; state < half; state++) {
        weights[state + half] = weights[state]! * p;
        weights[state]! *= 1 - p;
      }
    });
    return weights.reduce((sum, weight, state) => sum + weight * good[state]!, 0);
  });
}

/**
 * What is sampled is the flood without its last two hops: for those who were reached by then, the chance that it gets there is reckoned
 * (conditional expectation, which scatters less than counting arrivals; from memory).
 */
function bySamples(
  flood: ReturnType<typeof createFlood>,
  mostHops: number,
  random: () => number,
): Pick<CrossingChance, 'draws' | 'standardError'> {
  const sums = new Float64Array(DRAWS);
  let squares = 0;
  for (let taken = 1; ; taken++) {
    for (let draw = 0; draw < DRAWS; draw++) {
      flood.run(draw, mostHops - 1, random);
      const chance = flood.getsThere(draw, true);
      sums[draw]! += chance;
      squares += chance * chance;
    }
    if (taken < LEAST_SAMPLES) continue;
    const within = sums.reduce((sum, one) => sum + (one * one) / taken, 0);
    const standardError = Math.sqrt(Math.max(0, squares - within) / (DRAWS * (taken - 1) * taken));
    if (standardError <= NEAR_ENOUGH || taken === SAMPLES / DRAWS)
      return { draws: Array.from(sums, (sum) => sum / taken), standardError };
  }
}

/**
 * Chance for everybody that one transmission of `from` reaches them, by sampling the whole flood at once: for nets in which everybody repeats,
 * where one crossing after the other would draw the same links again and again. Standard error 0.8 of 100 at most.
 */
export function floodChances(
  links: readonly HopLink[],
  from: string,
  mostHops: number,
  random: () => number,
): ReadonlyMap<string, number> {
  if (links.length === 0) return new Map();
  const flood = createFlood(links, from, null, drawn(links, baseOf(random)));
  const counts = new Uint32Array(flood.names.length);
  for (let draw = 0; draw < DRAWS; draw++)
    for (let sample = 0; sample < SAMPLES / DRAWS; sample++) {
      flood.run(draw, mostHops + 1, random);
      for (const there of flood.reached()) counts[there]! += 1;
    }
  return new Map(
    flood.names.flatMap((name, n): [string, number][] =>
      name === from || counts[n] === 0 ? [] : [[name, counts[n]! / SAMPLES]],
    ),
  );
}

/** Mean over the draws of the chance that one of `tries` gets across, 1 − (1 − R)ⁿ: links that fail together fail together again. */
export const withinTries = (draws: readonly number[], tries: number): number =>
  draws.length === 0 ? 0 : draws.reduce((sum, r) => sum + 1 - (1 - r) ** tries, 0) / draws.length;

/** Chance that at least one of several arrives that share nothing which may fail: 1 − Π(1 − pₙ). */
export const chanceOfEither = (chances: readonly number[]): number =>
  1 - chances.reduce((none, chance) => none * (1 - chance), 1);
