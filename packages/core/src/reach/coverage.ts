import { bearingBetween, type Position } from '../geo/geodesic';
import { groundLossDb } from './diffraction';
import { freeSpaceLossDb } from '../radio/reach';
import {
  gridPoints,
  gridStepKm,
  groundOfGrid,
  MOST_GRID_POINTS,
  onGrid,
  sampleGround,
  type HeightGrid,
} from './height-grid';
import { NEAREST_KM, weakerGainDb, type RadioEnd } from './link-budget';

/** Where a station is heard, over all cells of a grid of heights. */
export interface CoverageAsked {
  readonly grid: HeightGrid;
  readonly from: Position;
  readonly station: RadioEnd;
  /** Whoever is out there. */
  readonly other: RadioEnd;
  readonly frequencyMHz: number;
}

export interface CoverageRow {
  readonly row: number;
  /** What the weaker of the two directions brings to its receiver, dBm, from the west. */
  readonly receivedDbm: Float32Array;
}

/** Row by row from the north, so that progress can be told and it can be given up. */
export function* coverageRows({ grid, from, station, other, frequencyMHz }: CoverageAsked): Generator<CoverageRow> {
  const stepKm = gridStepKm(grid);
  // One profile for all cells: a million of them would be gathered up again one by one.
  const buffers = Array.from({ length: MOST_GRID_POINTS + 1 }, (_, n) => new Float64Array(n));
  const ground = groundOfGrid(grid);
  const here = onGrid(grid, from);
  const gainDb = weakerGainDb(station, other);
  for (let row = 0; row < grid.rows; row++) {
    const latitude = grid.north - (row / (grid.rows - 1)) * (grid.north - grid.south);
    const scale = kmPerDegree(from, latitude);
    const receivedDbm = new Float32Array(grid.columns);
    for (let column = 0; column < grid.columns; column++) {
      const longitude = grid.west + (column / (grid.columns - 1)) * (grid.east - grid.west);
      const north = (latitude - from.latitude) * scale.north;
      const east = (longitude - from.longitude) * scale.east;
      const distanceKm = Math.max(NEAREST_KM, Math.sqrt(north * north + east * east));
      const groundM = buffers[gridPoints(distanceKm, stepKm)]!;
      const water = sampleGround(ground, grid.columns, here, column, row, groundM);
      const lossDb = groundLossDb({
        distanceKm,
        groundM,
        fromM: groundM[0]! + station.antennaM,
        toM: groundM[groundM.length - 1]! + other.antennaM,
        frequencyMHz,
        water,
      });
      receivedDbm[column] = gainDb - freeSpaceLossDb(distanceKm, frequencyMHz) - lossDb;
    }
    yield { row, receivedDbm };
  }
}

/** Kilometres for a degree between two latitudes, by the ellipsoid at their middle: a thousandth right up to some 100 km. */
function kmPerDegree(from: Position, latitude: number): { readonly north: number; readonly east: number } {
  const middle = (from.latitude + latitude) / 2;
  const half = 0.005;
  const across = (a: Position, b: Position) => bearingBetween(a, b).distanceKm / (2 * half);
  return {
    north: across({ latitude: middle - half, longitude: 0 }, { latitude: middle + half, longitude: 0 }),
    east: across({ latitude: middle, longitude: -half }, { latitude: middle, longitude: half }),
  };
}

/** How well a place is served, by the margin over what its receiver needs. */
export const SERVED = ['well', 'mostly', 'now and then', 'hardly'] as const;
export type Served = (typeof SERVED)[number];
/** So much in hand carries nearly every frame; so little below nothing hardly any (common practice, no source). */
export const SURE_MARGIN_DB = 10;

export function servedBy(marginDb: number): Served {
  if (marginDb >= SURE_MARGIN_DB) return 'well';
  if (marginDb >= 0) return 'mostly';
  return marginDb > -SURE_MARGIN_DB ? 'now and then' : 'hardly';
}

/** Square kilometres of land and of sea by how well they are served. Where no ground is known, it counts as sea. */
export function areaServed(
  grid: HeightGrid,
  rows: readonly Float32Array[],
  neededDbm: number,
): Readonly<Record<'land' | 'sea', Readonly<Record<Served, number>>>> {
  const none = (): Record<Served, number> => ({ well: 0, mostly: 0, 'now and then': 0, hardly: 0 });
  const area = { land: none(), sea: none() };
  const high = (grid.north - grid.south) / (grid.rows - 1);
  const wide = (grid.east - grid.west) / (grid.columns - 1);
  rows.forEach((row, y) => {
    const latitude = grid.north - y * high;
    const { north, east } = kmPerDegree({ latitude, longitude: 0 }, latitude);
    const cellKm2 = high * north * wide * east;
    row.forEach((dbm, x) => {
      const kind = grid.heightsM[y * grid.columns + x]! > 0 ? 'land' : 'sea';
      area[kind][servedBy(dbm - neededDbm)] += cellKm2;
    });
  });
  return area;
}
