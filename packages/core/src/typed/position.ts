import type { Position } from '../geo/geodesic';
import { positionOfLocator } from '../geo/locator';
import { readDecimal } from './number';

const NUMBER = String.raw`\d+(?:[.,]\d+)?`;
const MINUTES = String.raw`\s*['′’m]\s*`;
/** Degrees, then perhaps minutes and seconds, with the hemisphere behind or in front: `33° 25.64′ N`, `N 33 25 38`. */
const ANGLE = new RegExp(
  String.raw`^([NSEW])?\s*(${NUMBER})\s*[°º]?\s*(?:(${NUMBER})(?:${MINUTES}|\s+|$)?(?:(${NUMBER})\s*["″”s]?)?)?\s*([NSEW])?$`,
  'i',
);
/** Between the hemispheres a position falls into its two angles. */
const HALVES = [/^(.+?[NS])[\s,;]*(.+[EW])$/i, /^([NS].+?)[\s,;]*([EW].+)$/i];
const SIGNED = /^([+\-−]?\d+(?:[.,]\d+)?)(?:\s*[;\s]\s*|,\s+)([+\-−]?\d+(?:[.,]\d+)?)$/;
const POINTED = /^([+\-−]?\d+(?:\.\d+)?)\s*,\s*([+\-−]?\d+(?:\.\d+)?)$/;

/** Degrees of one angle, north and east positive; null for none. */
function degreesOf(text: string, positive: string, negative: string): number | null {
  const found = ANGLE.exec(text.trim());
  if (!found) return null;
  const [, before, whole = '', minutes, seconds, behind] = found;
  const hemisphere = (before ?? behind)?.toUpperCase();
  if ((before && behind) || (hemisphere !== positive && hemisphere !== negative)) return null;
  const [degrees, ofHour, ofMinute] = [whole, minutes ?? '0', seconds ?? '0'].map(readDecimal) as [
    number,
    number,
    number,
  ];
  // What is divided further is whole itself, and no part reaches sixty.
  if (ofHour >= 60 || ofMinute >= 60) return null;
  if ((minutes && degrees % 1 !== 0) || (seconds && ofHour % 1 !== 0)) return null;
  const value = degrees + ofHour / 60 + ofMinute / 3600;
  return hemisphere === negative ? -value : value;
}

const onEarth = (latitude: number | null, longitude: number | null): Position | null =>
  latitude !== null && longitude !== null && Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180
    ? { latitude, longitude }
    : null;

/**
 * A position as people type it: decimal degrees with point or comma (`41.269 -43.285`, `41,269; -43,285`), degrees with minutes and perhaps
 * seconds and hemispheres as the chart shows them (`33° 25.64′ N 112° 7.74′ W`), or a Maidenhead locator. Degrees; null for anything else.
 */
export function readPosition(text: string): Position | null {
  const typed = text.trim();
  for (const half of HALVES) {
    const [, first, second] = half.exec(typed) ?? [];
    const found =
      first !== undefined && second !== undefined
        ? onEarth(degreesOf(first, 'N', 'S'), degreesOf(second, 'E', 'W'))
        : null;
    if (found) return found;
  }
  const [, latitude, longitude] = POINTED.exec(typed) ?? SIGNED.exec(typed) ?? [];
  if (latitude !== undefined && longitude !== undefined) return onEarth(readDecimal(latitude), readDecimal(longitude));
  const locator = positionOfLocator(typed);
  return locator.ok ? locator.value : null;
}
