import { bearingBetween } from '@tombolo/core';
import type { Settings, StationView } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { repeatersOfOurs } from '../store/evidence';

interface StationRow {
  call: string;
  first_at: Date;
  last_at: Date;
  how: StationView['how'];
  via: string[];
  words: string;
  bearer_id: string | null;
  position_at: Date | null;
  latitude: number | null;
  longitude: number | null;
  symbol: string | null;
  course_deg: number | null;
  speed_knots: number | null;
  comment: string | null;
}

const MOST_STATIONS = 2000;

/** Stations heard, newest first, with distance and bearing from our own position. */
export async function listStations(queries: Queries, settings: Settings): Promise<StationView[]> {
  const rows = await rowsOf<StationRow>(queries, 'select * from station order by last_at desc limit $1', [
    MOST_STATIONS,
  ]);
  const repeaters = await repeatersOfOurs(queries);
  return rows.map((row) => stationView(row, settings, repeaters));
}

export async function findStation(queries: Queries, call: string, settings: Settings): Promise<StationView | null> {
  const [row] = await rowsOf<StationRow>(queries, 'select * from station where call = $1', [call]);
  return row ? stationView(row, settings, await repeatersOfOurs(queries)) : null;
}

function stationView(row: StationRow, settings: Settings, repeaters: ReadonlySet<string>): StationView {
  const bearing =
    settings.position && row.latitude !== null && row.longitude !== null
      ? bearingBetween(settings.position, { latitude: row.latitude, longitude: row.longitude })
      : null;
  return {
    call: row.call,
    firstAt: row.first_at.toISOString(),
    lastAt: row.last_at.toISOString(),
    how: row.how,
    via: row.via,
    words: row.words,
    repeatsUs: row.via.length === 1 && repeaters.has(row.via[0]!),
    bearerId: row.bearer_id,
    latitude: row.latitude,
    longitude: row.longitude,
    positionAt: row.position_at?.toISOString() ?? null,
    symbol: row.symbol,
    courseDeg: row.course_deg,
    speedKnots: row.speed_knots,
    comment: row.comment,
    distanceKm: bearing?.distanceKm ?? null,
    azimuthDeg: bearing?.azimuthDeg ?? null,
  };
}
