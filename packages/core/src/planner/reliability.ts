import { betaParts, rememberedOf, type Belief } from './beta';
import { seeded } from './seeded';

/** One station hears another directly, with a chance that is believed. */
export interface HopLink {
  readonly from: string;
  readonly to: string;
  readonly belief: Belief;
}

/** Up to so many links every state is looked at. */
export const MOST_EXACT_LINKS = 12;
const SAMPLES = 4000;
/** Chances drawn for each link from what is believed of it. */
export const DRAWS = 32;

export interface CrossingChance {
  /** Chance of one transmission, for chances drawn together for all links: equally likely. */
  readonly draws: readonly number[];
  /** Links that matter; a link on no way is left out. */
  readonly links: readonly HopLink[];
  /** Standard error of a draw where states were sampled; 0 where every state was looked at. */
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
  const chances = drawn(links, random);
  const exact = links.length <= MOST_EXACT_LINKS;
  const draws = exact
    ? byStates(links, from, to, mostHops, chances)
    : bySamples(links, from, to, mostHops, chances, random);
  return { draws, links, standardError: exact ? 0 : Math.sqrt(0.25 / (SAMPLES / DRAWS)) };
}

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

/**
 * For each link so many chances, one from each equal part of its belief, in an order that is the link's own: two crossings over one link draw
 * the same chances together (common random numbers), so that what fails together is told as such.
 */
function drawn(links: readonly HopLink[], random: () => number): number[][] {
  const base = Math.floor(random() * 2 ** 32);
  return links.map(({ from, to, belief }) => {
    const ofLink = seeded(base ^ hashOf(`${from}>${to}`));
    const order = Array.from({ length: DRAWS }, (_, n) => n);
    for (let n = DRAWS - 1; n > 0; n--) {
      const other = Math.floor(ofLink() * (n + 1));
      [order[n], order[other]] = [order[other]!, order[n]!];
    }
    const parts = partsOf(belief);
    return order.map((part) => parts[part]!);
  });
}

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

function bySamples(
  links: readonly HopLink[],
  from: string,
  to: string,
  mostHops: number,
  chances: readonly (readonly number[])[],
  random: () => number,
): number[] {
  const flood = createFlood(links, from, mostHops, chances, random);
  const far = flood.number(to);
  const each = SAMPLES / DRAWS;
  return Array.from({ length: DRAWS }, (_, draw) => {
    let arrived = 0;
    for (let sample = 0; sample < each; sample++) if (flood.reaches(draw, far)) arrived++;
    return arrived / each;
  });
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
  const flood = createFlood(links, from, mostHops, drawn(links, random), random);
  const counts = new Uint32Array(flood.names.length);
  for (let draw = 0; draw < DRAWS; draw++)
    for (let sample = 0; sample < SAMPLES / DRAWS; sample++)
      for (const there of flood.reached(draw)) counts[there]! += 1;
  return new Map(
    flood.names.flatMap((name, n): [string, number][] =>
      name === from || counts[n] === 0 ? [] : [[name, counts[n]! / SAMPLES]],
    ),
  );
}

/**
 * Floods of `from` in which every link is up or not by its chance, one after the other. Stations are numbers, and who was reached is marked by
 * the number of the flood, so that nothing is made or cleared for one of thousands.
 */
function createFlood(
  links: readonly HopLink[],
  from: string,
  mostHops: number,
  chances: readonly (readonly number[])[],
  random: () => number,
) {
  const { ends, number, names } = numbered(links);
  const first = number(from);
  const outgoing = names.map((): number[] => []);
  for (const [n, [start]] of ends.entries()) outgoing[start]!.push(n);
  // The links of a station behind one another, those of `here` from begins[here] on.
  const order = outgoing.flat();
  const begins = new Uint32Array(names.length + 1);
  for (const [here, links] of outgoing.entries()) begins[here + 1] = begins[here]! + links.length;
  const target = Uint32Array.from(order, (n) => ends[n]![1]);
  const up = Array.from({ length: DRAWS }, (_, draw) => Float64Array.from(order, (n) => chances[n]![draw]!));
  const mark = new Uint32Array(names.length);
  const queue = new Uint32Array(names.length);
  let flood = 0;
  /** How many are reached: so many of the queue. It ends where `to` is. */
  const run = (draw: number, to: number): number => {
    flood++;
    const chance = up[draw]!;
    mark[first] = flood;
    queue[0] = first;
    let [begin, end] = [0, 1];
    for (let hop = 0; hop <= mostHops && begin < end && mark[to] !== flood; hop++)
      for (const until = end; begin < until; begin++)
        for (let n = begins[queue[begin]!]!, last = begins[queue[begin]! + 1]!; n < last; n++) {
          const there = target[n]!;
          if (mark[there] === flood || random() >= chance[n]!) continue;
          mark[there] = flood;
          queue[end++] = there;
        }
    return end;
  };
  return {
    names,
    number,
    reaches(draw: number, to: number): boolean {
      run(draw, to);
      return mark[to] === flood;
    },
    /** Valid until the next flood. */
    reached: (draw: number): Uint32Array => queue.subarray(0, run(draw, NOBODY)),
  };
}
const NOBODY = -1;

function numbered(links: readonly HopLink[]) {
  const numbers = new Map<string, number>();
  const names: string[] = [];
  const number = (name: string) => {
    const known = numbers.get(name);
    if (known !== undefined) return known;
    numbers.set(name, names.length);
    return names.push(name) - 1;
  };
  return { ends: links.map(({ from, to }) => [number(from), number(to)] as const), number, names };
}

/** Mean over the draws of the chance that one of `tries` gets across, 1 − (1 − R)ⁿ: links that fail together fail together again. */
export const withinTries = (draws: readonly number[], tries: number): number =>
  draws.length === 0 ? 0 : draws.reduce((sum, r) => sum + 1 - (1 - r) ** tries, 0) / draws.length;

/** Chance that at least one of several arrives that share nothing which may fail: 1 − Π(1 − pₙ). */
export const chanceOfEither = (chances: readonly number[]): number =>
  1 - chances.reduce((none, chance) => none * (1 - chance), 1);
