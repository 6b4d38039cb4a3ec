import { encodeNmea } from '../aprs/nmea';
import type { Position } from '../geo/geodesic';

/** Receivers cut longer names (common practice, no source). */
export const MOST_WAYPOINT_NAME = 9;

/** A name that a sentence can carry: no comma, no mark of a checksum, nothing beyond printable ASCII. */
export function waypointName(call: string): string {
  const plain = call
    .toUpperCase()
    .replace(/[^\x20-\x7e]|[,*$!\\^~]/g, '-')
    .trim()
    .slice(0, MOST_WAYPOINT_NAME);
  return plain === '' ? '-' : plain;
}

const minutesOf = (degrees: number, digits: number, letters: readonly [string, string]): string => {
  // Rounded once, as a whole: 59.99996 min is the next degree.
  const tenThousandths = Math.round(Math.abs(degrees) * 60 * 10_000);
  const whole = Math.floor(tenThousandths / 600_000);
  const minutes = ((tenThousandths % 600_000) / 10_000).toFixed(4).padStart(7, '0');
  return `${String(whole).padStart(digits, '0')}${minutes},${letters[degrees < 0 ? 1 : 0]}`;
};

/** Sentence of NMEA 0183 that puts a named place on a navigation receiver (WPL), with its end of line. */
export const encodeWaypoint = (name: string, { latitude, longitude }: Position): string =>
  `${encodeNmea(
    `GPWPL,${minutesOf(latitude, 2, ['N', 'S'])},${minutesOf(longitude, 3, ['E', 'W'])},${waypointName(name)}`,
  )}\r\n`;
