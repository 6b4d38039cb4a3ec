import { betaQuantile, meanOf } from './beta';
import { crossingChance, type HopLink } from './reliability';
import { seeded } from './seeded';
import { coupled, leftAfter, type Together } from './together';

const link = (from: string, to: string, alpha: number, beta: number): HopLink => ({
  from,
  to,
  belief: { alpha, beta },
});
const links = [
  link('us', 'near', 1.2, 0.9),
  link('us', 'high', 3, 1),
  link('near', 'far', 6, 2),
  link('high', 'far', 2, 1.5),
  link('near', 'board', 5, 1),
];
const over = (by: string, to: string) =>
  links.filter((one) => [one.from, one.to].includes(by) && [by, to].includes(one.to));
const TRIES = 4;

/** Of a way over one digipeater that is tried some times. */
const way = (by: string, to: string, causes: [string, number][]): Together => ({
  causes: new Map(causes),
  draws: crossingChance(over(by, to), 'us', to, 1, seeded(7)).draws.map((r) => 1 - (1 - r) ** TRIES),
});

/** The same by throwing dice: chances of links, causes and every try, each as often as it comes. */
function byDice(
  first: { by: string; to: string; causes: [string, number][] },
  other: { by: string; to: string; causes: [string, number][] },
): number {
  const random = seeded(91);
  // A quantile of each belief from a table: the dice are many.
  const tables = new Map(
    links.map((one) => [one, Array.from({ length: 400 }, (_, n) => betaQuantile(one.belief, (n + 0.5) / 400))]),
  );
  let failed = 0;
  let arrived = 0;
  for (let n = 0; n < 120_000; n++) {
    const chances = new Map(links.map((one) => [one, tables.get(one)![Math.floor(random() * 400)]!]));
    const holds = new Map<string, boolean>();
    const comes = ({ by, to, causes }: typeof first) => {
      const all = causes.map(([name, chance]) => {
        if (!holds.has(name)) holds.set(name, random() < chance);
        return holds.get(name)!;
      });
      const tries = Array.from({ length: TRIES }, () => over(by, to).every((one) => random() < chances.get(one)!));
      return all.every(Boolean) && tries.some(Boolean);
    };
    const [one, two] = [comes(first), comes(other)];
    if (one) continue;
    failed++;
    if (two) arrived++;
  }
  return arrived / failed;
}

describe('two ways judged together', () => {
  const near = {
    by: 'near',
    to: 'far',
    causes: [
      ['far answers', 0.8],
      ['path near', 0.9],
    ] as [string, number][],
  };
  const high = {
    by: 'high',
    to: 'far',
    causes: [
      ['far answers', 0.8],
      ['path high', 0.9],
    ] as [string, number][],
  };
  const board = { by: 'near', to: 'board', causes: [['board answers', 0.95]] as [string, number][] };
  const told = (first: typeof near, other: typeof near) => {
    const [a, b] = [first, other].map(({ by, to, causes }) => way(by, to, causes)) as [Together, Together];
    const chance =
      [...b.causes.values()].reduce((all, p) => all * p, 1) * (b.draws.reduce((s, p) => s + p, 0) / b.draws.length);
    return chance * leftAfter(a, b);
  };

  it.each([
    ['the same far set by two digipeaters', near, high],
    ['two far sets by one digipeater', near, board],
    ['nothing shared', high, board],
  ])('come to what dice give: %s', (_, first, other) => {
    // 32 draws of each link stand for its belief.
    expect(Math.abs(told(first, other) - byDice(first, other))).toBeLessThan(0.03);
  });

  it('keep all of their chance where they share nothing, and less the more they do', () => {
    const [far, same, apart] = [
      way('near', 'far', near.causes),
      way('high', 'far', high.causes),
      way('near', 'board', board.causes),
    ];
    expect(leftAfter({ ...far, draws: far.draws.map(() => 0.7) }, apart)).toBeCloseTo(1, 10);
    expect(leftAfter(far, apart)).toBeLessThan(0.95);
    expect(leftAfter(far, same)).toBeLessThan(0.8);
    // What surely arrives leaves nothing to tell; what cannot is not raised.
    expect(leftAfter({ causes: new Map(), draws: [1] }, same)).toBe(1);
    expect(leftAfter(far, { causes: new Map([['never', 0]]), draws: [0.5] })).toBe(1);
    // A way is the same twice: what failed by it is left to the doubt of its links and causes.
    expect(leftAfter(far, far)).toBeLessThan(leftAfter(far, same));
  });

  it('draw the chances of one link together in every crossing', () => {
    const alone = crossingChance([links[0]!], 'us', 'near', 0, seeded(7)).draws;
    const sure = crossingChance([links[0]!, link('near', 'far', 1e9, 1)], 'us', 'far', 1, seeded(7)).draws;
    alone.forEach((p, n) => expect(sure[n]).toBeCloseTo(p, 6));
    // And those of another one for themselves.
    const other = crossingChance([links[1]!], 'us', 'high', 0, seeded(7)).draws;
    const [a, b] = [meanOf(links[0]!.belief), meanOf(links[1]!.belief)];
    const covariance = alone.reduce((sum, p, n) => sum + (p - a) * (other[n]! - b), 0) / alone.length;
    const spread = (draws: readonly number[], m: number) =>
      Math.sqrt(draws.reduce((s, p) => s + (p - m) ** 2, 0) / draws.length);
    expect(Math.abs(covariance / (spread(alone, a) * spread(other, b)))).toBeLessThan(0.4);
  });
});

it('chances are coupled by rank', () => {
  expect(coupled([0.1, 0.2, 0.3, 0.4], [5, 2, 9, 3])).toEqual([0.3, 0.1, 0.4, 0.2]);
  expect(coupled([0.1, 0.4], [5, 2, 9, 3])).toEqual([0.4, 0.1, 0.4, 0.1]);
});
