import { bearingBetween, pointAt } from '../geo/geodesic';
import { alohaSuccess, beaconCost, beaconWarnings } from './channel-cost';
import { errorsAlong, runScheme } from './compare';
import { seenTrack } from './seen-track';
import { denseTrack } from './dense-track';
import { planeAt } from './plane';
import { isBeaconDue, reckonedErrorM, type TrackPoint } from './scheme';

const START = { latitude: 41.207, longitude: -43.421 };
const KNOT = 1852 / 3600;
/** Drives legs of so many seconds at a course and speed, a point a second, along geodesics. */
function drive(...legs: readonly { seconds: number; courseDeg: number; knots: number }[]): TrackPoint[] {
  const points: TrackPoint[] = [];
  let at: { latitude: number; longitude: number } = START;
  let second = 0;
  for (const { seconds, courseDeg, knots } of legs) {
    const from = at;
    for (let n = 0; n < seconds; n++) {
      at = pointAt(from, courseDeg, (n * knots * KNOT) / 1000);
      points.push({ atMs: second++ * 1000, ...at, courseDeg, speedKnots: knots });
    }
    at = pointAt(from, courseDeg, (seconds * knots * KNOT) / 1000);
  }
  return points;
}

describe('the plane that errors are reckoned in', () => {
  it('agrees with geodesics of a general library within 30 km (geographiclib-geodesic, Karney 2013)', () => {
    for (const latitude of [0, 41, -60, 70])
      for (const azimuth of [0, 37, 90, 200, 275])
        for (const km of [0.1, 3, 30]) {
          const from = { latitude, longitude: 179.95 };
          const to = pointAt(from, azimuth, km);
          const { east, north } = planeAt(from)(to);
          expect(Math.abs(Math.hypot(east, north) / 1000 / km - 1)).toBeLessThan(0.003 * (latitude === 70 ? 3 : 1));
        }
  });
});

describe('what others reckon', () => {
  it('is off by nothing on a straight road, and by the way itself at rest', () => {
    const [first, ...rest] = drive({ seconds: 600, courseDeg: 60, knots: 40 });
    expect(reckonedErrorM(first!, rest.at(-1)!)).toBeLessThan(20);
    const parked = { ...first!, speedKnots: 0.4 };
    expect(reckonedErrorM(parked, rest[99]!) / (100 * 40 * KNOT)).toBeCloseTo(1, 2);
  });

  it('is off by twice the way after turning round', () => {
    const track = drive({ seconds: 1, courseDeg: 0, knots: 36 }, { seconds: 101, courseDeg: 180, knots: 36 });
    const way = bearingBetween(track[1]!, track.at(-1)!).distanceKm * 1000;
    expect(reckonedErrorM(track[0]!, track.at(-1)!) / (2 * way)).toBeCloseTo(1, 1);
  });
});

describe('when a position goes out', () => {
  const [at] = drive({ seconds: 1, courseDeg: 0, knots: 20 });
  const later = (seconds: number, metresNorth: number): TrackPoint => ({
    ...pointAt(at!, 0, metresNorth / 1000),
    atMs: seconds * 1000,
    courseDeg: 0,
    speedKnots: 20,
  });
  it.each([
    ['first of all', { by: 'time', everyS: 600 }, null, later(0, 0), true],
    ['before its time', { by: 'time', everyS: 600 }, at!, later(599, 9000), false],
    ['at its time', { by: 'time', everyS: 600 }, at!, later(600, 0), true],
    ['after its way', { by: 'distance', everyM: 500, leastS: 60, mostS: 1800 }, at!, later(90, 501), true],
    [
      'not before the least interval',
      { by: 'distance', everyM: 500, leastS: 60, mostS: 1800 },
      at!,
      later(59, 5000),
      false,
    ],
    [
      'after the greatest, at rest',
      { by: 'distance', everyM: 500, leastS: 60, mostS: 1800 },
      at!,
      later(1800, 0),
      true,
    ],
    [
      'while others reckon right',
      { by: 'error', withinM: 200, leastS: 60, mostS: 1800 },
      at!,
      later(100, 20 * KNOT * 100),
      false,
    ],
    [
      'when they are off',
      { by: 'error', withinM: 200, leastS: 60, mostS: 1800 },
      at!,
      later(100, 20 * KNOT * 100 - 210),
      true,
    ],
    ['not at once again', { by: 'error', withinM: 200, leastS: 60, mostS: 1800 }, at!, later(59, 0), false],
  ] as const)('%s', (_, scheme, last, now, due) => expect(isBeaconDue(scheme, last, now)).toBe(due));
});

describe('schemes on a track', () => {
  /** A truck: a long road, some streets, a stop, the way back. */
  const track = drive(
    { seconds: 1200, courseDeg: 70, knots: 35 },
    { seconds: 120, courseDeg: 160, knots: 15 },
    { seconds: 120, courseDeg: 250, knots: 15 },
    { seconds: 1800, courseDeg: 250, knots: 0 },
    { seconds: 1200, courseDeg: 255, knots: 35 },
  );
  const byError = runScheme({ by: 'error', withinM: 250, leastS: 60, mostS: 1800 }, track)!;

  it('by error sends less than by time for the same error', () => {
    const byTime = runScheme({ by: 'time', everyS: 120 }, track)!;
    expect(byError.sent).toBeLessThan(byTime.sent / 2);
    expect(byError.error95M).toBeLessThanOrEqual(250);
    const atBench = runScheme({ by: 'time', everyS: 30 }, track)!;
    expect(atBench.sent).toBeGreaterThan(10 * byError.sent);
  });

  it('is off by no more than was allowed, but for the least interval', () => {
    const quick = runScheme({ by: 'error', withinM: 250, leastS: 1, mostS: 1800 }, track)!;
    // A point a second: it is seen a second late at most.
    expect(quick.worstErrorM).toBeLessThan(250 + 2 * 35 * KNOT);
  });

  it('is drawn by the worst of each stretch, so that no error is lost', () => {
    const scheme = { by: 'time', everyS: 120 } as const;
    const drawn = errorsAlong(scheme, track, 50);
    expect(drawn.length).toBeLessThanOrEqual(50);
    expect(Math.max(...drawn.map(({ errorM }) => errorM))).toBe(runScheme(scheme, track)!.worstErrorM);
    expect(drawn.every(({ atMs }, n) => n === 0 || atMs > drawn[n - 1]!.atMs)).toBe(true);
    expect(errorsAlong(scheme, track.slice(0, 1), 50)).toEqual([]);
  });

  it('is seen from above as it ran, and as others believed it', () => {
    const straight = drive({ seconds: 601, courseDeg: 90, knots: 20 });
    const { sentAtMs } = runScheme({ by: 'time', everyS: 120 }, straight)!;
    const { way, believed } = seenTrack(straight, sentAtMs, 100);
    expect(way.length).toBeLessThanOrEqual(101);
    expect(way[0]).toEqual({ east: 0, north: 0 });
    const run = 600 * 20 * KNOT;
    expect(way.at(-1)!.east / run).toBeCloseTo(1, 2);
    expect(believed).toHaveLength(sentAtMs.length);
    // Straight on at a steady speed others reckon right: each ends where the next begins.
    believed
      .slice(1)
      .forEach(({ from }, n) =>
        expect(Math.hypot(from.east - believed[n]!.to.east, from.north - believed[n]!.to.north)).toBeLessThan(2),
      );
    // At rest nothing is carried on.
    const still = straight.map((point) => ({ ...point, speedKnots: 0 }));
    const rest = seenTrack(still, [still[0]!.atMs], 100).believed;
    expect(rest[0]!.to).toEqual(rest[0]!.from);
    expect(seenTrack([], [], 10)).toEqual({ way: [], believed: [] });
  });

  it('counts by the hour, and says nothing of a track that is none', () => {
    expect(runScheme({ by: 'time', everyS: 600 }, drive({ seconds: 3601, courseDeg: 0, knots: 5 }))).toMatchObject({
      sent: 7,
      perHour: 7,
    });
    expect(runScheme({ by: 'time', everyS: 60 }, track.slice(0, 1))).toBeNull();
    expect(runScheme({ by: 'time', everyS: 60 }, [])).toBeNull();
  });
});

describe('a track that was heard now and then', () => {
  it('is filled up straight on, with the course and speed that this takes, and not over a long silence', () => {
    const [from, to] = [START, pointAt(START, 90, 1.852)];
    const dense = denseTrack(
      [
        { atMs: 0, ...from },
        { atMs: 120_000, ...to },
        { atMs: 3_000_000, ...START },
      ],
      10,
    );
    expect(dense).toHaveLength(12);
    // A nautical mile in two minutes.
    expect(dense[6]).toMatchObject({ atMs: 60_000, speedKnots: expect.closeTo(30, 1) });
    expect(dense[6]!.courseDeg).toBeCloseTo(90, 0);
    expect(bearingBetween(from, dense[6]!).distanceKm).toBeCloseTo(0.926, 2);
  });
});

describe('what beacons cost', () => {
  it('follows pure ALOHA: at the best load 1/(2e) gets through (Abramson 1970, from memory), as drawing shows', () => {
    // Packets of length 1 at random times; one is whole when no other begins within 1 before or after it.
    const load = 0.5;
    const length = 200_000;
    let seed = 12345;
    const random = () => (seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
    const times: number[] = [];
    for (let at = 0; at < length; at -= Math.log(1 - random()) / load) times.push(at);
    const whole = times.filter((at, n) => !(times[n - 1]! > at - 1) && !(times[n + 1]! < at + 1)).length;
    expect(whole / length).toBeCloseTo(load * alohaSuccess(load), 2);
    expect(load * alohaSuccess(load)).toBeCloseTo(1 / (2 * Math.E), 12);
  });

  it('shows why half a minute is too fast on a shared channel', () => {
    // By hand: 120 an hour of 0.9 s, each sent twice again, are 324 s of 3600; of forty stations 3.6 channels.
    const cost = beaconCost({ perHour: 120, airTimeMs: 900, repeats: 2, stations: 40, load: 0.2 });
    expect(cost.share).toBeCloseTo(0.09, 9);
    expect(cost.shareIfAll).toBeCloseTo(3.6, 9);
    expect(cost.collision).toBeCloseTo(1 - Math.exp(-0.58), 9);
    expect(beaconWarnings(30, cost, 40)).toHaveLength(2);
    const seldom = beaconCost({ perHour: 2, airTimeMs: 900, repeats: 2, stations: 40, load: 0.2 });
    expect(beaconWarnings(1800, seldom, 40)).toEqual([]);
  });
});
