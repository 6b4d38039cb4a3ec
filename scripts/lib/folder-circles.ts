/** A module with what it imports, as paths from the root of the repository. */
export interface ImportingModule {
  readonly source: string;
  readonly imports: readonly string[];
}

const PROBE = /(\.test\.tsx?$|\/testing\/)/;

/** The room of a file: the first folder under `src` of its workspace. */
function roomOf(path: string): string | null {
  const found = /^((?:apps|packages)\/[^/]+\/src\/[^/]+)\/./.exec(path);
  return found ? found[1]! : null;
}

/**
 * Circles among the rooms of the workspaces: each as the rooms in order, the first one again at the end, and the files that close it. Tests
 * may look anywhere. Empty when the rooms lie in an order.
 */
export function folderCircles(modules: readonly ImportingModule[]): string[] {
  const next = new Map<string, Map<string, string>>();
  for (const { source, imports } of modules) {
    const from = roomOf(source);
    if (from === null || PROBE.test(source)) continue;
    for (const target of imports) {
      const to = roomOf(target);
      if (to === null || to === from || PROBE.test(target)) continue;
      const row = next.get(from) ?? new Map<string, string>();
      if (!row.has(to)) row.set(to, `${source} → ${target}`);
      next.set(from, row);
    }
  }
  const circles: string[] = [];
  const done = new Set<string>();
  const visit = (room: string, road: readonly string[]): void => {
    const at = road.indexOf(room);
    if (at >= 0) {
      const circle = [...road.slice(at), room];
      const files = circle.slice(1).map((to, i) => next.get(circle[i]!)!.get(to)!);
      circles.push(`${circle.join(' → ')}: ${files.join('; ')}`);
      return;
    }
    if (done.has(room)) return;
    for (const to of next.get(room)?.keys() ?? []) visit(to, [...road, room]);
    done.add(room);
  };
  for (const room of next.keys()) visit(room, []);
  return circles;
}
