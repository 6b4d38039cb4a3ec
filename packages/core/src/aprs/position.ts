import { fail, ok, type ParseError, type Parsed } from '../result';
import { decodeArea, isAreaSymbol, isSignpostSymbol, signpostIn, type Area } from './area';
import { base91, toBase91 } from './base91';
import { altitudeWords, decodeComment, type CommentTelemetry } from './comment';
import {
  decodeExtension,
  NO_EXTENSION,
  withMotion,
  type BearingReport,
  type Extension,
  type PowerHeightGain,
  type SignalStrength,
  type Storm,
} from './extension';
import type { Frequency } from './frequency';
import type { Note } from './note';
import { symbolInWords, type Symbol } from './symbol';
import { decodeWeather, encodeWeather, measuresAnything, type Weather } from './weather';

/** A position report, WGS-84 degrees, north and east positive, with all that stood behind the position. */
export interface PositionReport {
  readonly latitude: number;
  readonly longitude: number;
  /** Digits left blank by the sender, 0–4; the position is the middle of what remains possible. */
  readonly ambiguity: number;
  readonly compressed: boolean;
  readonly symbol: Symbol;
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
  readonly altitudeFt: number | null;
  readonly rangeMi: number | null;
  readonly powerHeightGain: PowerHeightGain | null;
  readonly signalStrength: SignalStrength | null;
  readonly bearing: BearingReport | null;
  readonly storm: Storm | null;
  readonly area: Area | null;
  /** What stands on a signpost. */
  readonly signpost: string | null;
  readonly weather: Weather | null;
  readonly telemetry: CommentTelemetry | null;
  readonly frequency: Frequency | null;
  readonly comment: string;
  /** What could not be read, while the rest could. */
  readonly faults: readonly ParseError[];
}

/** What to put on the air; altitude is given in feet as the format carries it. */
export interface PositionToSend {
  readonly latitude: number;
  readonly longitude: number;
  /** Digits of the minutes to leave blank, 0–4; plain form only. */
  readonly ambiguity?: number;
  readonly symbol: Symbol;
  readonly courseDeg?: number;
  readonly speedKnots?: number;
  readonly altitudeFt?: number;
  readonly weather?: Weather;
  /** Behind the position: PHG, RNG and the like as encoded by their own functions. */
  readonly extension?: string;
  readonly comment?: string;
}

export const NO_FAULTS: readonly ParseError[] = [];

const SPACE = 0x20;
const isDigit = (code: number) => code >= 0x30 && code <= 0x39;
export const isSymbolTable = (code: number): boolean =>
  code === 0x2f || code === 0x5c || isDigit(code) || (code >= 0x41 && code <= 0x5a);

/** 0° 0′: what receivers without a fix send (ch. 6, null position). Nobody is there. */
export const isNullPosition = ({ latitude, longitude }: { latitude: number; longitude: number }): boolean =>
  Math.abs(latitude) < 1e-4 && Math.abs(longitude) < 1e-4;

const NULL_FAULT = (at: number): ParseError => ({
  at,
  reason: '0° 0′ is what a receiver without a fix sends: not taken as a position',
});

/**
 * Reads the position that starts at `at` of a text of one character per octet: plain (Protocol Reference 1.0.1, ch. 6 to 8)
 * or compressed (ch. 9). The first octet tells: a digit or space starts a latitude, a symbol table a compressed position.
 * What stands behind it can spoil only itself.
 */
export function decodePosition(text: string, at: number, note?: Note): Parsed<PositionReport> {
  if (at >= text.length) return fail(at, 'the position is missing');
  const first = text.charCodeAt(at);
  return isDigit(first) || first === SPACE ? decodePlain(text, at, note) : decodeCompressed(text, at, note);
}

export const PLAIN_OCTETS = 19;
export const COMPRESSED_OCTETS = 13;
const MPH_PER_KNOT = 1.15077945;

/** A position in degrees and minutes, for people: `41° 12.42′ N`. */
export function degreesInWords(value: number, positive: string, negative: string): string {
  // Rounded first, so that 59.996′ becomes the next degree.
  const hundredths = Math.round(Math.abs(value) * 6000);
  const whole = Math.floor(hundredths / 6000);
  return `${whole}° ${((hundredths - whole * 6000) / 100).toFixed(2)}′ ${value < 0 ? negative : positive}`;
}

function decodePlain(text: string, at: number, note?: Note): Parsed<PositionReport> {
  if (text.length < at + PLAIN_OCTETS) return fail(text.length, 'the position is cut off: it takes 19 characters');
  const latitude = decodeAngle(text, at, 2, 'N', 'S');
  if (!latitude.ok) return latitude;
  const longitude = decodeAngle(text, at + 9, 3, 'E', 'W', latitude.value.blanks);
  if (!longitude.ok) return longitude;
  if (!isSymbolTable(text.charCodeAt(at + 8))) return fail(at + 8, 'not a symbol table or overlay');
  const ambiguity = latitude.value.blanks;
  const symbol = { table: text[at + 8]!, code: text[at + 18]! };
  const place: Place = {
    latitude: latitude.value.degrees,
    longitude: longitude.value.degrees,
    ambiguity,
    compressed: false,
    symbol,
  };
  if (note) {
    const blank = ambiguity > 0 ? `; ${ambiguity} digits left blank on purpose` : '';
    note('Latitude', degreesInWords(place.latitude, 'N', 'S') + blank, at, at + 8);
    note('Longitude', degreesInWords(place.longitude, 'E', 'W') + blank, at + 9, at + 18);
    note('Symbol', symbolInWords(symbol), at + 18, at + 19);
  }
  const faults = isNullPosition(place) ? [NULL_FAULT(at)] : NO_FAULTS;
  const begin = at + PLAIN_OCTETS;
  if (symbol.code === '_') {
    const { weather, end } = decodeWeather(text, begin, 'slashed', note);
    return ok(report(place, NO_EXTENSION, measuresAnything(weather) ? weather : null, text, end, faults, note));
  }
  // The same seven characters would read as course and speed.
  const area = isAreaSymbol(symbol) ? decodeArea(text, begin, note) : null;
  if (area) return ok(report(place, NO_EXTENSION, null, text, area.end, faults, note, null, area.area));
  const extension = decodeExtension(text, begin, note);
  return ok(report(place, extension, null, text, extension.end, faults, note));
}

/** What the position itself says. */
export type Place = Pick<PositionReport, 'latitude' | 'longitude' | 'ambiguity' | 'compressed' | 'symbol'>;

/** Puts together what was read and what the comment adds. */
export function report(
  place: Place,
  extension: Extension,
  weather: Weather | null,
  text: string,
  commentAt: number,
  faults: readonly ParseError[],
  note?: Note,
  altitudeFt: number | null = null,
  area: Area | null = null,
): PositionReport {
  const comment = decodeComment(text, commentAt, note);
  const { precision } = comment;
  // Extra precision goes away from 0° (1.2 addendum), also on the lines themselves, whose side the sign of zero keeps; it makes no sense of a blurred position.
  const finer = (value: number, minutes: number) =>
    value + (value < 0 || Object.is(value, -0) ? -minutes : minutes) / 60;
  const refine = precision !== null && place.ambiguity === 0 && !place.compressed;
  return {
    latitude: refine ? finer(place.latitude, precision.latitudeMinutes) : place.latitude,
    longitude: refine ? finer(place.longitude, precision.longitudeMinutes) : place.longitude,
    ambiguity: place.ambiguity,
    compressed: place.compressed,
    symbol: place.symbol,
    courseDeg: extension.courseDeg,
    speedKnots: extension.speedKnots,
    altitudeFt: comment.altitudeFt ?? altitudeFt,
    rangeMi: extension.rangeMi,
    powerHeightGain: extension.powerHeightGain,
    signalStrength: extension.signalStrength,
    bearing: extension.bearing,
    storm: extension.storm,
    area,
    signpost: isSignpostSymbol(place.symbol) ? signpostIn(comment.comment) : null,
    weather,
    telemetry: comment.telemetry,
    frequency: comment.frequency,
    comment: comment.comment,
    faults,
  };
}

/** Middles of what blank digits leave possible, minutes (ch. 6, ambiguity), and what each digit of the minutes weighs. */
export const MIDDLES = [0, 0.05, 0.5, 5, 30];
export const WEIGHTS = [10, 1, 0.1, 0.01];

/**
 * `DDMM.hhN` or `DDDMM.hhW`, trailing digits of the minutes perhaps blank. `alsoBlank` blanks as many digits of a longitude, which
 * is read with the ambiguity of its latitude (ch. 6).
 */
function decodeAngle(
  text: string,
  at: number,
  degreeDigits: 2 | 3,
  positive: string,
  negative: string,
  alsoBlank = 0,
): Parsed<{ degrees: number; blanks: number }> {
  const what = degreeDigits === 2 ? 'latitude' : 'longitude';
  const minutesAt = at + degreeDigits;
  if (text[minutesAt + 2] !== '.') return fail(minutesAt + 2, `the ${what} has no decimal point in its place`);
  let degrees = 0;
  for (let i = at; i < minutesAt; i++) {
    const code = text.charCodeAt(i);
    if (!isDigit(code)) return fail(i, `the ${what}'s degrees are not digits`);
    degrees = degrees * 10 + (code - 0x30);
  }
  let minutes = 0;
  let blanks = 0;
  for (let i = 0; i < 4; i++) {
    const digitAt = minutesAt + (i < 2 ? i : i + 1);
    const code = text.charCodeAt(digitAt);
    if (code === SPACE) blanks++;
    else if (!isDigit(code)) return fail(digitAt, `the ${what}'s minutes are not digits`);
    else if (blanks > 0) return fail(digitAt, `the ${what} has a digit after a blank`);
    else if (i < 4 - alsoBlank) minutes += (code - 0x30) * WEIGHTS[i]!;
  }
  minutes += MIDDLES[Math.max(blanks, alsoBlank)]!;
  if (minutes >= 60) return fail(minutesAt, `the ${what} has ${minutes.toFixed(2)} minutes`);
  const value = degrees + minutes / 60;
  if (value > (degreeDigits === 2 ? 90 : 180)) return fail(at, `the ${what} is off the globe`);
  const hemisphereAt = at + degreeDigits + 5;
  const hemisphere = text[hemisphereAt]!.toUpperCase();
  if (hemisphere !== positive && hemisphere !== negative)
    return fail(hemisphereAt, `the ${what} ends in neither ${positive} nor ${negative}`);
  return ok({ degrees: hemisphere === positive ? value : -value, blanks });
}

function decodeCompressed(text: string, at: number, note?: Note): Parsed<PositionReport> {
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

/** Degrees as `DDMM.hh` + hemisphere, rounded to a hundredth of a minute with carry; `blanks` digits are left out. */
function encodeAngle(degrees: number, degreeDigits: 2 | 3, positive: string, negative: string, blanks: number) {
  // What is left blank must be cut, not rounded: the true position lies inside what remains.
  const exact = Math.abs(degrees) * 6000;
  const hundredths = blanks > 0 ? Math.floor(exact + 1e-6) : Math.round(exact);
  const whole = Math.floor(hundredths / 6000);
  const minutes = String(hundredths - whole * 6000).padStart(4, '0');
  const kept = minutes.slice(0, 4 - blanks).padEnd(4, ' ');
  const hemisphere = degrees < 0 ? negative : positive;
  return `${String(whole).padStart(degreeDigits, '0')}${kept.slice(0, 2)}.${kept.slice(2)}${hemisphere}`;
}

const altitudeText = (feet: number | undefined): string => {
  if (feet === undefined) return '';
  const digits = String(Math.min(999999, Math.abs(Math.round(feet))));
  return feet < 0 ? `/A=-${digits.padStart(5, '0')}` : `/A=${digits.padStart(6, '0')}`;
};

const three = (n: number) => String(Math.round(n)).padStart(3, '0');

/** Text of a plain position without its data type character (ch. 6, 7, 8, 12). */
export function encodeUncompressedPosition(report: PositionToSend): string {
  const { symbol, courseDeg, speedKnots, weather, ambiguity = 0 } = report;
  const behind = weather
    ? encodeWeather(weather)
    : courseDeg === undefined || speedKnots === undefined
      ? (report.extension ?? '')
      : // North is 360: 000 means that the course is not known.
        `${three(Math.round(courseDeg) % 360 || 360)}/${three(Math.min(999, speedKnots))}`;
  return (
    encodeAngle(report.latitude, 2, 'N', 'S', ambiguity) +
    symbol.table +
    encodeAngle(report.longitude, 3, 'E', 'W', ambiguity) +
    symbol.code +
    behind +
    altitudeText(report.altitudeFt) +
    (report.comment ?? '')
  );
}

/** Text of a compressed position without its data type character (ch. 9). */
export function encodeCompressedPosition(report: PositionToSend): string {
  const { symbol, courseDeg, speedKnots } = report;
  const table = /\d/.test(symbol.table) ? String.fromCharCode(symbol.table.charCodeAt(0) - 0x30 + 0x61) : symbol.table;
  const y = Math.min(91 ** 4 - 1, Math.round(380926 * (90 - report.latitude)));
  const x = Math.min(91 ** 4 - 1, Math.round(190463 * (180 + report.longitude)));
  // Type octet: current fix, other source, made by software (ch. 9, compression type).
  const motion =
    courseDeg === undefined || speedKnots === undefined
      ? ' sT'
      : String.fromCharCode(33 + (Math.round(courseDeg / 4) % 90)) +
        String.fromCharCode(33 + Math.min(90, Math.round(Math.log(speedKnots + 1) / Math.log(1.08)))) +
        '[';
  return (
    table +
    toBase91(y, 4) +
    toBase91(x, 4) +
    symbol.code +
    motion +
    altitudeText(report.altitudeFt) +
    (report.comment ?? '')
  );
}
