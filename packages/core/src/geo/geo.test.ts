import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { freeSpaceLossDb, planeEarthLossDb, radioHorizonKm, receivedPowerDbm } from '../radio/reach';
import { atMostKm, bearingBetween, compassPoint, pointAt } from './geodesic';
import { locatorOf, positionOfLocator } from './locator';

describe('geodesy', () => {
  // GeodSolve of Debian's geographiclib-tools, an implementation in another language; run here, not quoted.
  it('agrees with a general geodesy tool', () => {
    const pairs = [
      [40.6413, -73.7781, 51.47, -0.4543],
      [41.269, -43.285, 41.12, -43.512],
      [-33.9, 18.4, 0, -179.9],
    ] as const;
    const input = pairs.map((pair) => pair.join(' ')).join('\n');
    const lines = execFileSync('GeodSolve', ['-i', '-p', '6'], { input, encoding: 'utf8' }).trim().split('\n');
    pairs.forEach(([lat1, lon1, lat2, lon2], i) => {
      const [azimuth, , metres] = lines[i]!.split(' ').map(Number);
      const bearing = bearingBetween({ latitude: lat1, longitude: lon1 }, { latitude: lat2, longitude: lon2 });
      expect(bearing.distanceKm * 1000).toBeCloseTo(metres!, 3);
      expect(bearing.azimuthDeg).toBeCloseTo((azimuth! + 360) % 360, 8);
    });
    // The same tool's figure for the first pair, kept as a check value.
    expect(bearingBetween({ latitude: 40.6413, longitude: -73.7781 }, { latitude: 51.47, longitude: -0.4543 })).toEqual(
      {
        distanceKm: expect.closeTo(5554.9087905, 6),
        azimuthDeg: expect.closeTo(51.38164786, 7),
      },
    );
  });

  it('bounds a distance from above, and not by much', () => {
    const position = fc.record({
      latitude: fc.double({ min: -90, max: 90, noNaN: true }),
      longitude: fc.double({ min: -180, max: 180, noNaN: true }),
    });
    fc.assert(
      fc.property(position, position, (a, b) => {
        // A nanometre for what both round.
        expect(atMostKm(a, b)).toBeGreaterThanOrEqual(bearingBetween(a, b).distanceKm - 1e-12 * 20_000);
      }),
      { numRuns: 2000 },
    );
    const moved = fc.record({
      azimuthDeg: fc.double({ min: 0, max: 360, noNaN: true }),
      km: fc.integer({ min: 1, max: 300 }),
    });
    const start = fc.record({ latitude: fc.double({ min: -70, max: 70, noNaN: true }), longitude: fc.constant(179.9) });
    fc.assert(
      fc.property(start, moved, (from, { azimuthDeg, km }) => {
        expect(atMostKm(from, pointAt(from, azimuthDeg, km))).toBeLessThan(km * 1.6);
      }),
    );
  });

  it('goes out and comes back', () => {
    const start = { latitude: 41.269, longitude: -43.285 };
    const there = pointAt(start, 250, 12);
    expect(bearingBetween(start, there)).toEqual({
      distanceKm: expect.closeTo(12, 9),
      azimuthDeg: expect.closeTo(250, 6),
    });
    expect(['N', 'E', 'N']).toEqual([0, 90, 355].map(compassPoint));
  });
});

describe('locator (Maidenhead; check values of gpsd’s converter)', () => {
  it.each([
    [48.14666, 11.60833, 'JN58td25'],
    [41.714775, -72.72726, 'FN31pr21'],
    [-34.91, -56.21166, 'GF15vc41'],
    [0, 0, 'JJ00aa00'],
  ])('%p %p is %s', (latitude, longitude, locator) => {
    expect(locatorOf({ latitude, longitude }, 8)).toBe(locator);
  });
  it('gives the middle of the square back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        (latitude, longitude) => {
          const back = positionOfLocator(locatorOf({ latitude, longitude }));
          if (!back.ok) throw new Error(back.error.reason);
          expect(Math.abs(back.value.latitude - latitude)).toBeLessThanOrEqual(1 / 48 + 1e-6);
          expect(Math.abs(back.value.longitude - longitude)).toBeLessThanOrEqual(1 / 24 + 1e-6);
        },
      ),
    );
    expect(positionOfLocator('ZZ99').ok).toBe(false);
  });
});

describe('reach', () => {
  it('computes free-space loss with the constant of ITU-R P.525 and the horizon of a 4/3 earth', () => {
    expect(freeSpaceLossDb(1, 1)).toBeCloseTo(20 * Math.log10((4 * Math.PI * 1e9) / 299_792_458), 3);
    expect(radioHorizonKm(100, 0)).toBeCloseTo(41.2, 5);
    expect(planeEarthLossDb(10, 10, 10)).toBeCloseTo(120, 5);
  });
  it('falls with distance and drops behind the horizon', () => {
    const site = { heightM: 10, powerW: 5, gainDbi: 0, clutterDb: 0 };
    const at = (km: number) => receivedPowerDbm(site, site, km, 144.39);
    expect(at(1)).toBeGreaterThan(at(10));
    expect(at(26) - at(27)).toBeGreaterThan(20);
  });
});
