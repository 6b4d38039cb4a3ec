import { bearingBetween } from '@tombolo/core';
import { ownStation, TRAIL_PER_DEGREE } from '@tombolo/contract';
import type { Settings, StationChange, StationDetail, StationView, TrailPoint, TrailView } from '@tombolo/contract';
import type { StationState } from '../ingest/derived/station-state';
import { rowsOf, touchedBy, type Queries } from '../store/database';
import { repeatersOfOurs } from '../store/evidence';
import { listLinks } from './links';
import { listReadings } from '../readings/readings';
import { firstIdAt, receptionsOf, timeOfId } from '../store/moments';
import { statementsOf, told, type KeptReception } from './statements';

export interface StationRow {
  version: string;
  state: StationState;
  changed_at: Date;
  note: string | null;
  muted: boolean | null;
}

export const MOST_STATIONS = 20_000;
const DETAIL_HOURS = 24;
const MOST_TRAIL_POINTS = 2000;
export const FROM = 'from station s left join station_note n using (call)';
/** Which transaction wrote the row of a station, and which its note: other words for what stands there. */
export const VERSION = `concat_ws(' ', s.xmin, n.xmin) as version`;
export const SELECT = `select ${VERSION}, s.state, s.changed_at, n.note, n.muted ${FROM}`;

/** Stations and objects, the last heard first, with distance and bearing from our own position; `since` gives what changed. */
export async function listStations(queries: Queries, settings: Settings, since?: Date): Promise<StationView[]> {
  const rows = await rowsOf<StationRow>(
    queries,
    `${SELECT} ${since ? 'where s.changed_at >= $2' : ''} order by s.last_at desc limit $1`,
    since ? [MOST_STATIONS, since] : [MOST_STATIONS],
  );
  const repeaters = await repeatersOfOurs(queries);
  return rows.map((row) => stationView(row, settings, repeaters));
}

export async function findStation(
  queries: Queries,
  call: string,
  settings: Settings,
  now: Date,
): Promise<StationDetail | null> {
  const [row] = await rowsOf<StationRow>(queries, `${SELECT} where s.call = $1`, [call]);
  if (!row) return null;
  const since = new Date(now.getTime() - DETAIL_HOURS * 3_600_000);
  const last = await lastHeard(
    queries,
    row.state.kind === 'object' || row.state.kind === 'item' ? row.state.owner : call,
    row.state.words,
  );
  return {
    ...stationView(row, settings, await repeatersOfOurs(queries)),
    line: last ? told(last).line : null,
    statements: last ? (await statementsOf(queries, [last], ownStation(settings)))[0]! : [],
    trail: await trailOf(queries, call, since),
    links: await listLinks(queries, call),
    readings: [
      ...(row.state.weatherAtMs !== null ? await listReadings(queries, 'weather', since, call) : []),
      ...(row.state.telemetryAtMs !== null ? await listReadings(queries, 'telemetry', since, call) : []),
    ],
  };
}

/** Of the copies of the last packet of a station the one that some words tell of, else the first. */
async function lastHeard(queries: Queries, source: string | null, words: string): Promise<KeptReception | null> {
  const [packet] = await rowsOf<{ id: string }>(
    queries,
    'select id from packet where source = $1 order by id desc limit 1',
    [source],
  );
  if (!packet) return null;
  const copies = await rowsOf<KeptReception>(
    queries,
    `select r.raw, r.form, c.import_id from reception r join channel c on c.id = r.channel_id
     where r.packet_id = $1 and r.id between $2 and $3 order by r.id`,
    [packet.id, ...receptionsOf([packet.id])],
  );
  return copies.find((copy) => told(copy).words === words) ?? copies[0] ?? null;
}

/** Notes of the operator and whether a station is muted; false when it has never been heard. */
export async function changeStation(queries: Queries, call: string, change: StationChange, at: Date): Promise<boolean> {
  if ((await touchedBy(queries, 'update station set changed_at = $2 where call = $1', [call, at])) === 0) return false;
  await queries.query(
    `insert into station_note (call, note, muted) values ($1, coalesce($2, ''), coalesce($3, false))
     on conflict (call) do update set note = coalesce($2, station_note.note), muted = coalesce($3, station_note.muted)`,
    [call, change.note ?? null, change.muted ?? null],
  );
  return true;
}

/** The trail of one station, also the points kept off it, oldest first. */
export async function trailOf(queries: Queries, call: string, since: Date): Promise<TrailPoint[]> {
  const rows = await rowsOf<{
    packet_id: string;
    latitude: number;
    longitude: number;
    course_deg: number | null;
    speed_knots: number | null;
    altitude_m: number | null;
    fault: string | null;
  }>(queries, 'select * from trail_point where call = $1 and packet_id >= $2 order by packet_id desc limit $3', [
    call,
    firstIdAt(since),
    MOST_TRAIL_POINTS,
  ]);
  return rows.reverse().map((row) => ({
    at: timeOfId(row.packet_id).toISOString(),
    latitude: row.latitude,
    longitude: row.longitude,
    courseDeg: row.course_deg,
    speedKnots: row.speed_knots,
    altitudeM: row.altitude_m,
    fault: row.fault,
  }));
}

/** The most points that one trail on the chart needs. */
const TRAIL_VERTICES = 200;

/** Trails of all that moved since `from`; with `changed` only of those that have a newer point. */
export async function listTrails(queries: Queries, from: Date, changed?: Date): Promise<TrailView[]> {
  const rows = await rowsOf<{ call: string; x: number[]; y: number[] }>(
    queries,
    `select call, json_agg(x) as x, json_agg(y) as y
     from (select call, (longitude * ${TRAIL_PER_DEGREE})::int as x, (latitude * ${TRAIL_PER_DEGREE})::int as y
           from trail_point where fault is null and packet_id >= $1
           ${changed ? 'and call in (select call from trail_point where fault is null and packet_id >= $2)' : ''}
           order by call, packet_id) t
     group by call having count(*) > 1`,
    changed ? [firstIdAt(from), firstIdAt(changed)] : [firstIdAt(from)],
  );
  return rows.map(({ call, x, y }) => {
    const start = Math.max(0, x.length - TRAIL_VERTICES);
    const steps = [x[start]!, y[start]!];
    for (let i = start + 1; i < x.length; i++) steps.push(x[i]! - x[i - 1]!, y[i]! - y[i - 1]!);
    return { call, steps };
  });
}

const iso = (ms: number | null): string | null => (ms === null ? null : new Date(ms).toISOString());

export function stationView(row: StationRow, settings: Settings, repeaters: ReadonlySet<string>): StationView {
  const { state } = row;
  const { latitude, longitude } = state;
  const bearing =
    settings.position && latitude !== null && longitude !== null
      ? bearingBetween(settings.position, { latitude, longitude })
      : null;
  return {
    call: state.call,
    kind: state.kind,
    name: state.name,
    owner: state.owner,
    live: state.live,
    conflict: state.conflict,
    firstAt: new Date(state.firstAtMs).toISOString(),
    lastAt: new Date(state.lastAtMs).toISOString(),
    how: state.how,
    via: [...state.via],
    words: state.words,
    repeatsUs: state.via.length === 1 && repeaters.has(state.via[0]!),
    bearerId: state.bearerId,
    bearers: [...state.bearers],
    directAt: iso(state.directAtMs),
    relaysAt: iso(state.relaysAtMs),
    messaging: state.messaging,
    latitude,
    longitude,
    ambiguity: state.ambiguity,
    positionAt: iso(state.positionAtMs),
    symbol: state.symbol,
    courseDeg: state.courseDeg,
    speedKnots: state.speedKnots,
    altitudeM: state.altitudeM,
    comment: state.comment,
    status: state.status,
    message: state.message,
    frequency: state.frequency,
    weatherAt: iso(state.weatherAtMs),
    telemetryAt: iso(state.telemetryAtMs),
    packets: state.packets,
    moves: state.moves,
    doubtAt: iso(state.doubt?.atMs ?? null),
    distanceKm: bearing?.distanceKm ?? null,
    azimuthDeg: bearing?.azimuthDeg ?? null,
    muted: row.muted ?? false,
    note: row.note ?? '',
    changedAt: row.changed_at.toISOString(),
  };
}
