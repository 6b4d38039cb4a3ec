import { isBeaconDue, reckonedErrorM, type BeaconScheme, type TrackPoint } from './scheme';

/** What others would have seen of a track under a scheme. */
export interface SchemeOutcome {
  readonly sent: number;
  readonly perHour: number;
  /** How far the reckoned place was off, over all points of the track, m. */
  readonly meanErrorM: number;
  /** 95 of 100 points were off by no more. */
  readonly error95M: number;
  readonly worstErrorM: number;
  /** When each went out. */
  readonly sentAtMs: readonly number[];
}

const HOUR_MS = 3_600_000;

/** How far others are off along a track, m, at no more than `most` moments: of each stretch the worst. */
export function errorsAlong(
  scheme: BeaconScheme,
  track: readonly TrackPoint[],
  most: number,
): { readonly atMs: number; readonly errorM: number }[] {
  const first = track[0];
  const end = track.at(-1);
  if (!first || !end || end.atMs <= first.atMs) return [];
  const stretchMs = (end.atMs - first.atMs) / most;
  const worst: { atMs: number; errorM: number }[] = [];
  let last: TrackPoint | null = null;
  for (const point of track) {
    const errorM: number = last ? reckonedErrorM(last, point) : 0;
    if (isBeaconDue(scheme, last, point)) last = point;
    const n = Math.min(most - 1, Math.floor((point.atMs - first.atMs) / stretchMs));
    const of = worst[n];
    if (!of || of.errorM < errorM) worst[n] = { atMs: point.atMs, errorM };
  }
  return worst.filter((one) => one !== undefined);
}

/** Runs a scheme over a recorded track, oldest point first; null for a track of less than two points. */
export function runScheme(scheme: BeaconScheme, track: readonly TrackPoint[]): SchemeOutcome | null {
  const [first] = track;
  const end = track.at(-1);
  if (!first || !end || track.length < 2 || end.atMs <= first.atMs) return null;
  const errors = new Float64Array(track.length);
  const sentAtMs: number[] = [];
  let last: TrackPoint | null = null;
  let sum = 0;
  for (const [n, point] of track.entries()) {
    // What others see just before it is put right is what they saw.
    const off: number = last ? reckonedErrorM(last, point) : 0;
    if (isBeaconDue(scheme, last, point)) {
      sentAtMs.push(point.atMs);
      last = point;
    }
    errors[n] = off;
    sum += off;
  }
  errors.sort();
  return {
    sent: sentAtMs.length,
    perHour: (sentAtMs.length * HOUR_MS) / (end.atMs - first.atMs),
    meanErrorM: sum / track.length,
    error95M: errors[Math.ceil(0.95 * track.length) - 1]!,
    worstErrorM: errors[track.length - 1]!,
    sentAtMs,
  };
}
