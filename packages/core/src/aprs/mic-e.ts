import { octetsOfLatin1 } from '../octets';
import { fail, ok, type ParseError, type Parsed } from '../result';
import { base91, toBase91 } from './base91';
import { altitudeWords } from './comment';
import { withMotion } from './extension';
import type { Note } from './note';
import {
  degreesInWords,
  isNullPosition,
  isSymbolTable,
  NO_FAULTS,
  report,
  type Place,
  type PositionReport,
} from './position/report';
import { MIDDLES, WEIGHTS } from './position/plain';
import { symbolInWords, type Symbol } from './symbol';

/** The state that an operator set on the radio (Protocol Reference 1.0.1, ch. 10). Custom ones mean what a group agreed on. */
export type MicEMessage =
  | 'Off Duty'
  | 'En Route'
  | 'In Service'
  | 'Returning'
  | 'Committed'
  | 'Special'
  | 'Priority'
  | 'Emergency'
  | `Custom-${0 | 1 | 2 | 3 | 4 | 5 | 6}`
  | 'unknown';

export interface MicE extends PositionReport {
  readonly message: MicEMessage;
  /** False when the sender says that the fix is old. */
  readonly current: boolean;
  /** Telemetry of the first trackers: two or five channels, 0–255. */
  readonly channels: readonly number[] | null;
}

const STANDARD = [
  'Emergency',
  'Priority',
  'Special',
  'Committed',
  'Returning',
  'In Service',
  'En Route',
  'Off Duty',
] as const;
const BLANK = -1;

/** What a character of the destination says: a digit 0–9 or blank, a message bit, and north, west or 100° more, by place. */
interface DestinationDigit {
  readonly digit: number;
  readonly bit: 0 | 1;
  /** The bit is of a custom message. */
  readonly custom: boolean;
  readonly high: boolean;
}

/** The table of destination octets (ch. 10), by character code. */
const DIGITS: readonly (DestinationDigit | undefined)[] = Array.from({ length: 128 }, (_, code) => {
  const of = (digit: number, bit: 0 | 1, custom: boolean, high: boolean) => ({ digit, bit, custom, high });
  if (code >= 0x30 && code <= 0x39) return of(code - 0x30, 0, false, false);
  if (code >= 0x41 && code <= 0x4a) return of(code - 0x41, 1, true, false);
  if (code === 0x4b) return of(BLANK, 1, true, false);
  if (code === 0x4c) return of(BLANK, 0, false, false);
  if (code >= 0x50 && code <= 0x59) return of(code - 0x50, 1, false, true);
  if (code === 0x5a) return of(BLANK, 1, false, true);
  return undefined;
});

function messageOf(a: DestinationDigit, b: DestinationDigit, c: DestinationDigit): MicEMessage {
  const value = a.bit * 4 + b.bit * 2 + c.bit;
  const custom = a.custom || b.custom || c.custom;
  const standard = (a.bit === 1 && !a.custom) || (b.bit === 1 && !b.custom) || (c.bit === 1 && !c.custom);
  if (standard && custom) return 'unknown';
  return custom ? (`Custom-${(7 - value) as 0}` as MicEMessage) : STANDARD[value]!;
}

const HEAD_OCTETS = 9;

/**
 * Reads a Mic-E packet (ch. 10): the latitude, message and signs stand in the destination, the rest in the information field
 * `text`, one character per octet.
 */
export function decodeMicE(text: string, destination: string, note?: Note): Parsed<MicE> {
  const dash = destination.indexOf('-');
  const head = dash < 0 ? destination : destination.slice(0, dash);
  if (head.length !== 6) return fail(0, 'the destination of a Mic-E packet has six characters');
  const digits: DestinationDigit[] = [];
  for (let i = 0; i < 6; i++) {
    const digit = DIGITS[head.charCodeAt(i)];
    if (!digit) return fail(0, `“${head[i]}” in the destination ${head} stands for no digit of a latitude`);
    digits.push(digit);
  }
  if (text.length < HEAD_OCTETS) return fail(text.length, 'the Mic-E position is cut off: it takes 9 characters');
  const message = messageOf(digits[0]!, digits[1]!, digits[2]!);
  // `'` says that the fix is old, but one family of radios sends it always, and tells itself by `]` (from memory of ch. 10).
  const current = text[0] === '`' || text.charCodeAt(0) === 0x1c || (text[0] === "'" && text[HEAD_OCTETS] === ']');

  if (digits[0]!.digit === BLANK || digits[1]!.digit === BLANK)
    return fail(0, 'the degrees of the latitude in the destination are blank');
  let blanks = 0;
  let latitudeMinutes = 0;
  for (let i = 0; i < 4; i++) {
    const { digit } = digits[i + 2]!;
    if (digit === BLANK) blanks++;
    else if (blanks > 0) return fail(0, 'the latitude in the destination has a digit after a blank');
    else latitudeMinutes += digit * WEIGHTS[i]!;
  }
  latitudeMinutes += MIDDLES[blanks]!;
  if (latitudeMinutes >= 60)
    return fail(0, `the latitude in the destination has ${latitudeMinutes.toFixed(2)} minutes`);
  const latitudeSize = digits[0]!.digit * 10 + digits[1]!.digit + latitudeMinutes / 60;
  if (latitudeSize > 90) return fail(0, 'the latitude in the destination is off the globe');

  const octet = (at: number) => text.charCodeAt(at) - 28;
  let degrees = octet(1) + (digits[4]!.high ? 100 : 0);
  if (degrees >= 190) degrees -= 190;
  else if (degrees >= 180) degrees -= 80;
  let minutes = octet(2);
  if (minutes >= 60) minutes -= 60;
  const hundredths = octet(3);
  if (degrees < 0 || degrees > 179) return fail(1, 'the degrees of the longitude are out of range');
  if (minutes < 0 || minutes > 59) return fail(2, 'the minutes of the longitude are out of range');
  if (hundredths < 0 || hundredths > 99) return fail(3, 'the hundredths of the longitude are out of range');
  // A blurred latitude blurs the longitude as much.
  const longitudeMinutes = blurred(minutes * 100 + hundredths, blanks);
  const symbol: Symbol = { table: text[8]!, code: text[7]! };
  const position: Place = {
    latitude: digits[3]!.high ? latitudeSize : -latitudeSize,
    longitude: (degrees + longitudeMinutes / 60) * (digits[5]!.high ? -1 : 1),
    ambiguity: blanks,
    compressed: false,
    symbol,
  };
  if (!isSymbolTable(text.charCodeAt(8))) return fail(8, 'not a symbol table or overlay');

  if (note) {
    const blank = blanks > 0 ? `; ${blanks} digits left blank on purpose` : '';
    note('Fix', current ? 'current' : 'old: the receiver has no fix now', 0, 1);
    note(
      'Latitude',
      `${degreesInWords(position.latitude, 'N', 'S')}, from the destination ${head}${blank}`,
      0,
      6,
      'destination',
    );
    note('Message', `${message}, from the destination`, 0, 3, 'destination');
    note('Longitude', degreesInWords(position.longitude, 'E', 'W'), 1, 4);
  }
  const faults: ParseError[] = isNullPosition(position)
    ? [{ at: 1, reason: '0° 0′ is what a receiver without a fix sends: not taken as a position' }]
    : [];
  const { courseDeg, speedKnots } = motionOf(octet(4), octet(5), octet(6), faults, note);
  note?.('Symbol', symbolInWords(symbol), 7, 9);

  const { channels, end } = channelsAt(text, HEAD_OCTETS, note);
  const { altitudeFt, from, to } = suffixesOf(text, end, note);
  const rest = text.slice(0, to);
  const read = report(
    position,
    withMotion(courseDeg, speedKnots),
    null,
    rest,
    from,
    faults.length > 0 ? faults : NO_FAULTS,
    note,
    altitudeFt,
  );
  // Assigned, not spread: spreading so wide an object and adding to it takes longer than reading the packet.
  return ok(Object.assign(read, { message, current, channels }));
}

function blurred(hundredths: number, blanks: number): number {
  const step = [1, 10, 100, 1000, 6000][blanks]!;
  return (Math.floor(hundredths / step) * step) / 100 + MIDDLES[blanks]!;
}

/** Speed and course share three octets; each has a second range to keep clear of control characters. */
function motionOf(sp: number, dc: number, se: number, faults: ParseError[], note?: Note) {
  if (sp < 0 || dc < 0 || se < 0) {
    faults.push({ at: 4, reason: 'speed and course are out of range' });
    return { courseDeg: null, speedKnots: null };
  }
  let speed = sp * 10 + Math.floor(dc / 10);
  let course = (dc % 10) * 100 + se;
  if (speed >= 800) speed -= 800;
  if (course >= 400) course -= 400;
  if (course > 360) {
    faults.push({ at: 5, reason: `there is no course of ${course}°` });
    return { courseDeg: null, speedKnots: speed };
  }
  const courseDeg = course === 0 ? null : course;
  note?.('Speed and course', `${speed} knots, ${courseDeg === null ? 'course not known' : `${courseDeg}°`}`, 4, 7);
  return { courseDeg, speedKnots: speed };
}

const CHANNELS = /^(?:`([0-9A-Fa-f]{4})(?![0-9A-Fa-f])|'([0-9A-Fa-f]{10}))/;

/** Telemetry directly behind the symbol (ch. 10): two or five channels in hexadecimal, or five octets behind 0x1d. */
function channelsAt(text: string, at: number, note?: Note): { channels: number[] | null; end: number } {
  const mark = text.charCodeAt(at);
  if (mark !== 0x60 && mark !== 0x27 && mark !== 0x1d) return { channels: null, end: at };
  const found = CHANNELS.exec(text.slice(at, at + 12));
  let channels: number[] | null = null;
  let end = at;
  if (found) {
    channels = (found[1] ?? found[2]!).match(/../g)!.map((hex) => parseInt(hex, 16));
    end = at + found[0].length;
  } else if (mark === 0x1d && text.length >= at + 6) {
    channels = [1, 2, 3, 4, 5].map((i) => text.charCodeAt(at + i));
    end = at + 6;
  }
  if (channels) note?.('Telemetry', channels.join(', '), at, end);
  return { channels, end };
}

/**
 * The characters that later radios put around their text: a type code in front, a suffix of one or two behind (1.2 addendum, from
 * memory), and the altitude as three base-91 digits of metres above −10 000 and `}`.
 */
function suffixesOf(text: string, at: number, note?: Note): { altitudeFt: number | null; from: number; to: number } {
  let from = at;
  let to = text.length;
  while (to > from && (text[to - 1] === '\r' || text[to - 1] === '\n')) to--;
  const code = text[from];
  if (code !== undefined && ">]`'".includes(code)) {
    note?.('Type of radio', `code “${code}”`, from, from + 1);
    from++;
    const behind = text.slice(from, to);
    const suffix = (code === '`' || code === "'" ? /(?:[_|:(][ -~]|~v)$/ : /[=^&]$/).exec(behind);
    if (suffix) {
      to -= suffix[0].length;
      note?.('Type of radio', `suffix “${suffix[0]}”`, to, to + suffix[0].length);
    }
  }
  let altitudeFt: number | null = null;
  if (text[from + 3] === '}') {
    const metres = base91(text, from, 3);
    if (metres >= 0) {
      altitudeFt = (metres - 10_000) / 0.3048;
      note?.('Altitude', altitudeWords(altitudeFt), from, from + 4);
      from += 4;
    }
  }
  return { altitudeFt, from, to };
}

export interface MicEToSend {
  readonly latitude: number;
  readonly longitude: number;
  readonly symbol: Symbol;
  readonly message: Exclude<MicEMessage, 'unknown'>;
  readonly courseDeg?: number;
  readonly speedKnots?: number;
  readonly altitudeM?: number;
  readonly comment?: string;
}

/** Destination and information field of a Mic-E packet (ch. 10). */
export function encodeMicE(send: MicEToSend): { destination: string; info: Uint8Array } {
  const { latitude, longitude, symbol, message } = send;
  const hundredths = Math.min(90 * 6000, Math.round(Math.abs(latitude) * 6000));
  const digits = `${String(Math.floor(hundredths / 6000)).padStart(2, '0')}${String(hundredths % 6000).padStart(4, '0')}`;
  const east = Math.min(180 * 6000 - 1, Math.round(Math.abs(longitude) * 6000));
  const degrees = Math.floor(east / 6000);
  const minutes = Math.floor((east % 6000) / 100);
  const offset = degrees < 10 || degrees >= 100;

  const custom = message.startsWith('Custom-');
  const value = custom ? 7 - Number(message.slice(7)) : STANDARD.indexOf(message as (typeof STANDARD)[number]);
  const high = [value & 4, value & 2, value & 1, latitude >= 0, offset, longitude < 0];
  const destination = [...digits]
    .map((digit, i) => String.fromCharCode(Number(digit) + (high[i] ? (i < 3 && custom ? 0x41 : 0x50) : 0x30)))
    .join('');

  const d = degrees < 10 ? degrees + 90 : degrees < 100 ? degrees : degrees < 110 ? degrees - 20 : degrees - 100;
  const speed = Math.min(799, Math.round(send.speedKnots ?? 0));
  const course = send.courseDeg === undefined ? 0 : Math.round(send.courseDeg) % 360 || 360;
  const tens = Math.floor(speed / 10);
  const octets = [
    d + 28,
    minutes + (minutes < 10 ? 88 : 28),
    (east % 100) + 28,
    tens + (tens < 20 ? 108 : 28),
    (speed % 10) * 10 + Math.floor(course / 100) + 32,
    (course % 100) + 28,
  ];
  const altitude = send.altitudeM === undefined ? '' : `${toBase91(Math.round(send.altitudeM) + 10_000, 3)}}`;
  return {
    destination,
    info: octetsOfLatin1(
      `\`${String.fromCharCode(...octets)}${symbol.code}${symbol.table}${altitude}${send.comment ?? ''}`,
    ),
  };
}
