import { fail, ok, type Parsed } from '../result';
import type { Position } from './geodesic';

/** Maidenhead locator of a position (IARU Region 1, 1980): 4, 6 or 8 characters. */
export function locatorOf({ latitude, longitude }: Position, length: 4 | 6 | 8 = 6): string {
  // The pole and the antimeridian belong to the last square.
  let x = Math.min(longitude + 180, 360 - 1e-9) / 20;
  let y = Math.min(latitude + 90, 180 - 1e-9) / 10;
  let text = '';
  const bases = [18, 10, 24, 10];
  for (let pair = 0; pair < length / 2; pair++) {
    const east = Math.floor(x);
    const north = Math.floor(y);
    const letters = pair % 2 === 0;
    const first = pair === 0 ? 'A' : 'a';
    const write = (n: number) => (letters ? String.fromCharCode(first.charCodeAt(0) + n) : String(n));
    text += write(east) + write(north);
    x = (x - east) * bases[pair + 1]!;
    y = (y - north) * bases[pair + 1]!;
  }
  return text;
}

/** The middle of a locator square. */
export function positionOfLocator(text: string): Parsed<Position> {
  const locator = text.trim().toUpperCase();
  if (!/^[A-R]{2}\d{2}(?:[A-X]{2}(?:\d{2})?)?$/.test(locator))
    return fail(0, 'a locator has 4, 6 or 8 characters, such as GN81ig');
  let longitude = -180;
  let latitude = -90;
  let width = 360;
  let height = 180;
  [18, 10, 24, 10].slice(0, locator.length / 2).forEach((base, pair) => {
    const value = (char: string) => (pair % 2 === 0 ? char.charCodeAt(0) - 65 : Number(char));
    width /= base;
    height /= base;
    longitude += value(locator[2 * pair]!) * width;
    latitude += value(locator[2 * pair + 1]!) * height;
  });
  return ok({ latitude: latitude + height / 2, longitude: longitude + width / 2 });
}
