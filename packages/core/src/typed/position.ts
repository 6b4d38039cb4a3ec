import type { Position } from '../geo/geodesic';
import { positionOfLocator } from '../geo/locator';
import { positionOfGrid } from '../geo/military-grid';
import { positionOfUtm } from '../geo/utm';
import { readDecimal } from './number';

const NUMBER = String.raw`(\d+(?:[.,]\d+)?)`;
/** Degrees, then perhaps minutes and seconds: `33° 25.64′`, `33 25 38`. */
const ANGLE = new RegExp(
  `^${NUMBER}(?:(?: ?[°º] ?| )${NUMBER}(?:(?: ?['′’m] ?| )${NUMBER}(?: ?["″”s])?| ?['′’m])?| ?[°º])?$`,
  'i',
);
const DECIMAL = String.raw`([+\-−]?\d+(?:[.,]\d+)?)`;
const SIGNED = new RegExp(`^${DECIMAL}(?:,? )${DECIMAL}$`);
const POINTED = /^([+\-−]?\d+(?:\.\d+)?) ?, ?([+\-−]?\d+(?:\.\d+)?)$/;
/** Nothing that is typed for a position is longer. */
const MOST_TYPED = 100;

/** What was typed, with half the step of its last digit: nothing finer is said by it. */
export interface TypedPosition {
  readonly position: Position;
  /** How far off the place may be by the digits alone, m. */
  readonly withinM: number;
}

interface Angle {
  readonly degrees: number;
  /** Step of the last digit. */
  readonly stepDegrees: number;
}

/** A degree of latitude on a sphere of the earth's mean radius, m. */
const DEGREE_M = 111_195;

const decimalsOf = (text: string): number => /[.,](\d+)$/.exec(text)?.[1]?.length ?? 0;
const stepOf = (text: string, unitDegrees: number): number => unitDegrees / 10 ** decimalsOf(text);

/** One angle, north and east positive; null for none. */
function angleOf(text: string, positive: string, negative: string): Angle | null {
  const typed = text.trim();
  const before = /^[NSEW]/i.exec(typed)?.[0];
  const hemisphere = (before ?? /[NSEW]$/i.exec(typed)?.[0])?.toUpperCase();
  if (hemisphere !== positive && hemisphere !== negative) return null;
  const [, whole, minutes, seconds] = ANGLE.exec((before ? typed.slice(1) : typed.slice(0, -1)).trim()) ?? [];
  if (whole === undefined) return null;
  const [degrees, ofHour, ofMinute] = [whole, minutes ?? '0', seconds ?? '0'].map(readDecimal) as [
    number,
    number,
    number,
  ];
  // What is divided further is whole itself, and no part reaches sixty.
  if (ofHour >= 60 || ofMinute >= 60) return null;
  if ((minutes && degrees % 1 !== 0) || (seconds && ofHour % 1 !== 0)) return null;
  const value = degrees + ofHour / 60 + ofMinute / 3600;
  return {
    degrees: hemisphere === negative ? -value : value,
    stepDegrees: seconds ? stepOf(seconds, 1 / 3600) : minutes ? stepOf(minutes, 1 / 60) : stepOf(whole, 1),
  };
}

const decimalAngle = (text: string): Angle => ({ degrees: readDecimal(text), stepDegrees: stepOf(text, 1) });

/** Half of what the last digits step over, along the meridian or across it, whichever is more. */
function onEarth(latitude: Angle | null, longitude: Angle | null): TypedPosition | null {
  if (!latitude || !longitude || Math.abs(latitude.degrees) > 90 || Math.abs(longitude.degrees) > 180) return null;
  const across = Math.cos((latitude.degrees * Math.PI) / 180);
  return {
    position: { latitude: latitude.degrees, longitude: longitude.degrees },
    withinM: (DEGREE_M / 2) * Math.max(latitude.stepDegrees, longitude.stepDegrees * across),
  };
}

/** Degrees of latitude and longitude that a locator of so many characters spans. */
const LOCATOR_SPANS: Readonly<Record<number, readonly [number, number]>> = {
  4: [1, 2],
  6: [1 / 24, 1 / 12],
  8: [1 / 240, 1 / 120],
};

function ofLocator(text: string): TypedPosition | null {
  const read = positionOfLocator(text);
  const [high, wide] = LOCATOR_SPANS[text.length] ?? [0, 0];
  return read.ok
    ? onEarth({ degrees: read.value.latitude, stepDegrees: high }, { degrees: read.value.longitude, stepDegrees: wide })
    : null;
}

/**
 * A position as people type it: decimal degrees with point or comma (`41.269 -43.285`, `41,269; -43,285`), degrees with minutes and perhaps
 * seconds and hemispheres as the chart shows them (`33° 25.64′ N 112° 7.74′ W`), a Maidenhead locator, a reference of the military
 * grid, or zone, easting and northing. Null for anything else.
 */
export function readTypedPosition(text: string): TypedPosition | null {
  const typed = text.trim().replace(/[\s;]+/g, ' ');
  if (typed.length > MOST_TYPED) return null;
  // Behind the first hemisphere, or before the second, a position falls into its two angles.
  for (const { index } of typed.matchAll(/(?<=[NS])|(?=[EW])/gi)) {
    const [first, second] = [typed.slice(0, index), typed.slice(index)];
    const found = onEarth(
      angleOf(first.replace(/, ?$/, ''), 'N', 'S'),
      angleOf(second.replace(/^ ?, ?/, ''), 'E', 'W'),
    );
    if (found) return found;
  }
  const [, latitude, longitude] = POINTED.exec(typed) ?? SIGNED.exec(typed) ?? [];
  if (latitude !== undefined && longitude !== undefined)
    return onEarth(decimalAngle(latitude), decimalAngle(longitude));
  return ofLocator(typed) ?? positionOfUtm(typed) ?? positionOfGrid(typed);
}

/** The same without what its digits leave open. */
export const readPosition = (text: string): Position | null => readTypedPosition(text)?.position ?? null;
