import { fail, ok, type Parsed } from '../result';
import { withoutEnd } from '../text/trim';
import type { Note } from './note';
import { degreesInWords } from './position/report';

/** A sentence of NMEA 0183 as trackers send it raw (Protocol Reference 1.0.1, ch. 6), with what it says of the place. */
export interface NmeaSentence {
  readonly talker: string;
  /** `RMC`, `GGA`, `GLL`, `WPL`, `VTG`, or another one that is kept as it is. */
  readonly type: string;
  readonly latitude: number | null;
  readonly longitude: number | null;
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
  readonly altitudeM: number | null;
  /** Hours, minutes and seconds UTC as sent, without fraction. */
  readonly clock: string | null;
  /** Day as sent, `ddmmyy`. */
  readonly date: string | null;
  /** Satellites in use. */
  readonly satellites: number | null;
  /** Horizontal dilution of precision. */
  readonly hdop: number | null;
  /** Name of a waypoint. */
  readonly waypoint: string | null;
  /** True when the receiver says that its data is good; null when the sentence does not tell. */
  readonly valid: boolean | null;
  /** False when there is no checksum behind `*`. */
  readonly checked: boolean;
}

/** Exclusive or of the characters between `$` and `*` (NMEA 0183). */
export function nmeaChecksum(body: string): number {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum ^= body.charCodeAt(i);
  return sum & 0xff;
}

/** The year of two digits: before 80, when the first receivers came, it is of this century (common practice, no source). */
export const nmeaYear = (two: number): number => (two < 80 ? 2000 : 1900) + two;

const SENTENCE = /^\$([A-Z]{2})([A-Z]{3}),/;

/** Reads one sentence, `$` first. A wrong checksum fails: none of its digits can be trusted. */
export function decodeNmea(text: string, note?: Note): Parsed<NmeaSentence> {
  const line = withoutEnd(text, '\r\n ');
  const head = SENTENCE.exec(line);
  if (!head) return fail(1, 'not a sentence of NMEA 0183: two letters of talker, three of type, a comma');
  const star = line.indexOf('*');
  const end = star < 0 ? line.length : star;
  if (star >= 0) {
    const told = line.slice(star + 1);
    const sum = nmeaChecksum(line.slice(1, star));
    if (!/^[0-9A-Fa-f]{2}$/.test(told)) return fail(star + 1, 'the checksum is not two hexadecimal digits');
    if (parseInt(told, 16) !== sum)
      return fail(star + 1, `the checksum is ${told}, the sentence gives ${hex(sum)}: not trusted`);
  }
  const cells: { text: string; at: number }[] = [];
  let at = head[0].length;
  for (const cell of line.slice(at, end).split(',')) {
    cells.push({ text: cell, at });
    at += cell.length + 1;
  }
  const [, talker = '', type = ''] = head;
  note?.('Sentence', `${type} of a receiver (talker ${talker})`, 0, 6);
  const draft: { -readonly [K in keyof NmeaSentence]: NmeaSentence[K] } = {
    talker,
    type,
    latitude: null,
    longitude: null,
    courseDeg: null,
    speedKnots: null,
    altitudeM: null,
    clock: null,
    date: null,
    satellites: null,
    hdop: null,
    waypoint: null,
    valid: null,
    checked: star >= 0,
  };
  const layout = LAYOUTS[type];
  if (layout) {
    const failure = readCells(draft, cells, layout, note);
    if (failure) return failure;
  }
  if (star >= 0) note?.('Checksum', 'right', star, line.length);
  else note?.('Checksum', 'none: errors cannot be seen', line.length, line.length);
  if (draft.valid === false) note?.('Fix', 'the receiver says that it has none', 0, line.length);
  return ok(draft);
}

const hex = (sum: number) => sum.toString(16).toUpperCase().padStart(2, '0');

/** Where the fields stand, counted from the first comma (NMEA 0183). */
interface Layout {
  readonly clock?: number;
  readonly latitude?: number;
  readonly valid?: { readonly at: number; readonly good: (cell: string) => boolean };
  readonly speedKnots?: number;
  readonly courseDeg?: number;
  readonly altitudeM?: number;
  readonly date?: number;
  readonly satellites?: number;
  readonly hdop?: number;
  readonly waypoint?: number;
}

const active = (cell: string) => cell === 'A';
const LAYOUTS: Readonly<Record<string, Layout>> = {
  RMC: { clock: 0, valid: { at: 1, good: active }, latitude: 2, speedKnots: 6, courseDeg: 7, date: 8 },
  GGA: { clock: 0, latitude: 1, valid: { at: 5, good: (cell) => cell !== '0' }, satellites: 6, hdop: 7, altitudeM: 8 },
  GLL: { latitude: 0, clock: 4, valid: { at: 5, good: active } },
  WPL: { latitude: 0, waypoint: 4 },
  VTG: { courseDeg: 0, speedKnots: 4 },
};

type Draft = { -readonly [K in keyof NmeaSentence]: NmeaSentence[K] };
type Cells = readonly { readonly text: string; readonly at: number }[];

function readCells(draft: Draft, cells: Cells, layout: Layout, note?: Note) {
  const number = (i: number | undefined, name: string, words: (value: number) => string): number | null => {
    const cell = i === undefined ? undefined : cells[i];
    if (!cell || !/^-?\d+(\.\d+)?$/.test(cell.text)) return null;
    note?.(name, words(Number(cell.text)), cell.at, cell.at + cell.text.length);
    return Number(cell.text);
  };
  const clock = layout.clock === undefined ? undefined : cells[layout.clock];
  if (clock && /^\d{6}/.test(clock.text)) {
    draft.clock = clock.text.slice(0, 6);
    const [h, m, s] = [draft.clock.slice(0, 2), draft.clock.slice(2, 4), draft.clock.slice(4)];
    note?.('Time', `${h}:${m}:${s} UTC`, clock.at, clock.at + clock.text.length);
  }
  const status = layout.valid && cells[layout.valid.at]?.text;
  // Receivers before version 2 of the standard send no status: then nothing is told.
  if (layout.valid && status) draft.valid = layout.valid.good(status);
  if (layout.latitude !== undefined) {
    const failure = readPosition(draft, cells, layout.latitude, note);
    if (failure) return failure;
  }
  draft.speedKnots = number(layout.speedKnots, 'Speed', (v) => `${v} knots`);
  draft.courseDeg = number(layout.courseDeg, 'Course', (v) => `${v}°`);
  draft.altitudeM = number(layout.altitudeM, 'Altitude', (v) => `${v} m above mean sea level`);
  draft.satellites = number(layout.satellites, 'Satellites', (v) => `${v} in use`);
  draft.hdop = number(layout.hdop, 'Dilution', (v) => `${v} horizontally`);
  const date = layout.date === undefined ? undefined : cells[layout.date];
  if (date && /^\d{6}$/.test(date.text)) {
    draft.date = date.text;
    const [day, month, year] = [date.text.slice(0, 2), date.text.slice(2, 4), date.text.slice(4)];
    note?.('Date', `${nmeaYear(Number(year))}-${month}-${day}`, date.at, date.at + date.text.length);
  }
  const waypoint = layout.waypoint === undefined ? undefined : cells[layout.waypoint];
  if (waypoint && waypoint.text !== '') {
    draft.waypoint = waypoint.text;
    note?.('Waypoint', waypoint.text, waypoint.at, waypoint.at + waypoint.text.length);
  }
  return null;
}

const LATITUDE = /^(\d{2})(\d{2}(?:\.\d+)?)$/;
const LONGITUDE = /^(\d{3})(\d{2}(?:\.\d+)?)$/;

/** Four cells: `ddmm.mmmm`, N or S, `dddmm.mmmm`, E or W; empty ones mean that there is no fix. */
function readPosition(draft: Draft, cells: Cells, first: number, note?: Note) {
  const [latitude, north, longitude, east] = [0, 1, 2, 3].map((i) => cells[first + i]);
  if (!latitude || !north || !longitude || !east) return fail(cells.at(-1)?.at ?? 0, 'the sentence is cut off');
  if (latitude.text === '' && longitude.text === '') return null;
  const angle = (cell: { text: string; at: number }, form: RegExp, most: number): Parsed<number> => {
    const found = form.exec(cell.text);
    if (!found) return fail(cell.at, `“${cell.text.slice(0, 16)}” is not degrees and minutes`);
    const value = Number(found[1]) + Number(found[2]) / 60;
    return Number(found[2]) >= 60 || value > most ? fail(cell.at, `“${cell.text}” is off the globe`) : ok(value);
  };
  const y = angle(latitude, LATITUDE, 90);
  if (!y.ok) return y;
  const x = angle(longitude, LONGITUDE, 180);
  if (!x.ok) return x;
  if (!/^[NS]$/.test(north.text)) return fail(north.at, 'the latitude ends in neither N nor S');
  if (!/^[EW]$/.test(east.text)) return fail(east.at, 'the longitude ends in neither E nor W');
  draft.latitude = north.text === 'N' ? y.value : -y.value;
  draft.longitude = east.text === 'E' ? x.value : -x.value;
  note?.('Latitude', degreesInWords(draft.latitude, 'N', 'S'), latitude.at, north.at + 1);
  note?.('Longitude', degreesInWords(draft.longitude, 'E', 'W'), longitude.at, east.at + 1);
  return null;
}

/** A sentence with its checksum, without line end. */
export const encodeNmea = (body: string): string => `$${body}*${hex(nmeaChecksum(body))}`;
