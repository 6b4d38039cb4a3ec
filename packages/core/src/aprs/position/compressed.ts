import { fail, ok, type Parsed } from '../../result';
import { base91 } from '../base91';
import { altitudeWords } from '../comment';
import { NO_EXTENSION, withMotion } from '../extension';
import type { Note } from '../note';
import { symbolInWords } from '../symbol';
import { decodeWeather, measuresAnything } from '../weather';
import {
  degreesInWords,
  isNullPosition,
  isSymbolTable,
  NO_FAULTS,
  NULL_FAULT,
  report,
  type Place,
  type PositionReport,
} from './report';

export const COMPRESSED_OCTETS = 13;
const MPH_PER_KNOT = 1.15077945;

/** Reads a compressed position: four digits of base 91 for each angle (ch. 9). */
export function decodeCompressed(text: string, at: number, note?: Note): Parsed<PositionReport> {
  if (text.length < at + COMPRESSED_OCTETS)
    return fail(text.length, 'the compressed position is cut off: it takes 13 characters');
  const table = text.charCodeAt(at);
  // Overlay digits 0–9 are sent as a–j, so that they are not taken for a latitude (ch. 9).
  const overlay = table >= 0x61 && table <= 0x6a ? table - 0x61 + 0x30 : table;
  if (!isSymbolTable(overlay)) return fail(at, 'not a symbol table or overlay');
  const y = base91(text, at + 1, 4);
  if (y < 0) return fail(at + 1, 'the latitude is not in base 91');
  const x = base91(text, at + 5, 4);
  if (x < 0) return fail(at + 5, 'the longitude is not in base 91');
  const symbol = { table: String.fromCharCode(overlay), code: text[at + 9]! };
  const place: Place = {
    latitude: 90 - y / 380926,
    longitude: -180 + x / 190463,
    ambiguity: 0,
    compressed: true,
    symbol,
  };
  if (place.latitude < -90) return fail(at + 1, 'the latitude is off the globe');
  if (place.longitude > 180) return fail(at + 5, 'the longitude is off the globe');
  if (note) {
    note('Latitude', `${degreesInWords(place.latitude, 'N', 'S')}, in base 91`, at + 1, at + 5);
    note('Longitude', `${degreesInWords(place.longitude, 'E', 'W')}, in base 91`, at + 5, at + 9);
    note('Symbol', symbolInWords(symbol), at + 9, at + 10);
  }
  const motion = compressedMotion(text, at + 10, note);
  const faults = isNullPosition(place) ? [NULL_FAULT(at)] : NO_FAULTS;
  const begin = at + COMPRESSED_OCTETS;
  if (symbol.code === '_') {
    // Course and speed of a weather station are those of the wind (ch. 12).
    const { weather, end } = decodeWeather(text, begin, 'none', note);
    const wind = {
      ...weather,
      windDirectionDeg: motion.courseDeg,
      windMph: motion.speedKnots === null ? null : motion.speedKnots * MPH_PER_KNOT,
    };
    return ok(report(place, NO_EXTENSION, measuresAnything(wind) ? wind : null, text, end, faults, note));
  }
  const { courseDeg, speedKnots, rangeMi, altitudeFt } = motion;
  return ok(report(place, withMotion(courseDeg, speedKnots, rangeMi), null, text, begin, faults, note, altitudeFt));
}

/** The three octets `csT`: course and speed, range, or altitude when T says that the fix came with one (ch. 9). */
function compressedMotion(text: string, at: number, note?: Note) {
  const motion: Record<'courseDeg' | 'speedKnots' | 'rangeMi' | 'altitudeFt', number | null> = {
    courseDeg: null,
    speedKnots: null,
    rangeMi: null,
    altitudeFt: null,
  };
  const c = text.charCodeAt(at) - 33;
  const s = text.charCodeAt(at + 1) - 33;
  const type = text.charCodeAt(at + 2) - 33;
  if (c < 0 || c > 90 || s < 0 || s > 90) return motion;
  if ((type & 0b11000) === 0b10000) {
    motion.altitudeFt = Math.pow(1.002, c * 91 + s);
    note?.('Altitude', altitudeWords(motion.altitudeFt), at, at + 3);
  } else if (c === 90) {
    motion.rangeMi = 2 * Math.pow(1.08, s);
    note?.('Range', `${motion.rangeMi.toFixed(1)} miles`, at, at + 3);
  } else {
    motion.courseDeg = c === 0 ? 360 : c * 4;
    motion.speedKnots = Math.pow(1.08, s) - 1;
    note?.('Course and speed', `${motion.courseDeg}° at ${motion.speedKnots.toFixed(1)} knots`, at, at + 3);
  }
  return motion;
}
