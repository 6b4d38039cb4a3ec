import { bearingBetween } from '@tombolo/core';
import { areaAround, areaOf, gridOf } from './area';
import { drawnCells } from './drawn-cells';

describe('an area of the map', () => {
  it('is a square around a place, cut at the date line and the poles, never wider than the station tells', () => {
    const area = areaAround({ latitude: 41.2, longitude: -43.4 }, 25, 0.1);
    expect([area.columns, area.rows]).toEqual([501, 501]);
    const high = bearingBetween({ latitude: area.south, longitude: -43.4 }, { latitude: area.north, longitude: -43.4 });
    const wide = bearingBetween({ latitude: 41.2, longitude: area.west }, { latitude: 41.2, longitude: area.east });
    expect(high.distanceKm).toBeCloseTo(50, 0);
    expect(wide.distanceKm).toBeCloseTo(50, 0);
    expect(areaAround({ latitude: 0, longitude: 179.9 }, 50, 0.1).east).toBe(180);
    const pole = areaAround({ latitude: 90, longitude: 0 }, 50, 0.1);
    expect(pole.north).toBe(90);
    expect(pole.east - pole.west).toBeLessThanOrEqual(4);
  });

  it('holds all places with room around them, and does not change with a small move', () => {
    const places = [
      { latitude: 41.12, longitude: -43.51 },
      { latitude: 41.285, longitude: -43.2 },
    ];
    const area = areaOf(places, 0.15)!;
    for (const { latitude, longitude } of places) {
      expect(latitude > area.south && latitude < area.north).toBe(true);
      expect(longitude > area.west && longitude < area.east).toBe(true);
    }
    expect(areaOf([{ latitude: 41.1201, longitude: -43.5101 }, places[1]!], 0.15)).toEqual(area);
    expect(areaOf([], 0.15)).toBeNull();
    // One place alone is an area too, and nothing is larger than is told at once.
    expect(areaOf([places[0]!], 0.15)!.columns).toBeGreaterThan(10);
    const huge = areaOf(
      [
        { latitude: -80, longitude: -170 },
        { latitude: 80, longitude: 170 },
      ],
      0.15,
    )!;
    expect([huge.north - huge.south, huge.east - huge.west]).toEqual([4, 4]);
    expect(huge.columns * huge.rows).toBeLessThanOrEqual(160_000);
  });

  it('is read from what the station tells: signed, the low octet first', () => {
    const heights = Buffer.from(Int16Array.of(0, 412, -32768, -7).buffer).toString('base64');
    const area = { south: 41, north: 42, west: -44, east: -43, columns: 2, rows: 2 };
    expect([...gridOf(area, { heights }).heightsM]).toEqual([0, 412, -32768, -7]);
  });
});

describe('cells drawn', () => {
  it('join in runs by class, row by row, and leave out what is none', () => {
    const rows = ['aab', '..b'];
    const drawn = drawnCells(3, 2, 2, (column, row) => ['a', 'b'].indexOf(rows[row]![column]!));
    expect(drawn).toEqual({ columns: 3, rows: 2, paths: ['M0 0h2v1h-2z', 'M2 0h1v1h-1zM2 1h1v1h-1z'] });
  });

  it('are no more than a screen shows', () => {
    const drawn = drawnCells(1001, 501, 1, () => 0);
    expect(drawn.columns).toBeLessThanOrEqual(240);
    expect(drawn.rows).toBe(Math.ceil(501 / 5));
  });
});
