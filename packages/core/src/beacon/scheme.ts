import { planeAt } from './plane';

/** A place at a time, with the motion that goes out with it. */
export interface TrackPoint {
  readonly atMs: number;
  readonly latitude: number;
  readonly longitude: number;
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
}

/** When a position goes out by itself. */
export type BeaconScheme =
  /** After so much time, wherever we are. */
  | { readonly by: 'time'; readonly everyS: number }
  /** After so much way, within a least and a greatest interval. */
  | { readonly by: 'distance'; readonly everyM: number; readonly leastS: number; readonly mostS: number }
  /**
   * When the place that others reckon from the last report, course and speed carried on, is off by more than so much, within a least and a
   * greatest interval: at a turn at once, on a straight road seldom, at rest hardly ever.
   */
  | { readonly by: 'error'; readonly withinM: number; readonly leastS: number; readonly mostS: number };

const MS_PER_KNOT = 1852 / 3600;
/** Slower, course and speed of a receiver mean nothing (common practice, no source). */
const STANDS_KNOTS = 1.5;

/** The motion that a report carries on: none at rest. */
export const motionOf = ({ courseDeg, speedKnots }: TrackPoint): { courseDeg: number; speedKnots: number } | null =>
  courseDeg !== null && speedKnots !== null && speedKnots >= STANDS_KNOTS ? { courseDeg, speedKnots } : null;

/** How far others are off who carry on course and speed of the last report, m. */
export function reckonedErrorM(last: TrackPoint, now: TrackPoint): number {
  const { east, north } = planeAt(last)(now);
  const motion = motionOf(last);
  if (!motion) return Math.hypot(east, north);
  const run = (motion.speedKnots * MS_PER_KNOT * (now.atMs - last.atMs)) / 1000;
  const course = (motion.courseDeg * Math.PI) / 180;
  return Math.hypot(east - run * Math.sin(course), north - run * Math.cos(course));
}

/** Whether a report is due. `last` is the last one that went out; without one it is due at once. */
export function isBeaconDue(scheme: BeaconScheme, last: TrackPoint | null, now: TrackPoint): boolean {
  if (!last) return true;
  const sinceS = (now.atMs - last.atMs) / 1000;
  if (scheme.by === 'time') return sinceS >= scheme.everyS;
  if (sinceS >= scheme.mostS) return true;
  if (sinceS < scheme.leastS) return false;
  if (scheme.by === 'error') return reckonedErrorM(last, now) > scheme.withinM;
  const { east, north } = planeAt(last)(now);
  return Math.hypot(east, north) >= scheme.everyM;
}
