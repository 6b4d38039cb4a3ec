/** Who hears whom, taken as going both ways. */
export interface Tie {
  readonly from: string;
  readonly to: string;
}

/**
 * Those on whom others hang: without one of them some who reached each other no longer do (articulation points, in linear time after
 * Hopcroft and Tarjan 1973). Walked with a stack of its own, so that a long chain of stations is no danger.
 */
export function articulationPoints(edges: readonly Tie[]): Set<string> {
  const neighbours = new Map<string, string[]>();
  for (const { from, to } of edges) {
    if (from === to) continue;
    for (const [one, other] of [
      [from, to],
      [to, from],
    ] as const) {
      const known = neighbours.get(one);
      if (known) known.push(other);
      else neighbours.set(one, [other]);
    }
  }
  const points = new Set<string>();
  const found = new Map<string, number>();
  /** The earliest found that is reached from beyond, by one step back at most. */
  const lowest = new Map<string, number>();
  for (const root of neighbours.keys()) {
    if (found.has(root)) continue;
    let branches = 0;
    const stack = [{ at: root, from: null as string | null, next: 0 }];
    found.set(root, found.size);
    lowest.set(root, found.get(root)!);
    while (stack.length > 0) {
      const here = stack.at(-1)!;
      const other = neighbours.get(here.at)![here.next++];
      if (other === undefined) {
        stack.pop();
        if (here.from === null) continue;
        lowest.set(here.from, Math.min(lowest.get(here.from)!, lowest.get(here.at)!));
        if (here.from !== root && lowest.get(here.at)! >= found.get(here.from)!) points.add(here.from);
      } else if (other !== here.from) {
        const before = found.get(other);
        if (before !== undefined) lowest.set(here.at, Math.min(lowest.get(here.at)!, before));
        else {
          if (here.at === root) branches++;
          found.set(other, found.size);
          lowest.set(other, found.get(other)!);
          stack.push({ at: other, from: here.at, next: 0 });
        }
      }
    }
    if (branches > 1) points.add(root);
  }
  return points;
}

/** On whom others hang, seen from one of them: who would be cut off without whom, those who cut off most first. */
export function cutOffWithout(
  ties: readonly Tie[],
  from: string,
): { readonly without: string; readonly cutOff: readonly string[] }[] {
  const everybody = reachedFrom(ties, from, null);
  return [...articulationPoints(ties)]
    .filter((point) => point !== from && everybody.has(point))
    .map((without) => {
      const left = reachedFrom(ties, from, without);
      return { without, cutOff: [...everybody].filter((one) => one !== without && !left.has(one)).sort() };
    })
    .filter(({ cutOff }) => cutOff.length > 0)
    .sort((a, b) => b.cutOff.length - a.cutOff.length || (a.without < b.without ? -1 : 1));
}

function reachedFrom(ties: readonly Tie[], from: string, without: string | null): Set<string> {
  const neighbours = new Map<string, string[]>();
  for (const { from: one, to: other } of ties) {
    if (one === without || other === without) continue;
    neighbours.set(one, [...(neighbours.get(one) ?? []), other]);
    neighbours.set(other, [...(neighbours.get(other) ?? []), one]);
  }
  const reached = new Set([from]);
  const waiting = [from];
  for (let here = waiting.pop(); here !== undefined; here = waiting.pop())
    for (const other of neighbours.get(here) ?? []) {
      if (reached.has(other)) continue;
      reached.add(other);
      waiting.push(other);
    }
  return reached;
}
