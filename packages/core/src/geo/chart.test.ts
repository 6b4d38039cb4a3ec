import fc from 'fast-check';
import { bearingBetween, pointAt } from './geodesic';
import { geodesicLine, graticule, graticuleStep, locatorSquares, ring, ringRadiiKm } from './grid';
import { locatorOf } from './locator';
import { judgePoint, type TrailPoint } from './trail';
import { distanceInWords, inUnit, kmOf, metresInWords, speedInWords } from './units';

const SOUND = { west: -43.7, south: 41.0, east: -43.1, north: 41.4 };

describe('the grids of a chart', () => {
  it('draw a graticule in round steps with its labels', () => {
    expect(graticuleStep(SOUND)).toBeCloseTo(1 / 12, 9);
    const lines = graticule(SOUND);
    expect(lines.map(({ label }) => label)).toContain('41° 10′ N');
    expect(lines.map(({ label }) => label)).toContain('43° 30′ W');
    expect(graticule({ west: -180, east: 180, south: -85, north: 85 }).map(({ label }) => label)).toContain('0°');
    expect(graticule({ west: 170, east: 190, south: -5, north: 5 }).map(({ label }) => label)).toContain('174° W');
    expect(lines.length).toBeLessThan(30);
  });
  it('draw the locator squares that hold the points in them', () => {
    const squares = locatorSquares(SOUND);
    const at = { latitude: 41.2695, longitude: -43.2854 };
    const found = squares.find(
      ({ west, south, width, height }) =>
        at.longitude >= west && at.longitude < west + width && at.latitude >= south && at.latitude < south + height,
    );
    expect(found?.locator).toBe(locatorOf(at));
    expect(locatorSquares({ west: -180, east: 180, south: -90, north: 90 })).toHaveLength(324);
    fc.assert(
      fc.property(
        fc.integer({ min: -179, max: 178 }),
        fc.integer({ min: -89, max: 88 }),
        fc.integer({ min: 1, max: 30 }),
        (west, south, size) => {
          const some = locatorSquares({ west, south, east: west + size, north: Math.min(90, south + size) });
          expect(some.length).toBeLessThanOrEqual(400);
          expect(new Set(some.map(({ locator }) => locator)).size).toBe(some.length);
        },
      ),
      { numRuns: 50 },
    );
  });
  it('draw rings at their true distance, and lines that end where they should', () => {
    const centre = { latitude: 41.2, longitude: -43.4 };
    for (const [longitude, latitude] of ring(centre, 20, 12))
      expect(bearingBetween(centre, { latitude, longitude }).distanceKm).toBeCloseTo(20, 6);
    expect(ringRadiiKm(17)).toEqual([5, 10, 15]);
    expect(ringRadiiKm(17, 1.852)).toEqual([1.852 * 2, 1.852 * 4, 1.852 * 6]);
    expect(ringRadiiKm(0.1)).toEqual([1, 2, 3]);
    const far = pointAt(centre, 300, 5000);
    expect(geodesicLine(centre, far).at(-1)![1]).toBeCloseTo(far.latitude, 6);
    const dateLine = ring({ latitude: 0, longitude: 179.9 }, 50, 8).map(([x]) => x);
    expect(Math.max(...dateLine) - Math.min(...dateLine)).toBeLessThan(1);
  });
});

describe('trails', () => {
  const point = (km: number, minutes: number, speedKnots: number | null = null): TrailPoint => ({
    ...pointAt({ latitude: 41.2, longitude: -43.4 }, 90, km),
    atMs: minutes * 60_000,
    speedKnots,
  });
  it('take what can be reached and keep jumps off', () => {
    const start = point(0, 0);
    expect(judgePoint(start, null, null, false)).toBeNull();
    expect(judgePoint(point(0, 5), start, null, false)).toBe('same');
    expect(judgePoint(point(1.9, 0), start, null, false)).toBeNull();
    expect(judgePoint(point(20, 10), start, null, false)).toBeNull();
    expect(judgePoint(point(200, 10), start, null, false)).toBe('jump');
    expect(judgePoint(point(200, 12), start, null, true)).toBeNull();
    expect(judgePoint(point(100, 10, 120), start, null, false)).toBeNull();
  });
  it('go by the distance itself, also where a rough one would say that it is too far', () => {
    const start = point(0, 0);
    // 50 km in ten minutes can just be done: 300 km/h and 2 km for the receiver’s error.
    const at = (km: number) => ({
      ...pointAt({ latitude: 41.2, longitude: -43.4 }, 45, km),
      atMs: 600_000,
      speedKnots: null,
    });
    expect(judgePoint(at(51.9), start, null, false)).toBeNull();
    expect(judgePoint(at(52.1), start, null, false)).toBe('jump');
  });
  it('believe a far place when a second report confirms it', () => {
    const start = point(0, 0);
    const far = point(900, 10);
    expect(judgePoint(far, start, null, false)).toBe('jump');
    expect(judgePoint(point(901, 12), start, far, false)).toBeNull();
    expect(judgePoint(point(-900, 12), start, far, false)).toBe('jump');
  });
});

describe('units', () => {
  // The international mile and the nautical mile are exact by definition.
  it('convert exactly and show two figures', () => {
    expect(inUnit(1.609344, 'mi')).toBe(1);
    expect(inUnit(1.852, 'nmi')).toBe(1);
    expect(kmOf(10, 'nmi')).toBeCloseTo(18.52, 9);
    expect(distanceInWords(3.24, 'km')).toBe('3.2 km');
    expect(distanceInWords(32.4, 'mi')).toBe('20 mi');
    expect(distanceInWords(9.97, 'km')).toBe('10 km');
    expect(distanceInWords(0.1, 'nmi')).toBe('0.1 nmi');
    expect(distanceInWords(0.057, 'km')).toBe('60 m');
    expect(distanceInWords(0.03, 'mi')).toBe('98 ft');
    expect(distanceInWords(0, 'nmi')).toBe('0 m');
    expect(metresInWords(304.8, 'mi')).toBe('1000 ft');
    expect(metresInWords(304.8, 'nmi')).toBe('305 m');
    expect(speedInWords(10, 'km')).toBe('19 km/h');
    expect(speedInWords(10, 'nmi')).toBe('10 kn');
  });
});
