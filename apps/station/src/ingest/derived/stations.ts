import { rowsOf, type Queries } from '../../store/database';
import { storableJson } from '../../store/storable-json';
import type { Stored } from '../store-heard';
import { sightNode } from './node-sighting';
import { sight, sightObject, sightRelay, type PlacedPoint, type Sighting, type StationState } from './sighting';

/** Where a station or object is kept: its call, or `;` or `)` and the name of an object or item. */
export const objectKey = (kind: 'object' | 'item', name: string): string => `${kind === 'object' ? ';' : ')'}${name}`;

/** A point of a trail, with the packet that told it. */
export interface TrailRow extends PlacedPoint {
  readonly call: string;
  readonly packetId: string;
}

/**
 * Folds stored receptions into the states of the stations they concern. One writer at a time does so (the lock of the ingest), so
 * states are read, folded and written back whole. Returns the points for the trails, and the states as they are now.
 */
export async function updateStations(
  queries: Queries,
  stored: readonly Stored[],
  changedAt: Date,
): Promise<{ points: TrailRow[]; states: ReadonlyMap<string, StationState> }> {
  const states = await statesOf(queries, keysOf(stored));
  const points: TrailRow[] = [];
  for (const row of stored) fold(row, states, points);
  await writeStates(queries, [...states.values()], changedAt);
  return { points, states };
}

function keysOf(stored: readonly Stored[]): Set<string> {
  const keys = new Set<string>();
  for (const { understood } of stored) {
    const { packet, information, mesh } = understood;
    if (mesh) keys.add(mesh.sender);
    if (!packet) continue;
    keys.add(packet.source);
    for (const call of understood.path?.via ?? []) keys.add(call);
    if (information?.kind === 'object' || information?.kind === 'item')
      keys.add(objectKey(information.kind, information.name));
  }
  return keys;
}

function fold(
  { understood, packetId, isNewPacket }: Stored,
  states: Map<string, StationState>,
  points: TrailRow[],
): void {
  const { packet, path, heard, words, information, mesh } = understood;
  if (packetId === null) return;
  const put = (call: string, { state, point }: { state: StationState; point: PlacedPoint | null }) => {
    states.set(call, state);
    if (point && point.fault !== 'same') points.push({ ...point, call, packetId });
  };
  if (mesh) {
    const { heardAtMs: atMs, bearerId } = heard;
    put(mesh.sender, sightNode(states.get(mesh.sender) ?? null, { atMs, words, bearerId, frame: mesh, isNewPacket }));
  }
  if (!packet || !path) return;
  const sighting: Sighting = {
    atMs: heard.heardAtMs,
    path,
    words,
    bearerId: heard.bearerId,
    information,
    source: packet.source,
    isNewPacket,
  };
  put(packet.source, sight(states.get(packet.source) ?? null, packet.source, sighting));
  for (const call of path.via) states.set(call, sightRelay(states.get(call) ?? null, call, sighting));
  if (information?.kind === 'object' || information?.kind === 'item') {
    const key = objectKey(information.kind, information.name);
    put(key, sightObject(states.get(key) ?? null, key, information, sighting));
  }
}

async function statesOf(queries: Queries, keys: ReadonlySet<string>): Promise<Map<string, StationState>> {
  if (keys.size === 0) return new Map();
  const rows = await rowsOf<{ call: string; state: StationState }>(
    queries,
    'select call, state from station where call = any($1)',
    [[...keys]],
  );
  return new Map(rows.map(({ call, state }) => [call, state]));
}

async function writeStates(queries: Queries, states: readonly StationState[], changedAt: Date): Promise<void> {
  if (states.length === 0) return;
  // Sorted, so that two processes lock rows in the same order.
  const sorted = [...states].sort((a, b) => (a.call < b.call ? -1 : 1));
  await queries.query(
    `insert into station (call, state, last_at, changed_at)
     select state->>'call', state, to_timestamp((state->>'lastAtMs')::float8 / 1000), $2
     from unnest($1::json[]) as s (state)
     on conflict (call) do update set state = excluded.state, last_at = excluded.last_at, changed_at = excluded.changed_at`,
    [sorted.map(storableJson), changedAt],
  );
}
