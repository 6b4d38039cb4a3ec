import { TRAIL_PER_DEGREE, type TrailView } from '@tombolo/contract';

/** Half the equator of the spherical Mercator projection, m (EPSG:3857). */
const HALF_EQUATOR_M = Math.PI * 6_378_137;
/** Further toward the poles the projection does not go. */
const MOST_LATITUDE = 85.06;

const mercatorX = (longitude: number): number => (longitude / 180) * HALF_EQUATOR_M;
function mercatorY(latitude: number): number {
  const bounded = Math.max(-MOST_LATITUDE, Math.min(MOST_LATITUDE, latitude));
  return (Math.log(Math.tan(((90 + bounded) * Math.PI) / 360)) / Math.PI) * HALF_EQUATOR_M;
}

/** All trails as one flat list of projected coordinates, and where each ends: the shape that the map draws fastest. */
export function trailCoordinates(trails: readonly TrailView[]): { flat: number[]; ends: number[] } {
  const flat: number[] = [];
  const ends: number[] = [];
  for (const { steps } of trails) {
    let [x, y] = [0, 0];
    for (let i = 0; i + 1 < steps.length; i += 2) {
      x += steps[i]!;
      y += steps[i + 1]!;
      flat.push(mercatorX(x / TRAIL_PER_DEGREE), mercatorY(y / TRAIL_PER_DEGREE));
    }
    ends.push(flat.length);
  }
  return { flat, ends };
}
