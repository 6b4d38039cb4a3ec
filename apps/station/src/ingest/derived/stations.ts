import { inBlocks, rowsOf, type Queries } from '../../store/database';
import { storableJson } from '../../store/storable-json';
import { serviceAddresses } from '../../services/directory';
import type { Stored } from '../store-heard';
import { draftOf, type Draft } from './draft';
import { sightNode } from './node-sighting';
import { sight, sightObject, sightRelay, type PlacedPoint, type Sighting } from './sighting';
import type { StationState } from './station-state';

/** Where a station or object is kept: its call, or `;` or `)` and the name of an object or item. */
export const objectKey = (kind: 'object' | 'item', name: string): string => `${kind === 'object' ? ';' : ')'}${name}`;

/** A point of a trail, with the packet that told it. */
export interface TrailRow {
  readonly call: string;
  readonly packetId: string;
  readonly point: PlacedPoint;
}

/** The states of stations while receptions are folded into them. */
export interface StationFold {
  readonly states: ReadonlyMap<string, StationState>;
  /** Folds receptions in; states that are not there yet are read. */
  add(queries: Queries, stored: readonly Stored[]): Promise<void>;
  /** The points for the trails since it was asked last. */
  takePoints(): TrailRow[];
  /** Writes what changed. */
  write(queries: Queries, changedAt: Date): Promise<void>;
}

const NONE: ReadonlySet<string> = new Set();
/** More states than this are not kept once they are written. */
const MOST_STATES = 50_000;

/**
 * Folds stored receptions into the states of the stations they concern. One writer at a time does so (the lock of the ingest, or of the
 * rebuild), so states are read once, folded and written back whole.
 */
export function createStationFold(): StationFold {
  const states = new Map<string, Draft>();
  const changed = new Set<string>();
  let points: TrailRow[] = [];
  return {
    states,
    async add(queries, stored) {
      const keys = keysOf(stored);
      for (const [call, state] of await statesOf(
        queries,
        [...keys].filter((key) => !states.has(key)),
      ))
        states.set(call, state);
      const services = stored.some(({ understood }) => understood.mesh) ? await serviceAddresses(queries) : NONE;
      for (const row of stored) fold(row, states, points, services);
      for (const key of keys) if (states.has(key)) changed.add(key);
    },
    takePoints() {
      const taken = points;
      points = [];
      return taken;
    },
    async write(queries, changedAt) {
      await writeStates(
        queries,
        [...changed].map((key) => states.get(key)!),
        changedAt,
      );
      changed.clear();
      if (states.size > MOST_STATES) states.clear();
    },
  };
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
  states: Map<string, Draft>,
  points: TrailRow[],
  services: ReadonlySet<string>,
): void {
  const { packet, path, heard, words, information, mesh } = understood;
  if (packetId === null) return;
  const put = (call: string, { state, point }: { state: Draft; point: PlacedPoint | null }) => {
    states.set(call, state);
    if (point && point.fault !== 'same') points.push({ call, packetId, point });
  };
  if (mesh) {
    const { heardAtMs: atMs, bearerId } = heard;
    put(
      mesh.sender,
      sightNode(states.get(mesh.sender) ?? null, { atMs, words, bearerId, frame: mesh, isNewPacket, services }),
    );
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

async function statesOf(queries: Queries, keys: readonly string[]): Promise<Map<string, Draft>> {
  if (keys.length === 0) return new Map();
  const rows = await rowsOf<{ call: string; state: StationState }>(
    queries,
    'select call, state from station where call = any($1)',
    [keys],
  );
  return new Map(rows.map(({ call, state }) => [call, draftOf(state)]));
}

async function writeStates(queries: Queries, states: readonly StationState[], changedAt: Date): Promise<void> {
  if (states.length === 0) return;
  // Sorted, so that two processes lock rows in the same order.
  const sorted = [...states].sort((a, b) => (a.call < b.call ? -1 : 1));
  await inBlocks(sorted, (block) => writeBlock(queries, block, changedAt));
}

const writeBlock = (queries: Queries, states: readonly StationState[], changedAt: Date): Promise<unknown> =>
  queries.query(
    `insert into station (call, state, last_at, changed_at)
     select value->>'call', value, to_timestamp((value->>'lastAtMs')::float8 / 1000), $2
     from json_array_elements($1::json)
     on conflict (call) do update set state = excluded.state, last_at = excluded.last_at, changed_at = excluded.changed_at`,
    // As one document: quoting each as an element of an array takes twice as long.
    [`[${states.map(storableJson).join(',')}]`, changedAt],
  );
