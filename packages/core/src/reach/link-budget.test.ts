import { chanceOfMargin, chirpSensitivityDbm, chirpSettings, reachOver, type RadioEnd } from './link-budget';
import { pointsBetween, type ProfilePoint } from './profile';

const end = (more: Partial<RadioEnd> = {}): RadioEnd => ({
  antennaM: 10,
  powerW: 5,
  gainDbi: 2,
  clutterDb: 0,
  ...more,
});
const flat = (km: number, groundM: number | null = 0): ProfilePoint[] =>
  Array.from({ length: 101 }, (_, n) => ({ distanceKm: (km * n) / 100, groundM }));

describe('what a receiver needs', () => {
  it('is for chirps what the data sheets of their makers say', () => {
    // Tables of such data sheets, 125 kHz (from memory): SF7 about −124 dBm, SF12 about −137 dBm.
    expect(chirpSensitivityDbm(7, 125_000)).toBeCloseTo(-124.5, 0);
    expect(chirpSensitivityDbm(12, 125_000)).toBeCloseTo(-137, 0);
    expect(chirpSettings(250_000).map(({ id }) => id)).toEqual(['sf7', 'sf8', 'sf9', 'sf10', 'sf11', 'sf12']);
    // Twice the bandwidth, twice the noise.
    expect(chirpSensitivityDbm(9, 250_000) - chirpSensitivityDbm(9, 125_000)).toBeCloseTo(3.01, 2);
  });

  it('is met half of the time with nothing in hand, and scatters by 6 dB', () => {
    expect(chanceOfMargin(0)).toBe(0.5);
    expect(chanceOfMargin(-200)).toBeLessThan(1e-9);
    expect(chanceOfMargin(200)).toBeGreaterThan(1 - 1e-9);
    let square = 0;
    for (let db = -80; db < 80; db += 0.1) square += (chanceOfMargin(db + 0.1) - chanceOfMargin(db)) * (db + 0.05) ** 2;
    expect(Math.sqrt(square)).toBeCloseTo(6, 1);
  });
});

describe('the reckoning', () => {
  it('adds powers and gains and takes losses away', () => {
    // Two masts so high that the ground is nothing to them: free space alone (P.525: 92.45 + 20 log f/GHz + 20 log d/km).
    const high = { antennaM: 3000 };
    const { receivedDbm, groundDb, freeSpaceDb } = reachOver(
      flat(10),
      end(high),
      end({ ...high, clutterDb: 6 }),
      144.8,
    );
    expect(freeSpaceDb).toBeCloseTo(92.45 + 20 * Math.log10(0.1448) + 20, 1);
    expect(groundDb).toBe(0);
    expect(receivedDbm).toBeCloseTo(10 * Math.log10(5000) + 4 - 6 - freeSpaceDb, 6);
    // Five times the power there is seven decibels more back here, over the same loss.
    const strong = reachOver(flat(10), end(high), end({ ...high, powerW: 25 }), 144.8);
    expect(strong.backDbm - strong.receivedDbm).toBeCloseTo(6.9897, 4);
  });

  it('tells where the ground comes nearest, and how much of it is known', () => {
    const hill = flat(20).map((point, n) => (n === 30 ? { ...point, groundM: 120 } : point));
    const reach = reachOver(hill, end(), end(), 144.8);
    expect(reach.worst).toMatchObject({ distanceKm: 6 });
    expect(reach.worst!.aboveM).toBeGreaterThan(110);
    expect(reach.known).toBe(1);
    const half = hill.map((point, n) => (n % 2 === 0 ? point : { ...point, groundM: null }));
    expect(reachOver(half, end(), end(), 144.8).known).toBeCloseTo(51 / 101, 6);
    // A hole is the sea, not a wall and not an error.
    expect(reachOver(flat(20, null), end(), end(), 144.8).receivedDbm).toBeCloseTo(
      reachOver(flat(20, -30), end(), end(), 144.8).receivedDbm,
      6,
    );
  });

  it('is a number whatever it is given', () => {
    for (const profile of [[], flat(0), flat(0.001), flat(400)])
      expect(Number.isFinite(reachOver(profile, end(), end(), 144.8).receivedDbm)).toBe(true);
  });
});

describe('a profile', () => {
  it('runs evenly from end to end, however many points are asked for', () => {
    const from = { latitude: 41.2, longitude: -43.4 };
    const to = { latitude: 41.3, longitude: -43.3 };
    const points = pointsBetween(from, to, 5);
    expect(points).toHaveLength(5);
    expect(points[0]).toEqual({ ...from, distanceKm: 0 });
    // Distance by GeodSolve: 13 913.749 m between the two.
    expect(points.at(-1)!.distanceKm).toBeCloseTo(13.913749, 5);
    expect(points.at(-1)).toMatchObject(to);
    expect(points[2]!.distanceKm).toBeCloseTo(13.913749 / 2, 5);
    expect(pointsBetween(from, to, 1e9)).toHaveLength(1001);
    expect(pointsBetween(from, from, 3).map(({ distanceKm }) => distanceKm)).toEqual([0, 0, 0]);
  });
});
