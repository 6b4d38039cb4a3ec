import { audienceOf } from './audience';
import { beliefOf, meanOf } from './beta';
import type { HopLink } from './reliability';
import { expectedRepeats } from './repeats';
import { seeded } from './seeded';

const link = (from: string, to: string, chance: number): HopLink => ({ from, to, belief: beliefOf(chance, 1e8) });

/** By every state of every link: what is repeated in each, weighed by how likely it is. */
function byEveryState(links: readonly HopLink[], repeaters: readonly string[], mostHops: number): number {
  let expected = 0;
  for (let state = 0; state < 2 ** links.length; state++) {
    let weight = 1;
    const up = links.filter(({ belief }, n) => {
      const isUp = Math.floor(state / 2 ** n) % 2 === 1;
      weight *= isUp ? meanOf(belief) : 1 - meanOf(belief);
      return isUp;
    });
    const reached = new Set(['us']);
    for (let hop = 0; hop < mostHops; hop++) {
      const here = new Set(reached);
      for (const { from, to } of up) if (here.has(from) && (from === 'us' || repeaters.includes(from))) reached.add(to);
    }
    expected += weight * repeaters.filter((call) => reached.has(call)).length;
  }
  return expected;
}

describe('how often something is repeated', () => {
  const repeaters = ['a', 'b', 'c'];
  const net = [
    link('us', 'a', 0.9),
    link('us', 'b', 0.4),
    link('a', 'b', 0.7),
    link('b', 'a', 0.6),
    link('a', 'c', 0.5),
    link('b', 'c', 0.8),
    // Neither who only listens nor what comes back to us repeats anything.
    link('a', 'far', 0.9),
    link('far', 'c', 0.9),
    link('a', 'us', 0.9),
  ];

  it('is not at all without a path', () => {
    expect(expectedRepeats(net, 'us', repeaters, 0)).toBe(0);
    expect(expectedRepeats([], 'us', [], 2)).toBe(0);
  });

  it('is once by each that hears it over one hop', () => {
    expect(expectedRepeats(net, 'us', repeaters, 1)).toBeCloseTo(0.9 + 0.4, 6);
  });

  it('is what every state of the links comes to, over one and two hops', () => {
    for (const hops of [1, 2])
      expect(expectedRepeats(net, 'us', repeaters, hops)).toBeCloseTo(byEveryState(net, repeaters, hops), 6);
  });

  it('is the same in nets that are drawn', () => {
    const random = seeded(5);
    for (let n = 0; n < 20; n++) {
      const all = ['us', ...repeaters];
      const drawn = all.flatMap((from) =>
        repeaters.flatMap((to) => (from === to || random() < 0.2 ? [] : [link(from, to, 0.02 + 0.96 * random())])),
      );
      expect(expectedRepeats(drawn, 'us', repeaters, 2)).toBeCloseTo(byEveryState(drawn, repeaters, 2), 6);
    }
  });

  it('is never more than one each, and near to what floods show over three hops', () => {
    const random = seeded(6);
    const all = ['us', ...repeaters, 'd'];
    const drawn = all.flatMap((from) =>
      all.flatMap((to) => (from === to || to === 'us' ? [] : [link(from, to, 0.05 + 0.6 * random())])),
    );
    const expected = expectedRepeats(drawn, 'us', all.slice(1), 3);
    // Who is reached after two repeats repeats it once more.
    const flooded = audienceOf(
      { path: ['WIDE2-2'], hops: drawn },
      'us',
      all.slice(1),
      all.slice(1),
      seeded(7),
    ).expected;
    expect(expected).toBeLessThanOrEqual(4);
    expect(Math.abs(expected - flooded)).toBeLessThan(0.2);
  });
});
