import { runScheme, type BeaconScheme, type TrackPoint } from '@tombolo/core';
import seedrandom from 'seedrandom';
import { median, type Figure } from './figure';

const HOURS = 10;
const SCHEMES: readonly BeaconScheme[] = [
  { by: 'time', everyS: 30 },
  { by: 'time', everyS: 120 },
  { by: 'time', everyS: 600 },
  { by: 'distance', everyM: 500, leastS: 60, mostS: 1800 },
  { by: 'error', withinM: 100, leastS: 60, mostS: 1800 },
  { by: 'error', withinM: 500, leastS: 60, mostS: 1800 },
];

/** A vehicle that turns now and then, a point every second. */
function drive(): TrackPoint[] {
  const random = seedrandom('drive');
  let [latitude, longitude, courseDeg, speedKnots] = [41.2, -43.4, 90, 25];
  return Array.from({ length: HOURS * 3600 }, (_, second) => {
    if (random() < 0.01) courseDeg = (courseDeg + 60 * (random() - 0.5) + 360) % 360;
    if (random() < 0.005) speedKnots = 45 * random();
    const degrees = (speedKnots * 1852) / 3600 / 111_195;
    latitude += degrees * Math.cos((courseDeg * Math.PI) / 180);
    longitude += (degrees * Math.sin((courseDeg * Math.PI) / 180)) / Math.cos((latitude * Math.PI) / 180);
    return { atMs: second * 1000, latitude, longitude, courseDeg, speedKnots };
  });
}

/** Ten hours at a point a second against six schemes. */
export async function beacon(): Promise<Figure[]> {
  const track = drive();
  const value = median(
    Array.from({ length: 5 }, () => {
      const start = performance.now();
      for (const scheme of SCHEMES) runScheme(scheme, track);
      return performance.now() - start;
    }),
  );
  return [
    {
      name: 'ten hours at 1 Hz against six schemes',
      value,
      unit: 'ms',
      goal: 1000,
      better: 'less',
      note: '36 000 points, median of 5',
    },
  ];
}
