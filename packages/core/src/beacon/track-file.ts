import sax, { type SAXParser } from 'sax';
import { fail, ok, type Parsed } from '../result';
import { createFixReader } from '../position/fix';
import type { TrackPoint } from './scheme';

/** So many seconds of a track are a week, one a second. */
export const MOST_TRACK_POINTS = 604_800;
/** No sentence, and no line of a file worth reading, is longer. */
const MOST_LINE = 4096;

type Place = Pick<TrackPoint, 'atMs' | 'latitude' | 'longitude'>;

export interface TrackFile {
  /** Oldest first, each later than the one before. */
  readonly points: readonly Place[];
  /** Points that were left out: without a time or a place, or going back in time. */
  readonly leftOut: number;
}

export interface TrackReader {
  /** Feeds a piece of the file, cut anywhere. False when it makes no sense to go on. */
  push(text: string): boolean;
  end(): Parsed<TrackFile>;
}

/** Reads a track piece by piece: GPX 1.1 (`trkpt` with `time`), or sentences of NMEA 0183 with their date. */
export function createTrackReader(): TrackReader {
  const points: Place[] = [];
  let leftOut = 0;
  let fault: string | null = null;
  let reader: { push(text: string): void; end(): void } | null = null;
  let head = '';
  const add = (latitude: number, longitude: number, atMs: number) => {
    const last = points.at(-1);
    const placed = Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180;
    if (!placed || Number.isNaN(atMs) || (last && atMs <= last.atMs)) leftOut++;
    else if (points.length >= MOST_TRACK_POINTS)
      fault = `more than ${MOST_TRACK_POINTS} points: cut the track into parts`;
    else points.push({ latitude, longitude, atMs });
  };
  return {
    push(text) {
      if (fault !== null) return false;
      if (reader) reader.push(text);
      else {
        head += text;
        const begins = head.replace(/^\uFEFF/, '').trimStart();
        if (begins === '') {
          if (head.length > MOST_LINE) fault = 'the file begins with nothing but blanks';
          return fault === null;
        }
        if (begins[0] === '<') reader = gpxReader(add, (reason) => (fault ??= reason));
        else if (begins[0] === '$') reader = nmeaReader(add);
        else fault = 'neither GPX nor sentences of NMEA 0183';
        reader?.push(begins);
        head = '';
      }
      return fault === null;
    },
    end() {
      if (fault === null) reader?.end();
      if (fault !== null) return fail(0, fault);
      if (points.length < 2)
        return fail(0, leftOut > 0 ? 'its points bear no times that go on' : 'no track is in the file');
      return ok({ points, leftOut });
    },
  };
}

type Add = (latitude: number, longitude: number, atMs: number) => void;

function gpxReader(add: Add, wrong: (reason: string) => void) {
  let place: { latitude: number; longitude: number } | null = null;
  let time: string | null = null;
  let at = NaN;
  let broken = false;
  const xml: SAXParser = sax.parser(true, { trim: true, position: true });
  xml.onerror = (error) => {
    broken = true;
    wrong(`no well-formed XML: ${error.message.split('\n')[0]}`);
  };
  xml.onopentag = ({ name, attributes }) => {
    if (name === 'trkpt') {
      place = { latitude: numberOf(attributes.lat), longitude: numberOf(attributes.lon) };
      at = NaN;
    } else if (name === 'time' && place) time = '';
  };
  xml.ontext = (text) => {
    if (time !== null && time.length < 64) time += text;
  };
  xml.onclosetag = (name) => {
    if (name === 'time' && time !== null) {
      at = Date.parse(time);
      time = null;
    } else if (name === 'trkpt' && place) {
      add(place.latitude, place.longitude, at);
      place = null;
    }
  };
  return {
    push: (text: string) => void (broken || xml.write(text)),
    end: () => void (broken || xml.close()),
  };
}

const numberOf = (value: unknown): number => (typeof value === 'string' && value.trim() !== '' ? Number(value) : NaN);

function nmeaReader(add: Add) {
  const fixes = createFixReader();
  let rest = '';
  let last: string | null = null;
  const line = (text: string) => {
    const read = fixes.push(text.trim());
    if (read?.is !== 'fix' || read.fix.toldAt === null || read.fix.toldAt === last) return;
    last = read.fix.toldAt;
    add(read.fix.latitude, read.fix.longitude, Date.parse(last));
  };
  return {
    push(text: string) {
      const lines = (rest + text).split('\n');
      rest = lines.pop()!.slice(0, MOST_LINE);
      for (const one of lines) if (one.length <= MOST_LINE) line(one);
    },
    end: () => line(rest),
  };
}
