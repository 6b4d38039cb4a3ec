import { planeAt } from './plane';
import type { TrackPoint } from './scheme';

/** A longer silence is no track: where it was meanwhile nobody knows. */
const MOST_GAP_MS = 20 * 60_000;

/**
 * A track with a point every `stepS` seconds out of one that was heard now and then, oldest first: between two reports straight on, with the
 * course and speed that this takes. What it did between them is not known: turns there are missed.
 */
export function denseTrack(
  points: readonly Pick<TrackPoint, 'atMs' | 'latitude' | 'longitude'>[],
  stepS: number,
): TrackPoint[] {
  const dense: TrackPoint[] = [];
  points.forEach((from, n) => {
    const to = points[n + 1];
    const spanMs = to ? to.atMs - from.atMs : 0;
    if (!to || spanMs <= 0 || spanMs > MOST_GAP_MS) return;
    const { east, north } = planeAt(from)(to);
    const speedKnots = (Math.hypot(east, north) / (spanMs / 1000)) * (3600 / 1852);
    const courseDeg = ((Math.atan2(east, north) * 180) / Math.PI + 360) % 360;
    for (let ms = 0; ms < spanMs; ms += stepS * 1000) {
      const share = ms / spanMs;
      dense.push({
        atMs: from.atMs + ms,
        latitude: from.latitude + (to.latitude - from.latitude) * share,
        longitude: from.longitude + (to.longitude - from.longitude) * share,
        courseDeg,
        speedKnots,
      });
    }
  });
  return dense;
}
