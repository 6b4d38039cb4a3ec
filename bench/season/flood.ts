import type { World } from './world';

/** One on the air: who sent it, over whom it came, and what of its path is left. */
export interface Transmission {
  readonly by: string;
  readonly via: readonly string[];
  readonly left: readonly string[];
}

export interface Flooded {
  /** Each in its order. */
  readonly transmissions: readonly Transmission[];
  /** Who heard which of them. */
  readonly heard: (call: string) => readonly Transmission[];
}

/** What is left of a path after one more has repeated it; null where that one does not repeat it. */
function served(role: 'wide' | 'fill-in', path: readonly string[]): readonly string[] | null {
  const [first, ...rest] = path;
  if (first === undefined) return null;
  if (first === 'WIDE1-1') return rest;
  // A fill-in answers to nothing else.
  if (role !== 'wide') return null;
  if (first === 'WIDE2-2') return ['WIDE2-1', ...rest];
  return first === 'WIDE2-1' ? rest : null;
}

/** One packet through the net: every digipeater that hears it and is asked repeats it once. */
export function flood(world: World, from: string, path: readonly string[], atS: number, draw: string): Flooded {
  const digipeaters = world.stations.filter(
    (station): station is typeof station & { role: 'wide' | 'fill-in' } =>
      station.role === 'wide' || station.role === 'fill-in',
  );
  const transmissions: Transmission[] = [{ by: from, via: [], left: path }];
  const repeated = new Set<string>();
  const heardIt = (by: string, to: string, via: readonly string[]) =>
    by !== to && world.heard(by, to, atS, `${draw}${via.join()}`);
  for (let n = 0; n < transmissions.length; n++) {
    const { by, via, left } = transmissions[n]!;
    for (const { call, role } of digipeaters) {
      if (repeated.has(call) || call === from) continue;
      const next = served(role, left);
      if (next === null || !heardIt(by, call, via)) continue;
      repeated.add(call);
      transmissions.push({ by: call, via: [...via, call], left: next });
    }
  }
  return { transmissions, heard: (call) => transmissions.filter(({ by, via }) => heardIt(by, call, via)) };
}
