import type { HourSeen } from './evidence-weight';

/** A node of a flood, as its packets come to us: over how many hops, and what came so in each hour. */
export interface HeardOverHops {
  readonly node: string;
  readonly hops: number;
  /** Packets of it that came over others, by hour. */
  readonly relayed: readonly { readonly atMs: number; readonly count: number }[];
}

/** What was likely heard of one node by another, between us and it. */
export interface LikelyHearing {
  readonly from: string;
  readonly by: string;
  readonly hours: readonly HourSeen[];
}

/** A node that likely heard less of another than this share of its packets is not told of. */
const LEAST_SHARE = 0.05;

/**
 * Who carried what, where nobody signs a repeat: what came over `n` hops was heard first by a node whose own packets come over `n − 1`. Each of
 * those gets as much of it as it is likely to have heard, one step of expectation and maximisation, and never for more than it counts as
 * inferred. Of a node that comes over more hops than any next nearer one is known for nothing is told.
 * @param chanceOf what is believed, before, of a hop from one node to another, 0 to 1
 */
export function likelyHearings(
  nodes: readonly HeardOverHops[],
  chanceOf: (from: string, by: string) => number,
): LikelyHearing[] {
  return nodes.flatMap(({ node, hops, relayed }) => {
    if (hops < 1 || relayed.length === 0) return [];
    const nearer = nodes.filter((one) => one.hops === hops - 1 && one.node !== node);
    const chances = nearer.map((one) => Math.max(0, chanceOf(node, one.node)));
    const all = chances.reduce((sum, chance) => sum + chance, 0);
    return nearer.flatMap(({ node: by }, n): LikelyHearing[] => {
      const share = all > 0 ? chances[n]! / all : 0;
      if (share < LEAST_SHARE) return [];
      const hours = relayed.map(({ atMs, count }) => ({ atMs, heard: 0, inferred: count * share, missed: 0 }));
      return [{ from: node, by, hours }];
    });
  });
}
