import { likelyHearings, type HeardOverHops } from './unsigned-hops';

const HOUR = 3_600_000;
const direct = (node: string): HeardOverHops => ({ node, hops: 0, relayed: [] });
const over = (node: string, hops: number, count = 6): HeardOverHops => ({
  node,
  hops,
  relayed: [{ atMs: HOUR, count }],
});

describe('who carried what nobody signed', () => {
  it('is the only one that can have', () => {
    expect(likelyHearings([direct('ROOF'), over('FARM', 1)], () => 0.01)).toEqual([
      { from: 'FARM', by: 'ROOF', hours: [{ atMs: HOUR, heard: 0, inferred: 6, missed: 0 }] },
    ]);
  });

  it('is shared out by what is likely, and nothing is counted twice', () => {
    const chances: Record<string, number> = { ROOF: 0.6, RIG: 0.2, FAR: 0.001 };
    const shares = likelyHearings(
      [direct('ROOF'), direct('RIG'), direct('FAR'), over('FARM', 1, 8)],
      (_, by) => chances[by]!,
    );
    expect(shares.map(({ by }) => by)).toEqual(['ROOF', 'RIG']);
    expect(shares[0]!.hours[0]!.inferred).toBeCloseTo(8 * (0.6 / 0.801), 9);
    expect(shares.reduce((sum, { hours }) => sum + hours[0]!.inferred, 0)).toBeLessThanOrEqual(8);
  });

  it('goes step by step outwards, and tells nothing across a step of which nobody is known', () => {
    const chain = [direct('A'), over('B', 1), over('C', 2), over('E', 4)];
    expect(likelyHearings(chain, () => 0.5).map(({ from, by }) => `${from}>${by}`)).toEqual(['B>A', 'C>B']);
    expect(likelyHearings([over('B', 1)], () => 0.5)).toEqual([]);
    expect(likelyHearings([direct('A'), over('B', 1)], () => 0)).toEqual([]);
    expect(likelyHearings([direct('A'), { ...over('B', 1), relayed: [] }], () => 0.5)).toEqual([]);
  });
});
