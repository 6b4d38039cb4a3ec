import type { GroundView } from '@tombolo/contract';
import { MOST_AREA_DEG } from '@tombolo/contract/reach';
import { bearingBetween, type HeightGrid, type Position } from '@tombolo/core';

/** An area of the map by its edges, and on how many meridians and parallels its ground is asked for. */
export type Area = Omit<HeightGrid, 'heightsM'>;

const KM_PER_DEGREE = 111.2;
/** Nearer to the poles meridians are no measure. */
const HIGHEST = 85;

/** A square around a place; cut at 180°, and no wider than the station tells at once. */
export function areaAround({ latitude, longitude }: Position, radiusKm: number, stepKm: number): Area {
  const down = Math.min(MOST_AREA_DEG / 2, radiusKm / KM_PER_DEGREE);
  const across = Math.min(
    MOST_AREA_DEG / 2,
    radiusKm / (KM_PER_DEGREE * Math.cos((Math.min(HIGHEST, Math.abs(latitude)) * Math.PI) / 180)),
  );
  const side = Math.max(2, Math.round((2 * radiusKm) / stepKm) + 1);
  return {
    south: Math.max(-90, latitude - down),
    north: Math.min(90, latitude + down),
    west: Math.max(-180, longitude - across),
    east: Math.min(180, longitude + across),
    columns: side,
    rows: side,
  };
}

/** The least area that holds some places with room around them, its edges on whole parts of a degree, so that a small move asks for nothing new. */
export function areaOf(places: readonly Position[], stepKm: number): Area | null {
  if (places.length === 0) return null;
  const edges = (values: readonly number[], most: number): [number, number] => {
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const room = Math.max(LEAST_ROOM_DEG, (high - low) * ROOM);
    const from = Math.max(-most, Math.floor((low - room) * PARTS) / PARTS);
    return [from, Math.min(most, from + MOST_AREA_DEG, Math.ceil((high + room) * PARTS) / PARTS)];
  };
  const [south, north] = edges(
    places.map(({ latitude }) => latitude),
    90,
  );
  const [west, east] = edges(
    places.map(({ longitude }) => longitude),
    180,
  );
  const high = bearingBetween({ latitude: south, longitude: west }, { latitude: north, longitude: west }).distanceKm;
  const middle = (south + north) / 2;
  const wide = bearingBetween({ latitude: middle, longitude: west }, { latitude: middle, longitude: east }).distanceKm;
  const points = (km: number) => Math.max(2, Math.min(MOST_SIDE, Math.round(km / stepKm) + 1));
  return { south, north, west, east, columns: points(wide), rows: points(high) };
}
const ROOM = 0.12;
const LEAST_ROOM_DEG = 0.04;
const PARTS = 50;
const MOST_SIDE = 400;

/** Places farther than this are on no map of the same net. */
export const MOST_NET_KM = 150;

/** The ground as it came, decoded: signed 16 bits, the low octet first. */
export function gridOf(area: Area, { heights }: Pick<GroundView, 'heights'>): HeightGrid {
  const octets = atob(heights);
  const heightsM = new Int16Array(area.columns * area.rows);
  for (let n = 0; n < heightsM.length; n++)
    heightsM[n] = octets.charCodeAt(2 * n) | (octets.charCodeAt(2 * n + 1) << 8);
  return { ...area, heightsM };
}
