import { compassPoint, distanceInWords, type DistanceUnit } from '@tombolo/core';

const UNITS = ['octets', 'kB', 'MB', 'GB', 'TB'] as const;

/** `420 kB`, `2.4 GB`: in powers of ten, as discs are sold. */
export function octetsInWords(octets: number): string {
  let value = octets;
  let unit = 0;
  while (value >= 999.5 && unit < UNITS.length - 1) {
    value /= 1000;
    unit++;
  }
  const digits = unit === 0 || value >= 99.95 ? 0 : 1;
  return `${value.toFixed(digits)} ${unit === 0 && octets === 1 ? 'octet' : UNITS[unit]}`;
}

/** `144.800 MHz`, with a fourth decimal where it says something. */
export const megahertzInWords = (hz: number): string => `${(hz / 1e6).toFixed(4).replace(/0$/, '')} MHz`;

/** `14.6 km WSW (258°)`; null when either position is unknown. */
export function whereWords(
  { distanceKm, azimuthDeg }: { distanceKm: number | null; azimuthDeg: number | null },
  unit: DistanceUnit,
): string | null {
  if (distanceKm === null || azimuthDeg === null) return null;
  // So near a direction means nothing.
  if (distanceKm < 0.01) return 'at your position';
  return `${distanceInWords(distanceKm, unit)} ${compassPoint(azimuthDeg)} (${Math.round(azimuthDeg)}°)`;
}
