import { utf8OfLatin1 } from '../octets';
import { base91 } from './base91';
import { findFrequency, type Frequency } from './frequency';
import type { Note } from './note';

/** Telemetry inside a comment: `|ss1122…|` in base 91 (APRS 1.2 addendum, from memory). */
export interface CommentTelemetry {
  readonly sequence: number;
  /** Up to five channels, 0–8280. */
  readonly analog: readonly number[];
  readonly bits: string | null;
}

/** Thousandths (or finer) of a minute that a comment adds to a position: `!W5b!` (APRS 1.2 addendum). */
export interface ExtraPrecision {
  readonly latitudeMinutes: number;
  readonly longitudeMinutes: number;
}

export interface CommentParts {
  readonly altitudeFt: number | null;
  readonly precision: ExtraPrecision | null;
  readonly telemetry: CommentTelemetry | null;
  readonly frequency: Frequency | null;
  /** What is left for people. */
  readonly comment: string;
}

const EMPTY: CommentParts = { altitudeFt: null, precision: null, telemetry: null, frequency: null, comment: '' };

/**
 * Takes apart what stands behind a position from `at` on: altitude, extra precision, telemetry, frequency, and the comment proper.
 * Anything that only looks like one of them stays in the comment.
 */
export function decodeComment(text: string, at: number, note?: Note): CommentParts {
  if (at >= text.length) return EMPTY;
  if (!mayHoldParts(text, at)) return plainComment(text, at, note);
  let rest = text.slice(at);
  // What is taken out is blanked, so that offsets in `rest` stay those of the packet.
  let altitudeFt: number | null = null;
  let precision: ExtraPrecision | null = null;
  let telemetry: CommentTelemetry | null = null;

  const bar = rest.indexOf('|');
  if (bar >= 0) {
    const found = firstThat(/\|([!-{]{4,14})\|/g, rest, ([, inside]) => inside!.length % 2 === 0);
    const pairs = found?.[1];
    if (found && pairs) {
      telemetry = telemetryOf(pairs);
      note?.('Telemetry', telemetryWords(telemetry), at + found.index, at + found.index + found[0].length);
      rest = blank(rest, found.index, found[0].length);
    }
  }
  if (rest.includes('!')) {
    const found = firstThat(
      /!([A-Za-z])([!-{ ])([!-{ ])!/g,
      rest,
      ([, datum, y, x]) => precisionOf(datum!, y!, x!) !== null,
    );
    const read = found && precisionOf(found[1]!, found[2]!, found[3]!);
    if (found && read) {
      precision = read;
      note?.(
        'Extra precision',
        `${read.latitudeMinutes.toFixed(4)}′ and ${read.longitudeMinutes.toFixed(4)}′ more, away from 0°`,
        at + found.index,
        at + found.index + 5,
      );
      rest = blank(rest, found.index, 5);
    }
  }
  const altitude = /\/A=(-\d{5}|\d{6})/.exec(rest);
  if (altitude) {
    altitudeFt = Number(altitude[1]);
    note?.('Altitude', altitudeWords(altitudeFt), at + altitude.index, at + altitude.index + 9);
    rest = blank(rest, altitude.index, 9);
  }
  const frequency = findFrequency(rest, at, note);
  if (frequency) rest = blank(rest, frequency.from, frequency.to - frequency.from);

  let from = 0;
  let to = rest.length;
  while (from < to && isBlank(rest.charCodeAt(from))) from++;
  while (to > from && isBlank(rest.charCodeAt(to - 1))) to--;
  if (from === to) return { altitudeFt, precision, telemetry, frequency: frequency?.frequency ?? null, comment: '' };
  const left = rest.slice(from, to);
  // Pieces cut out of the middle leave one space where words would run together.
  const comment = utf8OfLatin1(left.includes('\0') ? left.replace(/ ?\0+ ?/g, ' ') : left);
  note?.('Comment', comment, at + from, at + to);
  return { altitudeFt, precision, telemetry, frequency: frequency?.frequency ?? null, comment };
}

/** The first match that is one: what only looks like it does not hide a real one behind it. `pattern` has the flag g. */
function firstThat(pattern: RegExp, text: string, isOne: (found: RegExpExecArray) => boolean): RegExpExecArray | null {
  for (let found = pattern.exec(text); found; found = pattern.exec(text)) {
    if (isOne(found)) return found;
    // Its last character may be the first one of the next.
    pattern.lastIndex = found.index + 1;
  }
  return null;
}

/** A cheap look for the marks of everything that is taken out of comments; most comments have none. */
const mayHoldParts = (text: string, at: number): boolean =>
  text.indexOf('/A=', at) >= 0 ||
  text.indexOf('!', at) >= 0 ||
  text.indexOf('|', at) >= 0 ||
  text.indexOf('Hz', at) >= 0 ||
  text.indexOf('HZ', at) >= 0 ||
  text.indexOf('hz', at) >= 0;

/** White space, and what was cut out. */
const isBlank = (code: number) => code === 0x20 || code === 0 || (code >= 0x09 && code <= 0x0d);

function plainComment(text: string, at: number, note?: Note): CommentParts {
  let from = at;
  let to = text.length;
  while (from < to && isBlank(text.charCodeAt(from))) from++;
  while (to > from && isBlank(text.charCodeAt(to - 1))) to--;
  if (from === to) return EMPTY;
  const comment = utf8OfLatin1(text.slice(from, to));
  note?.('Comment', comment, from, to);
  return { altitudeFt: null, precision: null, telemetry: null, frequency: null, comment };
}

/** Cuts a piece out without moving what stands behind it. */
const blank = (text: string, from: number, length: number): string =>
  text.slice(0, from) + '\0'.repeat(length) + text.slice(from + length);

export const altitudeWords = (feet: number): string => `${Math.round(feet)} ft (${Math.round(feet * 0.3048)} m)`;

function telemetryOf(pairs: string): CommentTelemetry {
  const values: number[] = [];
  for (let i = 0; i < pairs.length; i += 2) values.push(base91(pairs, i, 2));
  const [sequence = 0, ...channels] = values;
  return {
    sequence,
    analog: channels.slice(0, 5),
    // The sixth value holds eight bits, the lowest one first.
    bits: channels.length === 6 ? [...Array(8).keys()].map((i) => (channels[5]! >> i) & 1).join('') : null,
  };
}

export const telemetryWords = ({ sequence, analog, bits }: CommentTelemetry): string =>
  `number ${sequence}: ${analog.join(', ')}${bits === null ? '' : `, bits ${bits}`}`;

/** Upper case: one decimal digit each, thousandths of a minute. Lower case: base 91, parts of a hundredth. Blank: nothing. */
function precisionOf(datum: string, latitude: string, longitude: string): ExtraPrecision | null {
  const upper = datum === datum.toUpperCase();
  const minutes = (char: string): number | null => {
    if (char === ' ') return 0;
    if (upper) return /\d/.test(char) ? Number(char) / 1000 : null;
    return ((char.charCodeAt(0) - 33) / 91) * 0.01;
  };
  const [latitudeMinutes, longitudeMinutes] = [minutes(latitude), minutes(longitude)];
  return latitudeMinutes === null || longitudeMinutes === null ? null : { latitudeMinutes, longitudeMinutes };
}
