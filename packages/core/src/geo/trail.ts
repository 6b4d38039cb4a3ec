import { atMostKm, bearingBetween, type Position } from './geodesic';

/** A reported place at a time. */
export interface TrailPoint extends Position {
  readonly atMs: number;
  readonly speedKnots: number | null;
}

export type TrailFault = 'jump' | 'same';

/** Nothing on the ground or water that sends positions is faster; aircraft are. */
const GROUND_KMH = 300;
const AIR_KMH = 1200;
/** Nearer than this a jump is the error of a receiver, not worth a word. */
const NEAR_KM = 2;
const KMH_PER_KNOT = 1.852;

/** Whether one can have come from `a` to `b` in the time between. */
function reachable(a: TrailPoint, b: TrailPoint, fast: boolean): boolean {
  const hours = Math.abs(b.atMs - a.atMs) / 3_600_000;
  const reported = Math.max(a.speedKnots ?? 0, b.speedKnots ?? 0) * KMH_PER_KNOT;
  const reachKm = NEAR_KM + hours * Math.max(fast ? AIR_KMH : GROUND_KMH, 3 * reported);
  // The exact distance takes the longest of all that is done with a point: it is asked for only where it can matter.
  return atMostKm(a, b) <= reachKm || bearingBetween(a, b).distanceKm <= reachKm;
}

/**
 * Whether a point belongs on the trail. `last` is the last one on it, `doubted` the last one that was kept off. A place that is
 * confirmed by a second report is believed, however far away: then the earlier ones were wrong, or the station was carried.
 */
export function judgePoint(
  point: TrailPoint,
  last: TrailPoint | null,
  doubted: TrailPoint | null,
  fast: boolean,
): TrailFault | null {
  if (last === null) return null;
  if (point.latitude === last.latitude && point.longitude === last.longitude) return 'same';
  if (reachable(last, point, fast)) return null;
  const confirmed = doubted !== null && doubted.atMs > last.atMs && reachable(doubted, point, fast);
  return confirmed ? null : 'jump';
}
