import { arrivalOf, beliefOf, crossingChance, findWays, seeded, type Crossing, type HopLink } from '@tombolo/core';
import { median, type Figure } from './figure';

const HOLDERS = 2000;
const CROSSINGS = 20_000;
const ROUNDS = 9;

/** A net of stations that hand on, each crossing with retries. */
function netOf(random: () => number): Crossing[] {
  return Array.from({ length: CROSSINGS }, (_, n) => ({
    id: String(n),
    from: `n${Math.floor(random() * HOLDERS)}`,
    to: `n${Math.floor(random() * HOLDERS)}`,
    arrival: arrivalOf([
      { atS: 5 + 100 * random(), chance: 0.3 + 0.3 * random() },
      { atS: 100 + 300 * random(), chance: 0.3 * random() },
    ]),
    airS: 1 + 5 * random(),
    proof: Math.floor(4 * random()),
    hands: 0,
  })).filter(({ from, to }) => from !== to);
}

const timeOf = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

/** The ways that are not beaten in a large net, and the chance of one crossing over a dozen links. */
export async function ways(): Promise<Figure[]> {
  const random = seeded(7);
  const net = netOf(random);
  const searches = Array.from({ length: ROUNDS }, (_, n) =>
    timeOf(() => findWays(net, 'n0', `n${100 * (n + 1)}`, { deadlineS: 3600 })),
  );
  const ends = ['us', 'a', 'b', 'c', 'far'];
  const links: HopLink[] = ends
    .flatMap((from) => ends.flatMap((to) => (from === to || to === 'us' || from === 'far' ? [] : [{ from, to }])))
    .slice(0, 12)
    .map((link) => ({ ...link, belief: beliefOf(0.3 + 0.5 * random(), 5) }));
  const crossings = Array.from({ length: 5 * ROUNDS }, () =>
    timeOf(() => crossingChance(links, 'us', 'far', 2, random)),
  );
  return [
    {
      name: 'ways over 2 000 holders and 20 000 crossings',
      value: median(searches),
      unit: 'ms',
      goal: 250,
      better: 'less',
      note: `median of ${ROUNDS}, the slowest ${Math.max(...searches).toFixed(0)} ms`,
    },
    {
      name: 'chance of one crossing over 12 links, every state',
      value: median(crossings),
      unit: 'ms',
      goal: 10,
      better: 'less',
      note: '32 draws of what is believed; the goal is our own',
    },
  ];
}
