import { articulationPoints, cutOffWithout, type Tie } from './articulation';
import { seeded } from './seeded';

const edges = (...pairs: string[]): Tie[] => pairs.map((pair) => ({ from: pair[0]!, to: pair[1]! }));
const points = (...pairs: string[]) => [...articulationPoints(edges(...pairs))].sort();

/** How many groups there are that reach each other, without one of them. */
function groups(all: readonly Tie[], without: string | null): number {
  const left = all.filter(({ from, to }) => from !== without && to !== without);
  const nodes = new Set(all.flatMap(({ from, to }) => [from, to]).filter((node) => node !== without));
  let count = 0;
  while (nodes.size > 0) {
    count++;
    const reached = new Set([[...nodes][0]!]);
    for (let grown = true; grown;) {
      grown = false;
      for (const { from, to } of left)
        if (reached.has(from) !== reached.has(to)) {
          reached.add(from).add(to);
          grown = true;
        }
    }
    for (const node of reached) nodes.delete(node);
  }
  return count;
}

describe('those on whom others hang', () => {
  it('are the middle of a chain and of a star, and none in a ring', () => {
    expect(points('ab', 'bc', 'cd')).toEqual(['b', 'c']);
    expect(points('ab', 'ac', 'ad')).toEqual(['a']);
    expect(points('ab', 'bc', 'ca')).toEqual([]);
    // Two rings that meet in one (networkx 2.8.8: list(nx.articulation_points(G)) gives ['c']).
    expect(points('ab', 'bc', 'ca', 'cd', 'de', 'ec')).toEqual(['c']);
    expect(points('ab', 'ba', 'aa')).toEqual([]);
    expect(points()).toEqual([]);
  });

  it('are those without whom there are more groups, on a thousand small nets', () => {
    const random = seeded(31);
    const wrong: number[] = [];
    let some = 0;
    for (let net = 0; net < 1000; net++) {
      const names = 'abcdefgh'.slice(0, 3 + Math.floor(random() * 6));
      const all = edges(
        ...[...names].flatMap((one, n) =>
          [...names.slice(n + 1)].filter(() => random() < 0.35).map((other) => one + other),
        ),
      );
      const found = articulationPoints(all);
      if (found.size > 0) some++;
      const before = groups(all, null);
      for (const node of new Set(all.flatMap(({ from, to }) => [from, to])))
        if (found.has(node) !== groups(all, node) > before) wrong.push(net);
    }
    expect(wrong).toEqual([]);
    expect(some).toBeGreaterThan(300);
  });

  it('are found in a chain of 100 000', () => {
    const chain = Array.from({ length: 100_000 }, (_, n) => ({ from: `${n}`, to: `${n + 1}` }));
    expect(articulationPoints(chain).size).toBe(99_999);
  });
});

describe('who would be cut off', () => {
  it('is told from where somebody stands, whoever cuts off most first', () => {
    // us – a – b – c, and d beside a.
    expect(cutOffWithout(edges('ua', 'ab', 'bc', 'ad'), 'u')).toEqual([
      { without: 'a', cutOff: ['b', 'c', 'd'] },
      { without: 'b', cutOff: ['c'] },
    ]);
    expect(cutOffWithout(edges('ua', 'ab', 'bu', 'xy', 'yz'), 'u')).toEqual([]);
    expect(cutOffWithout([], 'u')).toEqual([]);
  });
});
