import { fail, ok, type Parsed } from '../../result';
import { decodeArea, isAreaSymbol } from '../area';
import { decodeExtension, NO_EXTENSION } from '../extension';
import type { Note } from '../note';
import { symbolInWords } from '../symbol';
import { decodeWeather, measuresAnything } from '../weather';
import { isDigit, SPACE } from './octets';
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

export const PLAIN_OCTETS = 19;

/** Reads a plain position: degrees and minutes, some of their digits perhaps left blank (ch. 6 to 8). */
export function decodePlain(text: string, at: number, note?: Note): Parsed<PositionReport> {
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
