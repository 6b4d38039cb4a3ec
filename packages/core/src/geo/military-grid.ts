import * as library from 'mgrs';
import type { Position } from './geodesic';

/** Bundlers take the package for a module with names, Node.js for one with a default. */
const { forward, toPoint } = (library as { readonly default?: typeof library }).default ?? library;

/** Zone, band, square of 100 km, then as many digits of easting as of northing; the letters I and O are not used. */
const REFERENCE = /^(\d{1,2})([C-HJ-NP-X])([A-HJ-NP-Z]{2})(\d*)$/i;
const MOST_DIGITS = 5;

/** A place by the military grid reference system on WGS 84, to a metre: `24T XM 60123 71234`; null near the poles, where it is another one. */
export function gridOf({ latitude, longitude }: Position): string | null {
  if (latitude < -80 || latitude > 84) return null;
  const [, zone = '', band = '', square = '', digits = ''] =
    REFERENCE.exec(forward([longitude, latitude], MOST_DIGITS)) ?? [];
  return `${zone}${band} ${square} ${digits.slice(0, MOST_DIGITS)} ${digits.slice(MOST_DIGITS)}`;
}

/** The middle of the square that a reference names, with half its side; null for none. */
export function positionOfGrid(text: string): { position: Position; withinM: number } | null {
  const [, zone, , , digits = ''] = REFERENCE.exec(text.replaceAll(/\s/g, '')) ?? [];
  if (zone === undefined || Number(zone) < 1 || Number(zone) > 60) return null;
  const each = digits.length / 2;
  if (each < 1 || each > MOST_DIGITS || !Number.isInteger(each)) return null;
  try {
    const [longitude, latitude] = toPoint(text.replaceAll(/\s/g, '').toUpperCase()) as [number, number];
    return Number.isFinite(latitude) && Number.isFinite(longitude)
      ? { position: { latitude, longitude }, withinM: 10 ** (MOST_DIGITS - each) / 2 }
      : null;
  } catch {
    // The library throws for squares that the zone does not have.
    return null;
  }
}
