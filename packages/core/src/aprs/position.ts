import { textOfOctets } from '../octets';
import { fail, ok, type Parsed } from '../result';
import type { Symbol } from './symbol';

/** A position report, WGS-84 degrees, north and east positive. */
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
  readonly comment: string;
}

/** What to put on the air; altitude is given in feet as the format carries it. */
export interface PositionToSend {
  readonly latitude: number;
  readonly longitude: number;
  readonly symbol: Symbol;
  readonly courseDeg?: number;
  readonly speedKnots?: number;
  readonly altitudeFt?: number;
  readonly comment?: string;
}

const SPACE = 0x20;
const isDigit = (octet: number) => octet >= 0x30 && octet <= 0x39;
const char = (octets: Uint8Array, at: number) => String.fromCharCode(octets[at]!);
const isSymbolTable = (octet: number) =>
  octet === 0x2f || octet === 0x5c || isDigit(octet) || (octet >= 0x41 && octet <= 0x5a);

/**
 * Reads the position that starts at `at`: uncompressed (Protocol Reference 1.0.1, ch. 6 and 8) or
 * compressed (ch. 9). The first octet tells: a digit or space starts a latitude, a symbol table a compressed position.
 */
export function decodePosition(info: Uint8Array, at: number): Parsed<PositionReport> {
  if (at >= info.length) return fail(at, 'the position is missing');
  const first = info[at]!;
  return isDigit(first) || first === SPACE ? decodeUncompressed(info, at) : decodeCompressed(info, at);
}

const UNCOMPRESSED_OCTETS = 19;

function decodeUncompressed(info: Uint8Array, at: number): Parsed<PositionReport> {
  if (info.length < at + UNCOMPRESSED_OCTETS)
    return fail(info.length, 'the position is cut off: it takes 19 characters');
  const latitude = decodeAngle(info, at, 2, 'N', 'S');
  if (!latitude.ok) return latitude;
  const longitude = decodeAngle(info, at + 9, 3, 'E', 'W');
  if (!longitude.ok) return longitude;
  if (!isSymbolTable(info[at + 8]!)) return fail(at + 8, 'not a symbol table or overlay');
  const rest = decodeExtension(info, at + UNCOMPRESSED_OCTETS);
  // The latitude's blanks rule; the longitude is read as if it had as many (ch. 6, ambiguity).
  const ambiguity = latitude.value.blanks;
  return ok({
    latitude: latitude.value.degrees,
    longitude: longitude.value.degrees,
    ambiguity,
    compressed: false,
    symbol: { table: char(info, at + 8), code: char(info, at + 18) },
    ...rest,
  });
}

/** `DDMM.hhN` or `DDDMM.hhW`, trailing digits of the minutes perhaps blank. */
function decodeAngle(
  info: Uint8Array,
  at: number,
  degreeDigits: 2 | 3,
  positive: string,
  negative: string,
): Parsed<{ degrees: number; blanks: number }> {
  const what = degreeDigits === 2 ? 'latitude' : 'longitude';
  const digitsAt = [0, 1, 3, 4].map((offset) => at + degreeDigits + offset);
  if (info[at + degreeDigits + 2] !== 0x2e)
    return fail(at + degreeDigits + 2, `the ${what} has no decimal point in its place`);
  let degrees = 0;
  for (let i = 0; i < degreeDigits; i++) {
    const octet = info[at + i]!;
    if (!isDigit(octet)) return fail(at + i, `the ${what}'s degrees are not digits`);
    degrees = degrees * 10 + (octet - 0x30);
  }
  const weights = [10, 1, 0.1, 0.01];
  let minutes = 0;
  let blanks = 0;
  for (let i = 0; i < 4; i++) {
    const octet = info[digitsAt[i]!]!;
    if (octet === SPACE) {
      blanks++;
    } else if (!isDigit(octet)) {
      return fail(digitsAt[i]!, `the ${what}'s minutes are not digits`);
    } else if (blanks > 0) {
      return fail(digitsAt[i]!, `the ${what} has a digit after a blank`);
    } else {
      minutes += (octet - 0x30) * weights[i]!;
    }
  }
  const middle = [0, 0.05, 0.5, 5, 30][blanks]!;
  minutes += middle;
  if (minutes >= 60) return fail(digitsAt[0]!, `the ${what} has ${minutes.toFixed(2)} minutes`);
  const value = degrees + minutes / 60;
  if (value > (degreeDigits === 2 ? 90 : 180)) return fail(at, `the ${what} is off the globe`);
  const hemisphereAt = at + degreeDigits + 5;
  const hemisphere = char(info, hemisphereAt).toUpperCase();
  if (hemisphere !== positive && hemisphere !== negative)
    return fail(hemisphereAt, `the ${what} ends in neither ${positive} nor ${negative}`);
  return ok({ degrees: hemisphere === positive ? value : -value, blanks });
}

type Extension = Pick<PositionReport, 'courseDeg' | 'speedKnots' | 'altitudeFt' | 'rangeMi' | 'comment'>;

/** Course/speed, range and altitude behind an uncompressed position (ch. 7); a bad one is left in the comment. */
function decodeExtension(info: Uint8Array, at: number): Extension {
  let comment = textOfOctets(info, at);
  let courseDeg: number | null = null;
  let speedKnots: number | null = null;
  let rangeMi: number | null = null;
  const motion = /^(\d{3})\/(\d{3})/.exec(comment);
  const range = /^RNG(\d{4})/.exec(comment);
  if (motion) {
    const course = Number(motion[1]);
    // Course 000 means "not known"; north is 360 (ch. 7).
    if (course >= 1 && course <= 360) {
      courseDeg = course;
      speedKnots = Number(motion[2]);
    } else if (course === 0) speedKnots = Number(motion[2]);
    comment = comment.slice(7);
  } else if (range) {
    rangeMi = Number(range[1]);
    comment = comment.slice(7);
  }
  return { courseDeg, speedKnots, rangeMi, ...takeAltitude(comment) };
}

/** `/A=dddddd` anywhere in a comment, feet (ch. 6). */
function takeAltitude(comment: string): { altitudeFt: number | null; comment: string } {
  const found = /\/A=(-\d{5}|\d{6})/.exec(comment);
  if (!found) return { altitudeFt: null, comment };
  const rest = comment.slice(0, found.index) + comment.slice(found.index + found[0].length);
  return { altitudeFt: Number(found[1]), comment: rest };
}

const COMPRESSED_OCTETS = 13;

function base91(info: Uint8Array, at: number, digits: number): number | undefined {
  let value = 0;
  for (let i = 0; i < digits; i++) {
    const digit = info[at + i]! - 33;
    if (digit < 0 || digit > 90) return undefined;
    value = value * 91 + digit;
  }
  return value;
}

function decodeCompressed(info: Uint8Array, at: number): Parsed<PositionReport> {
  if (info.length < at + COMPRESSED_OCTETS)
    return fail(info.length, 'the compressed position is cut off: it takes 13 characters');
  const table = info[at]!;
  // Overlay digits 0–9 are sent as a–j, so that they are not taken for a latitude (ch. 9).
  const overlay = table >= 0x61 && table <= 0x6a ? table - 0x61 + 0x30 : table;
  if (!isSymbolTable(overlay)) return fail(at, 'not a symbol table or overlay');
  const y = base91(info, at + 1, 4);
  if (y === undefined) return fail(at + 1, 'the latitude is not in base 91');
  const x = base91(info, at + 5, 4);
  if (x === undefined) return fail(at + 5, 'the longitude is not in base 91');
  const latitude = 90 - y / 380926;
  const longitude = -180 + x / 190463;
  if (latitude < -90) return fail(at + 1, 'the latitude is off the globe');
  if (longitude > 180) return fail(at + 5, 'the longitude is off the globe');

  let courseDeg: number | null = null;
  let speedKnots: number | null = null;
  let rangeMi: number | null = null;
  let compressedAltitudeFt: number | null = null;
  const c = info[at + 10]! - 33;
  const s = info[at + 11]! - 33;
  const type = info[at + 12]! - 33;
  if (info[at + 10] !== SPACE && c >= 0 && c <= 90 && s >= 0 && s <= 90) {
    if ((type & 0b11000) === 0b10000) compressedAltitudeFt = Math.pow(1.002, c * 91 + s);
    else if (c === 90) rangeMi = 2 * Math.pow(1.08, s);
    else if (c <= 89) {
      courseDeg = c === 0 ? 360 : c * 4;
      speedKnots = Math.pow(1.08, s) - 1;
    }
  }
  const { altitudeFt, comment } = takeAltitude(textOfOctets(info, at + COMPRESSED_OCTETS));
  return ok({
    latitude,
    longitude,
    ambiguity: 0,
    compressed: true,
    symbol: { table: String.fromCharCode(overlay), code: char(info, at + 9) },
    courseDeg,
    speedKnots,
    altitudeFt: altitudeFt ?? compressedAltitudeFt,
    rangeMi,
    comment,
  });
}

/** Degrees as `DDMM.hh` + hemisphere, rounded to a hundredth of a minute with carry. */
function encodeAngle(degrees: number, degreeDigits: 2 | 3, positive: string, negative: string) {
  const hundredths = Math.round(Math.abs(degrees) * 6000);
  const whole = Math.floor(hundredths / 6000);
  const minutes = hundredths - whole * 6000;
  const mm = String(Math.floor(minutes / 100)).padStart(2, '0');
  const hh = String(minutes % 100).padStart(2, '0');
  const hemisphere = degrees < 0 ? negative : positive;
  return `${String(whole).padStart(degreeDigits, '0')}${mm}.${hh}${hemisphere}`;
}

const altitudeText = (feet: number | undefined): string => {
  if (feet === undefined) return '';
  const digits = String(Math.min(999999, Math.abs(Math.round(feet))));
  return feet < 0 ? `/A=-${digits.padStart(5, '0')}` : `/A=${digits.padStart(6, '0')}`;
};

/** Text of an uncompressed position without its data type character (ch. 6, 7, 8). */
export function encodeUncompressedPosition(report: PositionToSend): string {
  const { symbol, courseDeg, speedKnots } = report;
  const three = (n: number) => String(Math.round(n)).padStart(3, '0');
  const motion =
    courseDeg === undefined || speedKnots === undefined
      ? ''
      : `${three(((courseDeg + 359) % 360) + 1)}/${three(Math.min(999, speedKnots))}`;
  return (
    encodeAngle(report.latitude, 2, 'N', 'S') +
    symbol.table +
    encodeAngle(report.longitude, 3, 'E', 'W') +
    symbol.code +
    motion +
    altitudeText(report.altitudeFt) +
    (report.comment ?? '')
  );
}

function toBase91(value: number, digits: number): string {
  let text = '';
  let rest = value;
  for (let i = 0; i < digits; i++) {
    text = String.fromCharCode((rest % 91) + 33) + text;
    rest = Math.floor(rest / 91);
  }
  return text;
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
