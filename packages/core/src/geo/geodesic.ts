import geodesic from 'geographiclib-geodesic';

/** WGS-84, degrees. */
export interface Position {
  readonly latitude: number;
  readonly longitude: number;
}

export interface Bearing {
  readonly distanceKm: number;
  /** Azimuth at the starting point, 0 ≤ azimuth < 360, true north. */
  readonly azimuthDeg: number;
}

const wgs84 = geodesic.Geodesic.WGS84;

/** Distance and initial azimuth on the WGS-84 ellipsoid (Karney 2013, through a geodesy library). */
export function bearingBetween(from: Position, to: Position): Bearing {
  const { s12 = 0, azi1 = 0 } = wgs84.Inverse(from.latitude, from.longitude, to.latitude, to.longitude);
  return { distanceKm: s12 / 1000, azimuthDeg: (azi1 + 360) % 360 };
}

const RADIANS = Math.PI / 180;
/** The largest radius of curvature of the ellipsoid (WGS 84): that of the meridian at a pole, a² / b. */
const POLAR_RADIUS_KM = 6378.137 / (1 - 1 / 298.257223563);

/**
 * An upper bound of the distance in km, told in a fraction of the time: along a meridian and a parallel, both as long as they can be
 * anywhere on the ellipsoid.
 */
export function atMostKm(from: Position, to: Position): number {
  const alongMeridian = Math.abs(to.latitude - from.latitude);
  const turned = Math.abs(to.longitude - from.longitude) % 360;
  const alongParallel =
    Math.min(turned, 360 - turned) * Math.cos(Math.min(Math.abs(from.latitude), Math.abs(to.latitude)) * RADIANS);
  return (alongMeridian + alongParallel) * RADIANS * POLAR_RADIUS_KM;
}

/** The point at a distance and azimuth from another. */
export function pointAt(from: Position, azimuthDeg: number, distanceKm: number): Position {
  const { lat2 = from.latitude, lon2 = from.longitude } = wgs84.Direct(
    from.latitude,
    from.longitude,
    azimuthDeg,
    distanceKm * 1000,
  );
  return { latitude: lat2, longitude: lon2 };
}

const COMPASS = ['N', 'NNE', 'NE', 'ENE', 'E', 'ESE', 'SE', 'SSE', 'S', 'SSW', 'SW', 'WSW', 'W', 'WNW', 'NW', 'NNW'];

/** The nearest of the 16 compass points. */
export const compassPoint = (azimuthDeg: number): string => COMPASS[Math.round(azimuthDeg / 22.5) % 16]!;
