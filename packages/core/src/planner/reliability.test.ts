import { beliefOf } from './beta';
import { floodChances, chanceOfEither, crossingChance, withinTries, type HopLink } from './reliability';
import { seeded } from './seeded';

/** Known for sure, so that every draw is the same. */
const link = (from: string, to: string, chance: number, strength = 1e8): HopLink => ({
  from,
  to,
  belief: beliefOf(chance, strength),
});
const once = (links: readonly HopLink[], hops: number, seed = 1) =>
  withinTries(crossingChance(links, 'us', 'far', hops, seeded(seed)).draws, 1);

/** By the meaning of it: of every state of all links the chance, where it gets there. */
function ofEveryState(links: readonly HopLink[], hops: number): number {
  let sum = 0;
  for (let state = 0; state < 2 ** links.length; state++) {
    const isUp = (n: number) => Math.floor(state / 2 ** n) % 2 === 1;
    let reached = new Set(['us']);
    for (let hop = 0; hop <= hops; hop++)
      reached = new Set([
        ...reached,
        ...links.flatMap(({ from, to }, n) => (isUp(n) && reached.has(from) ? [to] : [])),
      ]);
    if (!reached.has('far')) continue;
    sum += links.reduce((chance, { belief }, n) => {
      const p = belief.alpha / (belief.alpha + belief.beta);
      return chance * (isUp(n) ? p : 1 - p);
    }, 1);
  }
  return sum;
}

describe('the chance of several ways that share nothing', () => {
  it('is that one of them arrives, as of parallel links', () => {
    expect(chanceOfEither([0.5, 0.4])).toBeCloseTo(0.7, 12);
    expect(chanceOfEither([0.9])).toBeCloseTo(0.9, 12);
    expect(chanceOfEither([])).toBe(0);
    // The same as a net in which two who repeat stand side by side, each after a link that hardly fails: nothing is believed surer.
    const net = [link('us', 'a', 0.999), link('us', 'b', 0.999), link('a', 'far', 0.5), link('b', 'far', 0.4)];
    expect(once(net, 1)).toBeCloseTo(chanceOfEither([0.999 * 0.5, 0.999 * 0.4]), 4);
  });
});

describe('the chance of a crossing over stations that repeat', () => {
  it('is that of series and of parallel ways', () => {
    const series = [link('us', 'd', 0.8), link('d', 'far', 0.5)];
    expect(once(series, 1)).toBeCloseTo(0.4, 3);
    expect(once(series, 0)).toBe(0);
    expect(once([...series, link('us', 'far', 0.3)], 1)).toBeCloseTo(1 - 0.6 * 0.7, 3);
    const two = [...series, link('us', 'e', 0.6), link('e', 'far', 0.5)];
    expect(once(two, 1)).toBeCloseTo(1 - (1 - 0.4) * (1 - 0.3), 3);
    expect(once([...series, link('far', 'us', 0.9), link('x', 'y', 0.9)], 2)).toBeCloseTo(0.4, 3);
  });

  it('is that of the bridge network, which is neither (conditioned on the bridge by hand)', () => {
    const p = 0.7;
    const bridge = [
      ...[link('us', 'a', p), link('us', 'b', p), link('a', 'far', p), link('b', 'far', p)],
      ...[link('a', 'b', p), link('b', 'a', p)],
    ];
    // Each direction of the bridge matters only where it helps: over a to b when a is reached and b is not, and back.
    const state = (ua: number, ub: number) => (ua ? p : 1 - p) * (ub ? p : 1 - p);
    const onward = (a: boolean, b: boolean) => 1 - (a ? 1 - p : 1) * (b ? 1 - p : 1);
    const exact =
      state(1, 1) * onward(true, true) + 2 * state(1, 0) * (p * onward(true, true) + (1 - p) * onward(true, false));
    expect(once(bridge, 2)).toBeCloseTo(exact, 3);
    // With one repeat only the bridge is of no use.
    expect(once(bridge, 1)).toBeCloseTo(1 - (1 - p * p) ** 2, 3);
  });

  it('is what every state of the net gives, counted one after the other', () => {
    const random = seeded(5);
    const shuffled = <T>(all: readonly T[]) => all.map((one) => [random(), one] as const).sort(([a], [b]) => a - b);
    const stations = ['us', 'a', 'b', 'c', 'far'];
    const pairs = stations.flatMap((from) => stations.flatMap((to) => (from === to ? [] : [[from, to] as const])));
    let compared = 0;
    for (let n = 0; n < 25; n++) {
      const net = shuffled(pairs)
        .slice(0, 8)
        .map(([, [from, to]]) => link(from, to, 0.1 + 0.8 * random(), 1e5));
      for (const hops of [0, 1, 2, 3]) {
        const exact = ofEveryState(net, hops);
        expect(once(net, hops)).toBeCloseTo(exact, 3);
        expect(crossingChance(net, 'us', 'far', hops, seeded(1)).standardError).toBe(0);
        if (exact > 0) compared++;
      }
    }
    expect(compared).toBeGreaterThan(50);
  });

  it('is sampled in larger nets, and near to what is so', () => {
    // Eight ways beside each other, of one link more than repeat.
    const wide = (repeat: number, chance: number) =>
      Array.from({ length: 8 }, (_, n) => {
        const way = ['us', ...Array.from({ length: repeat }, (_, m) => `d${n}.${m}`), 'far'];
        return way.slice(1).map((to, m) => link(way[m]!, to, chance));
      }).flat();
    for (const [repeat, chance] of [
      [2, 0.5],
      [3, 0.6],
      [5, 0.7],
    ] as const) {
      const { draws, standardError, links } = crossingChance(wide(repeat, chance), 'us', 'far', repeat, seeded(9));
      expect(links).toHaveLength(8 * (repeat + 1));
      const exact = 1 - (1 - chance ** (repeat + 1)) ** 8;
      expect(standardError).toBeGreaterThan(0.001);
      // Less than counting arrivals would leave; all draws are of the same chances, so that they scatter by this alone.
      expect(standardError).toBeLessThan(0.8 * Math.sqrt((exact * (1 - exact)) / 125));
      const off = draws.map((draw) => draw - exact);
      const scatter = Math.sqrt(off.reduce((sum, d) => sum + d * d, 0) / off.length);
      expect(scatter).toBeGreaterThan(0.6 * standardError);
      expect(scatter).toBeLessThan(1.5 * standardError);
      expect(Math.abs(withinTries(draws, 1) - exact)).toBeLessThan((4 * standardError) / Math.sqrt(32));
    }
    // One who repeats at most: nothing is left to chance, however many there are.
    const { draws, standardError } = crossingChance(wide(1, 0.4), 'us', 'far', 1, seeded(9));
    expect(standardError).toBe(0);
    expect(withinTries(draws, 1)).toBeCloseTo(1 - (1 - 0.16) ** 8, 4);
  });

  it('is spread where little is known, and tries that fail together help less', () => {
    const unsure = [{ from: 'us', to: 'far', belief: beliefOf(0.5, 2) }];
    const { draws } = crossingChance(unsure, 'us', 'far', 0, seeded(4));
    expect(Math.max(...draws) - Math.min(...draws)).toBeGreaterThan(0.9);
    // Beta(1, 1): n / (n + 1), within what 32 draws tell.
    expect(withinTries(draws, 1)).toBeCloseTo(0.5, 2);
    expect(withinTries(draws, 4)).toBeCloseTo(0.8, 2);
    expect(withinTries([], 4)).toBe(0);
  });

  it('is the same for the same seed, and finds nothing where there is no way', () => {
    const links = [{ from: 'us', to: 'd', belief: beliefOf(0.5, 2) }, link('d', 'far', 0.5)];
    const again = () => crossingChance(links, 'us', 'far', 1, seeded(7)).draws;
    expect(again()).toEqual(again());
    expect(once([link('us', 'd', 0.5)], 3)).toBe(0);
  });
});

describe('the chances of everybody in a flood', () => {
  const mesh = [
    link('us', 'a', 0.8),
    link('us', 'b', 0.5),
    link('a', 'far', 0.6),
    link('b', 'far', 0.7),
    link('far', 'end', 0.9),
    link('a', 'us', 0.9),
  ];

  it('are those of each crossing by itself', () => {
    for (const hops of [0, 1, 2, 5]) {
      const flood = floodChances(mesh, 'us', hops, seeded(3));
      for (const to of ['a', 'b', 'far', 'end']) {
        const alone = withinTries(crossingChance(mesh, 'us', to, hops, seeded(1)).draws, 1);
        // Within four standard errors of 4000 samples.
        expect(Math.abs((flood.get(to) ?? 0) - alone)).toBeLessThan(0.032);
      }
    }
  });

  it('are of others alone, and the same for the same draws', () => {
    const flood = floodChances(mesh, 'us', 3, seeded(3));
    expect(flood.has('us')).toBe(false);
    expect(floodChances(mesh, 'us', 3, seeded(3))).toEqual(flood);
    expect(floodChances(mesh, 'nobody', 3, seeded(3)).size).toBe(0);
    expect(floodChances([], 'us', 3, seeded(3)).size).toBe(0);
  });
});
