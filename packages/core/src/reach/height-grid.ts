import { bearingBetween, type Position } from '../geo/geodesic';
import type { ProfilePoint } from './profile';

/** Ground over an area, on lines of latitude and longitude evenly apart, both edges included. */
export interface HeightGrid {
  readonly south: number;
  readonly west: number;
  readonly north: number;
  readonly east: number;
  readonly columns: number;
  readonly rows: number;
  /** Metres above the sea, rows from the north, each from the west; `NOT_MEASURED` where none is known. */
  readonly heightsM: Int16Array;
}

export const NOT_MEASURED = -32768;
export const LEAST_GRID_SIDE = 2;
export const MOST_GRID_CELLS = 1_100_000;

/** Metres above the sea between the four samples around a point; NaN outside, and where one of them was not measured. */
export function gridHeightM(grid: HeightGrid, latitude: number, longitude: number): number {
  const { columns, rows, heightsM } = grid;
  const x = ((longitude - grid.west) / (grid.east - grid.west)) * (columns - 1);
  const y = ((grid.north - latitude) / (grid.north - grid.south)) * (rows - 1);
  if (!(x >= -EDGE && x <= columns - 1 + EDGE && y >= -EDGE && y <= rows - 1 + EDGE)) return NaN;
  const column = Math.max(0, Math.min(columns - 2, Math.floor(x)));
  const row = Math.max(0, Math.min(rows - 2, Math.floor(y)));
  const at = row * columns + column;
  const a = heightsM[at]!;
  const b = heightsM[at + 1]!;
  const c = heightsM[at + columns]!;
  const d = heightsM[at + columns + 1]!;
  if (a === NOT_MEASURED || b === NOT_MEASURED || c === NOT_MEASURED || d === NOT_MEASURED) return NaN;
  const u = x - column;
  const v = y - row;
  return (1 - v) * ((1 - u) * a + u * b) + v * ((1 - u) * c + u * d);
}
/** The rounding of degrees, in cells. */
const EDGE = 1e-6;

/** More points of one profile tell nothing new of a grid as coarse as these. */
export const MOST_GRID_POINTS = 97;
const LEAST_POINTS = 5;

/** So many points are sampled between two places, both ends included. */
export const gridPoints = (distanceKm: number, stepKm: number): number =>
  Math.max(LEAST_POINTS, Math.min(MOST_GRID_POINTS, Math.ceil(distanceKm / stepKm) + 1));

/** How far apart the samples of a grid lie, the nearer of both directions. */
export function gridStepKm(grid: HeightGrid): number {
  const middle = { latitude: (grid.north + grid.south) / 2, longitude: grid.west };
  const down = bearingBetween({ ...middle, latitude: grid.north }, { ...middle, latitude: grid.south }).distanceKm;
  const across = bearingBetween(middle, { ...middle, longitude: grid.east }).distanceKm;
  return Math.min(down / (grid.rows - 1), across / (grid.columns - 1));
}

/** Ground of a grid made ready for many profiles: what is not known and what lies below the sea is the sea. */
export const groundOfGrid = ({ heightsM }: HeightGrid): Float32Array =>
  Float32Array.from(heightsM, (m) => Math.max(0, m));

/**
 * The ground between two points of a grid, by column and row, into an array of as many points as are wanted. Gives the share of the inner
 * points that are water. Drawn straight on latitude and longitude: up to 50 km that is less than 50 m beside the geodesic in the usual
 * latitudes, less than a cell.
 */
export function sampleGround(
  ground: Float32Array,
  columns: number,
  from: readonly [column: number, row: number],
  toColumn: number,
  toRow: number,
  groundM: Float64Array,
): number {
  const last = groundM.length - 1;
  // Whole numbers, said so: what may be a fraction is reckoned as one in each of a hundred million steps.
  const wide = columns | 0;
  const lastColumn = (wide - 2) | 0;
  const lastRow = (ground.length / wide - 2) | 0;
  const x0 = from[0];
  const y0 = from[1];
  const dx = (toColumn - x0) / last;
  const dy = (toRow - y0) / last;
  let wet = 0;
  for (let n = 0; n <= last; n++) {
    const x = x0 + n * dx;
    const y = y0 + n * dy;
    // All are within the grid: both ends are, and it is convex.
    let column = x | 0;
    if (column > lastColumn) column = lastColumn;
    let row = y | 0;
    if (row > lastRow) row = lastRow;
    const at = (Math.imul(row, wide) + column) | 0;
    const u = x - column;
    const above = ground[at]! + u * (ground[at + 1]! - ground[at]!);
    const below = ground[at + wide]! + u * (ground[at + wide + 1]! - ground[at + wide]!);
    const metres = above + (y - row) * (below - above);
    if (metres < SHORE_M) wet++;
    groundM[n] = metres;
  }
  if (groundM[0]! < SHORE_M) wet--;
  if (groundM[last]! < SHORE_M) wet--;
  return wet / (last - 1);
}

/** Less is the rounding of numbers, not land. */
const SHORE_M = 0.01;

/** Column and row of a place, between whole numbers; at the edge where it lies outside. */
export const onGrid = (grid: HeightGrid, { latitude, longitude }: Position): readonly [number, number] => [
  within(((longitude - grid.west) / (grid.east - grid.west)) * (grid.columns - 1), grid.columns - 1),
  within(((grid.north - latitude) / (grid.north - grid.south)) * (grid.rows - 1), grid.rows - 1),
];
const within = (value: number, most: number): number => Math.max(0, Math.min(most, value));

/** The ground between two places of a grid, as every profile is told. */
export function gridProfile(grid: HeightGrid, from: Position, to: Position, stepKm: number): ProfilePoint[] {
  const { distanceKm } = bearingBetween(from, to);
  const last = gridPoints(distanceKm, stepKm) - 1;
  return Array.from({ length: last + 1 }, (_, n) => {
    const share = n / last;
    const metres = gridHeightM(
      grid,
      from.latitude + share * (to.latitude - from.latitude),
      from.longitude + share * (to.longitude - from.longitude),
    );
    return { distanceKm: share * distanceKm, groundM: Number.isNaN(metres) ? null : metres };
  });
}
