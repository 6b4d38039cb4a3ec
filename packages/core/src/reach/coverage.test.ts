import { bearingBetween } from '../geo/geodesic';
import { areaServed, coverageRows, servedBy, SERVED } from './coverage';
import { gridProfile, gridStepKm, type HeightGrid } from './height-grid';
import { reachOver, type RadioEnd } from './link-budget';

const SIDE = 41;
/** A hill in the middle of the sea, 400 m high, and a ridge east of it. */
const grid: HeightGrid = {
  south: 41.1,
  north: 41.35,
  west: -43.6,
  east: -43.25,
  columns: SIDE,
  rows: SIDE,
  heightsM: Int16Array.from({ length: SIDE * SIDE }, (_, n) => {
    const [row, column] = [Math.floor(n / SIDE), n % SIDE];
    const hill = 400 - 60 * Math.hypot(row - 20, column - 10);
    const ridge = column === 25 && row > 5 && row < 35 ? 300 : 0;
    return Math.max(0, Math.round(hill), ridge);
  }),
};
const from = { latitude: 41.225, longitude: -43.5125 };
const station: RadioEnd = { antennaM: 10, powerW: 10, gainDbi: 2, clutterDb: 0 };
const other: RadioEnd = { antennaM: 2, powerW: 1, gainDbi: 0, clutterDb: 6 };
const all = [...coverageRows({ grid, from, station, other, frequencyMHz: 145 })];

describe('where a station is heard', () => {
  it('is at each place what a single link there gives, both directions', () => {
    expect(all.map(({ row }) => row)).toEqual(Array.from({ length: SIDE }, (_, n) => n));
    const stepKm = gridStepKm(grid);
    const differences = all.flatMap(({ row, receivedDbm }) =>
      Array.from(receivedDbm, (dbm, column) => {
        const place = {
          latitude: grid.north - (row / (SIDE - 1)) * (grid.north - grid.south),
          longitude: grid.west + (column / (SIDE - 1)) * (grid.east - grid.west),
        };
        const link = reachOver(gridProfile(grid, from, place, stepKm), station, other, 145);
        return Math.abs(dbm - Math.min(link.receivedDbm, link.backDbm));
      }),
    );
    // Distances by the ellipsoid at the middle latitude, not by a geodesic: a hundredth of a decibel; a way of one point more or less now and then.
    const sorted = differences.sort((a, b) => a - b);
    expect(sorted[Math.floor(0.98 * sorted.length)]).toBeLessThan(0.05);
    expect(sorted.at(-1)).toBeLessThan(3);
  });

  it('is worse behind the ridge than before it', () => {
    const middle = all[20]!.receivedDbm;
    expect(middle[28]!).toBeLessThan(middle[22]! - 10);
  });

  it('counts land and sea by how well they are served, and all of it', () => {
    const area = areaServed(
      grid,
      all.map(({ receivedDbm }) => receivedDbm),
      -116,
    );
    const sum = (kind: 'land' | 'sea') => SERVED.reduce((km2, served) => km2 + area[kind][served], 0);
    const middle = (grid.south + grid.north) / 2;
    const wide = bearingBetween(
      { latitude: middle, longitude: grid.west },
      { latitude: middle, longitude: grid.east },
    ).distanceKm;
    const high = bearingBetween(
      { latitude: grid.south, longitude: 0 },
      { latitude: grid.north, longitude: 0 },
    ).distanceKm;
    // Cells stand for the points in their middle, so that the rim counts half a cell too much on each side.
    expect(sum('land') + sum('sea')).toBeCloseTo(wide * high * (SIDE / (SIDE - 1)) ** 2, -1);
    const cells = grid.heightsM.filter((metres) => metres > 0).length;
    expect(sum('land') / (sum('land') + sum('sea'))).toBeCloseTo(cells / SIDE ** 2, 2);
  });

  it('is told in four words by what is in hand', () => {
    expect([12, 10, 9.9, 0, -0.1, -9.9, -10, -50].map(servedBy)).toEqual([
      'well',
      'well',
      'mostly',
      'mostly',
      'now and then',
      'now and then',
      'hardly',
      'hardly',
    ]);
  });
});
