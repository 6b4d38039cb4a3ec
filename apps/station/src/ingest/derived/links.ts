import { bearingBetween, linksOf, type Position } from '@tombolo/core';
import { blocksOf, type Queries } from '../../store/database';
import type { Stored } from '../store-heard';
import { meshConfigs, type MeshConfig } from '../mesh/config';
import type { Understood } from '../understand';
import type { StationState } from './sighting';

type HeardBy = Pick<ReturnType<typeof linksOf>[number], 'from' | 'by' | 'first' | 'certain'>;

interface Counted {
  readonly from: string;
  readonly by: string;
  count: number;
  first: number;
  certain: number;
  firstAtMs: number;
  lastAtMs: number;
}

/** Who heard whom in one reception. */
function linksHeard(
  { outer, packet, mesh, heard }: Understood,
  own: string | null,
  nodes: ReadonlyMap<string, MeshConfig> | null,
): readonly HeardBy[] {
  if (mesh) {
    // Whoever repeats in a mesh does not say so: only of a frame without hops is it known who transmitted it.
    const by = nodes?.get(heard.bearerId ?? '')?.node;
    return by !== undefined && mesh.hops === 0 && mesh.sender !== by
      ? [{ from: mesh.sender, by, first: true, certain: true }]
      : [];
  }
  // Of a packet that was passed on only the outer transmission was heard.
  return outer && packet ? linksOf(outer, heard.form === 'ax25' ? (own ?? 'us') : null) : [];
}

/** Our station, the receiver of what a modem brings. */
export interface OwnReceiver {
  readonly call: string | null;
  readonly position: Position | null;
}

/** Who was heard by whom, as far as paths tell, and how often they prove it. */
export interface LinkCount {
  add(queries: Queries, stored: readonly Stored[]): Promise<void>;
  write(queries: Queries, states: ReadonlyMap<string, StationState>): Promise<void>;
}

export function createLinkCount(own: OwnReceiver): LinkCount {
  const counted = new Map<string, Counted>();
  return {
    async add(queries, stored) {
      const nodes = stored.some(({ understood }) => understood.mesh !== null) ? await meshConfigs(queries) : null;
      for (const { understood } of stored) count(counted, understood, own, nodes);
    },
    async write(queries, states) {
      await writeLinks(queries, counted, own, states);
      counted.clear();
    },
  };
}

function count(
  counted: Map<string, Counted>,
  understood: Understood,
  own: OwnReceiver,
  nodes: ReadonlyMap<string, MeshConfig> | null,
): void {
  const { heard } = understood;
  for (const { from, by, first, certain } of linksHeard(understood, own.call, nodes)) {
    const key = `${from}>${by}`;
    let before = counted.get(key);
    if (!before) {
      before = { from, by, count: 0, first: 0, certain: 0, firstAtMs: Infinity, lastAtMs: -Infinity };
      counted.set(key, before);
    }
    before.count++;
    if (first) before.first++;
    if (certain) before.certain++;
    before.firstAtMs = Math.min(before.firstAtMs, heard.heardAtMs);
    before.lastAtMs = Math.max(before.lastAtMs, heard.heardAtMs);
  }
}

async function writeLinks(
  queries: Queries,
  counted: ReadonlyMap<string, Counted>,
  own: OwnReceiver,
  states: ReadonlyMap<string, StationState>,
): Promise<void> {
  const all = [...counted.values()].sort((a, b) => (a.from + a.by < b.from + b.by ? -1 : 1));
  for (const block of blocksOf(all)) await writeBlock(queries, block, own, states);
}

async function writeBlock(
  queries: Queries,
  rows: readonly Counted[],
  own: OwnReceiver,
  states: ReadonlyMap<string, StationState>,
): Promise<void> {
  const placeOf = (call: string): Position | null => {
    if (call === own.call && own.position) return own.position;
    const state = states.get(call);
    return state && state.latitude !== null && state.longitude !== null
      ? { latitude: state.latitude, longitude: state.longitude }
      : null;
  };
  const distances = rows.map(({ from, by }) => distanceKm(placeOf(from), placeOf(by)));
  await queries.query(
    `insert into heard_link as l (from_call, by_call, count, first_count, certain_count, first_at, last_at, best_km, best_at)
     select f, b, c, n, p, s, t, km, case when km is null then null else t end
     from unnest($1::text[], $2::text[], $3::int[], $4::int[], $5::int[], $6::timestamptz[], $7::timestamptz[], $8::float8[])
       as r (f, b, c, n, p, s, t, km)
     on conflict (from_call, by_call) do update set
       count = l.count + excluded.count, first_count = l.first_count + excluded.first_count,
       certain_count = l.certain_count + excluded.certain_count,
       first_at = least(l.first_at, excluded.first_at), last_at = greatest(l.last_at, excluded.last_at),
       best_at = case when excluded.best_km > coalesce(l.best_km, 0) then excluded.best_at else l.best_at end,
       best_km = greatest(l.best_km, excluded.best_km)`,
    [
      rows.map((r) => r.from),
      rows.map((r) => r.by),
      rows.map((r) => r.count),
      rows.map((r) => r.first),
      rows.map((r) => r.certain),
      rows.map((r) => new Date(r.firstAtMs)),
      rows.map((r) => new Date(r.lastAtMs)),
      distances,
    ],
  );
}

/** Between where both are now known to be; null where one is not. */
const distanceKm = (from: Position | null, by: Position | null): number | null =>
  from && by ? bearingBetween(from, by).distanceKm : null;
