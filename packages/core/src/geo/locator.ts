import { fail, ok, type Parsed } from '../result';
import type { Position } from './geodesic';

/**
 * The edges of all squares are whole in hundred-thousandths of a minute (about 2 cm), so that they are compared as integers: a place on
 * an edge belongs to the square north and east of it, whatever a fraction of a degree looks like in binary.
 */
const UNITS_PER_DEGREE = 60 * 100_000;
const ALL_EAST = 360 * UNITS_PER_DEGREE;
const ALL_NORTH = 180 * UNITS_PER_DEGREE;
/** Squares across and up inside the one before: fields, squares, subsquares, extended squares. */
const BASES = [18, 10, 24, 10] as const;

/** Maidenhead locator of a position (IARU Region 1, 1980): 4, 6 or 8 characters. */
export function locatorOf({ latitude, longitude }: Position, length: 4 | 6 | 8 = 6): string {
  // The pole and the antimeridian belong to the last square.
  const within = (units: number, all: number) => Math.max(0, Math.min(all - 1, units));
  let east = within(Math.round((longitude + 180) * UNITS_PER_DEGREE), ALL_EAST);
  let north = within(Math.round((latitude + 90) * UNITS_PER_DEGREE), ALL_NORTH);
  let width = ALL_EAST;
  let height = ALL_NORTH;
  let text = '';
  for (let pair = 0; pair < length / 2; pair++) {
    width /= BASES[pair]!;
    height /= BASES[pair]!;
    const letters = pair % 2 === 0;
    const first = pair === 0 ? 'A' : 'a';
    const write = (n: number) => (letters ? String.fromCharCode(first.charCodeAt(0) + n) : String(n));
    text += write(Math.floor(east / width)) + write(Math.floor(north / height));
    east %= width;
    north %= height;
  }
  return text;
}

/** The middle of a locator square. */
export function positionOfLocator(text: string): Parsed<Position> {
  const locator = text.trim().toUpperCase();
  if (!/^[A-R]{2}\d{2}(?:[A-X]{2}(?:\d{2})?)?$/.test(locator))
    return fail(0, 'a locator has 4, 6 or 8 characters, such as GN81ig');
  let east = 0;
  let north = 0;
  let width = ALL_EAST;
  let height = ALL_NORTH;
  for (let pair = 0; pair < locator.length / 2; pair++) {
    const value = (char: string) => (pair % 2 === 0 ? char.charCodeAt(0) - 65 : Number(char));
    width /= BASES[pair]!;
    height /= BASES[pair]!;
    east += value(locator[2 * pair]!) * width;
    north += value(locator[2 * pair + 1]!) * height;
  }
  return ok({
    latitude: (north + height / 2) / UNITS_PER_DEGREE - 90,
    longitude: (east + width / 2) / UNITS_PER_DEGREE - 180,
  });
}
