import { leastOfSurest } from './nearly-surest';

const way = (name: string, chance: number, airS: number) => ({ name, chance, airS });
const least = (...ways: readonly ReturnType<typeof way>[]) => leastOfSurest(ways, (one) => one)?.name;

describe('of ways that are nearly as sure as the surest', () => {
  it('is taken what takes least of the channel', () => {
    expect(least()).toBeUndefined();
    expect(least(way('two hops', 0.97, 9), way('one', 0.968, 5), way('direct', 0.9, 1))).toBe('one');
    expect(least(way('two hops', 0.97, 9), way('one', 0.96, 5))).toBe('two hops');
  });

  it('is taken the first where the least differ by no more than rounding', () => {
    expect(least(way('one hop', 0.97, 5.0000000001), way('two hops', 0.97, 5))).toBe('one hop');
    expect(least(way('one hop', 0.97, 5.1), way('direct', 0.97, 5))).toBe('direct');
  });

  it('is not taken what has no chance at all where the surest has little', () => {
    expect(least(way('over a digipeater', 0.004, 6), way('direct', 0.0001, 1))).toBe('over a digipeater');
    expect(least(way('over two', 0.004, 9), way('over one', 0.0036, 6), way('direct', 0, 1))).toBe('over one');
  });
});
