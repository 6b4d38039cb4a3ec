import { bearingBetween, pointAt } from '../geo/geodesic';
import {
  gridHeightM,
  gridPoints,
  gridProfile,
  gridStepKm,
  NOT_MEASURED,
  onGrid,
  sampleGround,
  groundOfGrid,
} from './height-grid';
import { heightIn, type HeightTile } from './height-tile';

const ROWS = 31;
const COLUMNS = 41;
const heightOf = (row: number, column: number) => ((row * 37 + column * 11) % 400) - 60;
const grid = {
  south: 41,
  north: 41.3,
  west: -43.6,
  east: -43.2,
  columns: COLUMNS,
  rows: ROWS,
  heightsM: Int16Array.from({ length: ROWS * COLUMNS }, (_, n) => heightOf(Math.floor(n / COLUMNS), n % COLUMNS)),
};
const at = (row: number, column: number) => ({
  latitude: grid.north - (row / (ROWS - 1)) * (grid.north - grid.south),
  longitude: grid.west + (column / (COLUMNS - 1)) * (grid.east - grid.west),
});

describe('the ground of an area', () => {
  it('is what was told at its points, edges and corners included, and between them what lies between', () => {
    for (const [row, column] of [
      [0, 0],
      [0, COLUMNS - 1],
      [ROWS - 1, 0],
      [ROWS - 1, COLUMNS - 1],
      [13, 29],
    ] as const) {
      const { latitude, longitude } = at(row, column);
      expect(gridHeightM(grid, latitude, longitude)).toBeCloseTo(heightOf(row, column), 4);
    }
    const { latitude, longitude } = at(10.25, 20.5);
    const mean = (row: number) => (heightOf(row, 20) + heightOf(row, 21)) / 2;
    expect(gridHeightM(grid, latitude, longitude)).toBeCloseTo(0.75 * mean(10) + 0.25 * mean(11), 4);
  });

  it('is nothing outside, and nothing beside a point that was not measured', () => {
    expect(gridHeightM(grid, 41.4, -43.4)).toBeNaN();
    expect(gridHeightM(grid, 41.1, -43.7)).toBeNaN();
    const holed = {
      ...grid,
      heightsM: grid.heightsM.map((metres, n) => (n === 5 * COLUMNS + 5 ? NOT_MEASURED : metres)),
    };
    const near = at(5.5, 5.5);
    expect(gridHeightM(holed, near.latitude, near.longitude)).toBeNaN();
    const far = at(7.5, 5.5);
    expect(gridHeightM(holed, far.latitude, far.longitude)).not.toBeNaN();
    expect(gridProfile(holed, at(5, 5), at(20, 5), 1)[0]!.groundM).toBeNull();
  });

  it('agrees with the reader of elevation tiles where both know it', () => {
    const side = 1201;
    const view = new DataView(new ArrayBuffer(side * side * 2));
    for (let n = 0; n < side * side; n++) view.setInt16(2 * n, (n * 7) % 900);
    const tile: HeightTile = { south: 41, west: -44, side, octets: new Uint8Array(view.buffer) };
    const columns = 13;
    const area = { south: 41.1, north: 41.2, west: -43.5, east: -43.4, columns, rows: columns };
    const heightsM = Int16Array.from({ length: columns * columns }, (_, n) =>
      Math.round(
        heightIn(tile, {
          latitude: area.north - (Math.floor(n / columns) / (columns - 1)) * 0.1,
          longitude: area.west + ((n % columns) / (columns - 1)) * 0.1,
        })!,
      ),
    );
    // On a point of the grid both tell the same, to the metre.
    for (const [row, column] of [
      [0, 0],
      [6, 6],
      [12, 3],
    ] as const) {
      const point = { latitude: area.north - (row / 12) * 0.1, longitude: area.west + (column / 12) * 0.1 };
      expect(
        Math.abs(gridHeightM({ ...area, heightsM }, point.latitude, point.longitude) - heightIn(tile, point)!),
      ).toBeLessThanOrEqual(0.5);
    }
  });

  it('is drawn straight on the map: less than a cell beside the geodesic for 50 km in the usual latitudes', () => {
    for (const latitude of [0, 41, 60]) {
      const from = { latitude, longitude: -43.4 };
      const to = pointAt(from, 80, 50);
      const half = pointAt(from, bearingBetween(from, to).azimuthDeg, 25);
      const straight = {
        latitude: (from.latitude + to.latitude) / 2,
        longitude: (from.longitude + to.longitude) / 2,
      };
      expect(bearingBetween(half, straight).distanceKm).toBeLessThan(0.1);
    }
  });

  it('is sampled as a profile of it, and tells how much of the way is water', () => {
    const [from, to] = [at(3, 4), at(22, 35)];
    const { distanceKm } = bearingBetween(from, to);
    const count = gridPoints(distanceKm, gridStepKm(grid));
    const groundM = new Float64Array(count);
    const column = onGrid(grid, to);
    const water = sampleGround(groundOfGrid(grid), COLUMNS, onGrid(grid, from), column[0], column[1], groundM);
    expect(groundM[0]).toBeCloseTo(Math.max(0, heightOf(3, 4)), 4);
    expect(groundM.at(-1)).toBeCloseTo(Math.max(0, heightOf(22, 35)), 3);
    const inner = Array.from(groundM).slice(1, -1);
    expect(water).toBeCloseTo(inner.filter((metres) => metres === 0).length / inner.length, 9);
    // Beyond the edge there is nothing to be read past the end of the array.
    expect(onGrid(grid, { latitude: 50, longitude: 0 })).toEqual([COLUMNS - 1, 0]);
  });
});
