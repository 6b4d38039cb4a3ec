import { bearingBetween, linksOf, type Position } from '@tombolo/core';
import { inBlocks, numberArray, type Queries } from '../../store/database';
import type { Stored } from '../store-heard';
import { meshConfigs, type MeshConfig } from '../mesh/config';
import type { StationState } from './station-state';

interface HeardBy extends Pick<ReturnType<typeof linksOf>[number], 'from' | 'by' | 'first' | 'certain'> {
  /** Not heard, although a copy by another road proves that there was something to hear. */
  readonly missed?: true;
}

interface Counted {
  readonly from: string;
  readonly by: string;
  count: number;
  first: number;
  certain: number;
  firstAtMs: number;
  lastAtMs: number;
  /** By the hour since 1970: how often proved, inferred, and missed. */
  readonly hours: Map<number, [number, number, number]>;
  newestHour: number;
}

/** By who heard, then by who was heard: a key of both would have to be made and hashed for each link of each reception. */
type Counts = Map<string, Map<string, Counted>>;

const HOUR_MS = 3_600_000;
const HOURS_KEPT = 48;

/** Who heard whom in one reception. */
function linksHeard(
  { understood: { outer, packet, mesh, heard, path }, isNewPacket }: Stored,
  own: string | null,
  nodes: ReadonlyMap<string, MeshConfig> | null,
): readonly HeardBy[] {
  if (mesh) {
    // Whoever repeats in a mesh does not say so: only of a frame without hops is it known who transmitted it.
    const by = nodes?.get(heard.bearerId ?? '')?.node;
    if (by === undefined || mesh.sender === by) return [];
    if (mesh.hops === 0) return [{ from: mesh.sender, by, first: true, certain: true }];
    return isNewPacket ? [missed(mesh.sender, by)] : [];
  }
  // Of a packet that was passed on only the outer transmission was heard.
  if (!outer || !packet) return [];
  const receiver = heard.form === 'ax25' ? (own ?? 'us') : null;
  const links = linksOf(outer, receiver, outer === packet ? (path ?? undefined) : undefined);
  // A repeat that comes before the packet itself: that was not heard.
  const silent =
    isNewPacket && receiver !== null && path?.how === 'relayed' && outer === packet && outer.source !== receiver;
  return silent ? [...links, missed(outer.source, receiver)] : links;
}

const missed = (from: string, by: string): HeardBy => ({ from, by, first: false, certain: false, missed: true });

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
  const counted: Counts = new Map();
  return {
    async add(queries, stored) {
      const nodes = stored.some(({ understood }) => understood.mesh !== null) ? await meshConfigs(queries) : null;
      for (const one of stored) count(counted, one, own, nodes);
    },
    async write(queries, states) {
      await writeLinks(queries, counted, own, states);
      counted.clear();
    },
  };
}

function count(counted: Counts, stored: Stored, own: OwnReceiver, nodes: ReadonlyMap<string, MeshConfig> | null): void {
  const { heardAtMs } = stored.understood.heard;
  for (const { from, by, first, certain, missed: silent } of linksHeard(stored, own.call, nodes)) {
    let ofHearer = counted.get(by);
    if (!ofHearer) counted.set(by, (ofHearer = new Map()));
    let before = ofHearer.get(from);
    if (!before) {
      before = {
        from,
        by,
        count: 0,
        first: 0,
        certain: 0,
        firstAtMs: heardAtMs,
        lastAtMs: heardAtMs,
        hours: new Map(),
        newestHour: -Infinity,
      };
      ofHearer.set(from, before);
    }
    countHour(before, Math.floor(heardAtMs / HOUR_MS), silent ? 2 : certain ? 0 : 1);
    if (silent) continue;
    // What was only missed so far was not heard at that time.
    before.firstAtMs = before.count === 0 ? heardAtMs : Math.min(before.firstAtMs, heardAtMs);
    before.lastAtMs = before.count === 0 ? heardAtMs : Math.max(before.lastAtMs, heardAtMs);
    before.count++;
    if (first) before.first++;
    if (certain) before.certain++;
  }
}

/** As the database keeps them when more come: two days from the newest hour back. */
function countHour(link: Counted, hour: number, which: 0 | 1 | 2): void {
  const { hours } = link;
  if (hour > link.newestHour) {
    link.newestHour = hour;
    for (const before of hours.keys()) if (before <= hour - HOURS_KEPT) hours.delete(before);
  }
  if (hour <= link.newestHour - HOURS_KEPT) return;
  const seen = hours.get(hour);
  if (seen) seen[which]++;
  else hours.set(hour, [which === 0 ? 1 : 0, which === 1 ? 1 : 0, which === 2 ? 1 : 0]);
}

async function writeLinks(
  queries: Queries,
  counted: Counts,
  own: OwnReceiver,
  states: ReadonlyMap<string, StationState>,
): Promise<void> {
  const all = [...counted.values()].flatMap((ofHearer) => [...ofHearer.values()]);
  // Sorted, so that two processes lock rows in the same order.
  all.sort((a, b) => (a.by === b.by ? (a.from < b.from ? -1 : 1) : a.by < b.by ? -1 : 1));
  await inBlocks(all, (block) => writeBlock(queries, block, own, states));
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
  const distances = rows.map(({ from, by, count: n }) => (n === 0 ? null : distanceKm(placeOf(from), placeOf(by))));
  await queries.query(
    `insert into heard_link as l (from_call, by_call, count, first_count, certain_count, first_at, last_at, best_km, best_at, hours)
     select f, b, c, n, p, to_timestamp(s / 1000), to_timestamp(t / 1000), km, case when km is null then null else to_timestamp(t / 1000) end, h
     from unnest($1::text[], $2::text[], $3::int[], $4::int[], $5::int[], $6::float8[], $7::float8[], $8::float8[], $9::jsonb[])
       as r (f, b, c, n, p, s, t, km, h)
     on conflict (from_call, by_call) do update set
       count = l.count + excluded.count, first_count = l.first_count + excluded.first_count,
       certain_count = l.certain_count + excluded.certain_count,
       first_at = case when excluded.count = 0 then l.first_at when l.count = 0 then excluded.first_at
         else least(l.first_at, excluded.first_at) end,
       last_at = case when excluded.count = 0 then l.last_at when l.count = 0 then excluded.last_at
         else greatest(l.last_at, excluded.last_at) end,
       hours = merged_hours(l.hours, excluded.hours),
       best_at = case when excluded.best_km > coalesce(l.best_km, 0) then excluded.best_at else l.best_at end,
       best_km = greatest(l.best_km, excluded.best_km)`,
    [
      rows.map((r) => r.from),
      rows.map((r) => r.by),
      numberArray(rows.map((r) => r.count)),
      numberArray(rows.map((r) => r.first)),
      numberArray(rows.map((r) => r.certain)),
      numberArray(rows.map((r) => r.firstAtMs)),
      numberArray(rows.map((r) => r.lastAtMs)),
      numberArray(distances),
      rows.map((r) => JSON.stringify(Object.fromEntries(r.hours))),
    ],
  );
}

/** Between where both are now known to be; null where one is not. */
const distanceKm = (from: Position | null, by: Position | null): number | null =>
  from && by ? bearingBetween(from, by).distanceKm : null;
