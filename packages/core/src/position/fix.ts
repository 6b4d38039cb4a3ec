import { decodeNmea, nmeaYear } from '../aprs/nmea';

/** Where a receiver says that it is. */
export interface Fix {
  readonly latitude: number;
  readonly longitude: number;
  readonly altitudeM: number | null;
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
  readonly satellites: number | null;
  /** Horizontal dilution of precision. */
  readonly hdop: number | null;
  /** The receiver's own time, UTC, ISO 8601; null while it has told no date. */
  readonly toldAt: string | null;
}

export type ReceiverEvent =
  | { readonly is: 'fix'; readonly fix: Fix }
  /** It talks, and has no fix. */
  | { readonly is: 'no fix' }
  /** A sentence that cannot be trusted. */
  | { readonly is: 'wrong'; readonly reason: string };

/** The moment of `ddmmyy` and `hhmmss`; null for what is none. */
function momentOf(date: string, clock: string): string | null {
  const [day, month, year] = [date.slice(0, 2), date.slice(2, 4), Number(date.slice(4))];
  const text = `${nmeaYear(year)}-${month}-${day}T${clock.slice(0, 2)}:${clock.slice(2, 4)}:${clock.slice(4)}.000Z`;
  const at = new Date(text);
  // Days that a month does not have are carried over: they are none.
  return Number.isNaN(at.getTime()) || at.toISOString() !== text ? null : text;
}

const EMPTY: Fix = {
  latitude: 0,
  longitude: 0,
  altitudeM: null,
  courseDeg: null,
  speedKnots: null,
  satellites: null,
  hdop: null,
  toldAt: null,
};

/**
 * Reads a receiver line by line (NMEA 0183: RMC, GGA and GLL; others are passed over). Sentences of one second are put together, whatever
 * their order: RMC brings date, course and speed, GGA height and quality.
 */
export function createFixReader(): { push(line: string): ReceiverEvent | null } {
  let clock: string | null = null;
  let date: string | null = null;
  let fix = EMPTY;
  let refused = false;
  return {
    push(line) {
      const read = decodeNmea(line);
      if (!read.ok) return { is: 'wrong', reason: read.error.reason };
      const { type, valid, latitude, longitude, ...told } = read.value;
      if (type !== 'RMC' && type !== 'GGA' && type !== 'GLL') return null;
      // Without a checksum a digit may be another one.
      if (!told.checked) return { is: 'wrong', reason: 'a sentence without a checksum' };
      if (told.clock !== clock) {
        clock = told.clock;
        date = null;
        fix = EMPTY;
        refused = false;
      }
      date = told.date ?? date;
      if (valid === false || latitude === null || longitude === null) {
        refused = true;
        return { is: 'no fix' };
      }
      // What one sentence of a second denies, another one does not bring back.
      if (refused) return null;
      fix = {
        latitude,
        longitude,
        altitudeM: told.altitudeM ?? fix.altitudeM,
        courseDeg: told.courseDeg ?? fix.courseDeg,
        speedKnots: told.speedKnots ?? fix.speedKnots,
        satellites: told.satellites ?? fix.satellites,
        hdop: told.hdop ?? fix.hdop,
        toldAt: date !== null && clock !== null ? momentOf(date, clock) : fix.toldAt,
      };
      return { is: 'fix', fix };
    },
  };
}
