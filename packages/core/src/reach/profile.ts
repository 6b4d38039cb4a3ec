import { bearingBetween, pointAt, type Position } from '../geo/geodesic';

/** One point of the ground between two stations; the height is null where no elevation is known. */
export interface ProfilePoint {
  readonly distanceKm: number;
  /** Above the sea; water is 0 or less. */
  readonly groundM: number | null;
}

export const LEAST_PROFILE_POINTS = 3;
export const MOST_PROFILE_POINTS = 1001;

/** So many points along the geodesic, evenly spaced, both ends included. */
export function pointsBetween(from: Position, to: Position, points: number): (Position & { distanceKm: number })[] {
  const count = Math.max(LEAST_PROFILE_POINTS, Math.min(MOST_PROFILE_POINTS, Math.round(points)));
  const { azimuthDeg, distanceKm } = bearingBetween(from, to);
  return Array.from({ length: count }, (_, n) => {
    const along = (distanceKm * n) / (count - 1);
    const at = n === 0 ? from : n === count - 1 ? to : pointAt(from, azimuthDeg, along);
    return { latitude: at.latitude, longitude: at.longitude, distanceKm: along };
  });
}

/** How far a profile tells the ground: the share of its points with a height, 0 to 1. */
export const knownShare = (profile: readonly ProfilePoint[]): number =>
  profile.length === 0 ? 0 : profile.filter(({ groundM }) => groundM !== null).length / profile.length;
