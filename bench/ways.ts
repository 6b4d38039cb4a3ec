import {
  arrivalOf,
  beliefOf,
  crossingChance,
  expectedS,
  findWays,
  seeded,
  type Crossing,
  type HopLink,
} from '@tombolo/core';
import { DirectedGraph } from 'graphology';
import { dijkstra } from 'graphology-shortest-path';
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
  // The same net as a general library of graphs has it: the shortest expected time alone, from the same holder to the same ones.
  const graph = new DirectedGraph<object, { s: number }>();
  for (const { from, to, arrival } of net) {
    const s = expectedS(arrival) ?? Infinity;
    graph.mergeNode(from);
    graph.mergeNode(to);
    if (!graph.hasEdge(from, to) || graph.getEdgeAttribute(graph.edge(from, to)!, 's') > s)
      graph.mergeEdge(from, to, { s });
  }
  const shortest = Array.from({ length: ROUNDS }, (_, n) =>
    timeOf(() => dijkstra.bidirectional(graph, 'n0', `n${100 * (n + 1)}`, 's')),
  );
  const fromOne = Array.from({ length: ROUNDS }, () => timeOf(() => dijkstra.singleSource(graph, 'n0', 's')));
  return [
    {
      name: 'ways against one Dijkstra from the same holder to all (graphology)',
      value: median(searches) / median(fromOne),
      unit: 'times',
      goal: 20,
      better: 'less',
      note: `that takes ${median(fromOne).toFixed(1)} ms; from both ends at once, to one, ${median(shortest).toFixed(2)} ms`,
    },
    {
      name: 'ways over 2 000 holders and 20 000 crossings',
      value: median(searches),
      unit: 'ms',
      goal: 250,
      better: 'less',
      note: `median of ${ROUNDS}, the slowest ${Math.max(...searches).toFixed(0)} ms`,
    },
    {
      name: 'chance of one crossing over 12 links and two repeats, exactly',
      value: median(crossings),
      unit: 'ms',
      goal: 10,
      better: 'less',
      note: '32 draws of what is believed; the goal is our own',
    },
  ];
}
