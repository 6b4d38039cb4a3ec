import { audienceOf, enoughOf } from './audience';
import { beliefOf } from './beta';
import { crossingChance, type HopLink } from './reliability';
import { seeded } from './seeded';

/** What is as good as certain, or as good as never. */
const hop = (from: string, to: string, chance: number): HopLink => ({ from, to, belief: beliefOf(chance, 1e6) });
const over = (path: readonly string[], hops: readonly HopLink[], repeaters = ['QT0TH-3', 'QT0OX-2']) =>
  audienceOf({ path, hops }, 'QT2AR-7', repeaters, ['QT6CL', 'QT4LB-8', 'QT1NC'], seeded(1));

const net = [
  hop('QT2AR-7', 'QT6CL', 0.8),
  hop('QT2AR-7', 'QT0TH-3', 0.9),
  hop('QT0TH-3', 'QT6CL', 0.5),
  hop('QT0TH-3', 'QT4LB-8', 0.6),
  hop('QT0TH-3', 'QT0OX-2', 0.7),
  hop('QT0OX-2', 'QT1NC', 0.4),
];

describe('who hears what goes to everybody', () => {
  it('is whoever hears us straight, and with each repeat those whom it brings', () => {
    const direct = over([], net);
    expect([...direct.chances]).toEqual([
      ['QT6CL', expect.closeTo(0.8, 6)],
      ['QT4LB-8', 0],
      ['QT1NC', 0],
    ]);
    const one = over(['WIDE1-1'], net);
    // By hand: straight, or by the one that repeats: 1 − 0.2 · (1 − 0.9 · 0.5).
    expect(one.chances.get('QT6CL')).toBeCloseTo(1 - 0.2 * (1 - 0.45), 1);
    expect(one.chances.get('QT4LB-8')).toBeCloseTo(0.54, 1);
    expect(one.chances.get('QT1NC')).toBe(0);
    const two = over(['WIDE1-1', 'WIDE2-1'], net);
    expect(two.chances.get('QT1NC')).toBeCloseTo(0.9 * 0.7 * 0.4, 1);
    expect([direct.repeats, one.repeats, two.repeats]).toEqual([0, 1, 2]);
    expect(two.expected).toBeCloseTo(
      [...two.chances.values()].reduce((a, b) => a + b),
      9,
    );
  });

  it('agrees with the reliability of the net, reckoned for each by itself', () => {
    for (const path of [['WIDE1-1'], ['WIDE1-1', 'WIDE2-1']])
      for (const [to, chance] of over(path, net).chances) {
        const { draws } = crossingChance(net, 'QT2AR-7', to, path.length, seeded(2));
        expect(Math.abs(chance - draws.reduce((sum, p) => sum + p, 0) / draws.length)).toBeLessThan(0.04);
      }
  });

  it('is carried by nobody who does not repeat', () => {
    expect(over(['WIDE1-1'], net, []).chances.get('QT4LB-8')).toBe(0);
    // The clinic hears it, and keeps it.
    expect(over(['WIDE2-2'], [...net, hop('QT6CL', 'QT1NC', 1)], []).chances.get('QT1NC')).toBe(0);
  });

  it('is enough by the fewest repeats that nearly as many hear', () => {
    const of = (path: readonly string[], expected: number, repeats = path.length) => ({
      path,
      repeats,
      chances: new Map<string, number>(),
      expected,
    });
    const [none, fill, two] = [[], ['WIDE1-1'], ['WIDE1-1', 'WIDE2-1']];
    expect(enoughOf([of(two, 10), of(fill, 9), of(none, 4)])?.path).toBe(fill);
    expect(enoughOf([of(two, 10), of(fill, 8.9), of(none, 4)])?.path).toBe(two);
    expect(enoughOf([of(none, 9.5), of(two, 10), of(fill, 9.6)])?.path).toBe(none);
    // Of two that repeat as often it is the one that more hear.
    expect(enoughOf([of(['WIDE2-2'], 9.5, 2), of(two, 10)])?.path).toBe(two);
    expect(enoughOf([])).toBeNull();
    expect(enoughOf([of(none, 0), of(two, 0)])).toBeNull();
  });
});
