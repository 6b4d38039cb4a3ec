import { bearingBetween, type Position } from '../geo/geodesic';
import { kmOf } from '../geo/units';
import { fail, ok, type Parsed } from '../result';
import type { Note } from './note';

/** A query to all (Protocol Reference 1.0.1, ch. 15): who is in a circle, if there is one, answers. */
export interface Query {
  readonly what: string;
  readonly footprint: Footprint | null;
}

export interface Footprint {
  readonly latitude: number;
  readonly longitude: number;
  readonly radiusMi: number;
}

/** Whether a query to all asks a station at `position` for where it is: within the circle, whose rim counts. */
export function isAskedOf({ what, footprint }: Query, position: Position | null): boolean {
  if (what !== 'APRS' || position === null) return false;
  return footprint === null || bearingBetween(footprint, position).distanceKm <= kmOf(footprint.radiusMi, 'mi');
}

const MEANINGS: Readonly<Record<string, string>> = {
  APRS: 'every station: tell your position',
  WX: 'weather stations: tell your weather',
  IGATE: 'gateways: tell what you are',
};

/** `?APRS?` and an optional ` latitude,longitude,radius`; `text` is the information field, one character per octet. */
export function decodeQuery(text: string, note?: Note): Parsed<Query> {
  const found = /^\?([A-Z]{1,8})\?/i.exec(text);
  if (!found) return fail(1, 'the query is not a word between two question marks');
  const what = found[1]!.toUpperCase();
  note?.('Query', MEANINGS[what] ?? what, 0, found[0].length);
  const rest = text.slice(found[0].length).trimEnd();
  if (rest === '') return ok({ what, footprint: null });
  const circle = /^ *(-?\d{1,2}(?:\.\d{1,8})?) *, *(-?\d{1,3}(?:\.\d{1,8})?) *, *(\d{1,4})$/.exec(rest);
  if (!circle) return fail(found[0].length, 'the circle is not latitude, longitude and miles');
  const footprint = { latitude: Number(circle[1]), longitude: Number(circle[2]), radiusMi: Number(circle[3]) };
  if (Math.abs(footprint.latitude) > 90 || Math.abs(footprint.longitude) > 180)
    return fail(found[0].length, 'the circle is off the globe');
  note?.(
    'Only within',
    `${footprint.radiusMi} miles of ${footprint.latitude}, ${footprint.longitude}`,
    found[0].length,
    text.length,
  );
  return ok({ what, footprint });
}

/** A query in a message to one station (ch. 15, directed queries). */
export type DirectedQuery =
  | { readonly what: 'direct stations' | 'messages waiting' | 'objects' | 'position' | 'status' | 'path' }
  | { readonly what: 'heard'; readonly call: string };

const DIRECTED: Readonly<Record<string, Exclude<DirectedQuery['what'], 'heard'>>> = {
  '?APRSD': 'direct stations',
  '?APRSM': 'messages waiting',
  '?APRSO': 'objects',
  '?APRSP': 'position',
  '?APRSS': 'status',
  '?APRST': 'path',
  '?PING?': 'path',
};

/** Reads the text of a message as a directed query; null when it is none. */
export function directedQuery(text: string): DirectedQuery | null {
  const trimmed = text.trim().toUpperCase();
  const what = DIRECTED[trimmed];
  if (what) return { what };
  const heard = /^\?APRSH ?([A-Z0-9]{1,6}(?:-\d{1,2})?)$/.exec(trimmed);
  return heard ? { what: 'heard', call: heard[1]! } : null;
}

/** In words, for people. */
export function directedQueryInWords(query: DirectedQuery): string {
  switch (query.what) {
    case 'direct stations':
      return 'asks which stations we hear direct';
    case 'messages waiting':
      return 'asks for messages that wait for it';
    case 'objects':
      return 'asks for our objects';
    case 'position':
      return 'asks for our position';
    case 'status':
      return 'asks for our status';
    case 'path':
      return 'asks over which path we heard it';
    case 'heard':
      return `asks how often we heard ${query.call}`;
  }
}

/** What a station knows that its answers are made of. */
export interface AnswerFacts {
  /** Calls heard direct lately, newest first. */
  readonly direct: readonly string[];
  /** Packets heard of a call in each of the last eight hours, the newest first. */
  readonly heardPerHour: (call: string) => readonly number[];
  /** Path of the query as it was heard, elements joined by commas. */
  readonly path: string;
}

export const MOST_ANSWER_OCTETS = 67;

/** As many whole words as fit a message. */
function fitted(head: string, words: readonly string[]): string {
  let text = head;
  for (const word of words) {
    const next = `${text}${text.endsWith('=') ? '' : ' '}${word}`;
    if (next.length > MOST_ANSWER_OCTETS) break;
    text = next;
  }
  return text;
}

/**
 * The text that answers a directed query (ch. 15), or null for those that are answered by a packet of another kind (position,
 * status, objects, waiting messages), which the caller has.
 */
export function answerText(query: DirectedQuery, facts: AnswerFacts): string | null {
  switch (query.what) {
    case 'direct stations':
      return fitted('Directs=', facts.direct);
    case 'heard':
      return fitted(`${query.call} heard:`, facts.heardPerHour(query.call).map(String));
    case 'path':
      return `PATH= ${facts.path}`.slice(0, MOST_ANSWER_OCTETS);
    default:
      return null;
  }
}

/** Text of a query to all. */
export const encodeQuery = ({ what, footprint }: Query): string =>
  `?${what}?${
    footprint
      ? ` ${footprint.latitude.toFixed(2)},${footprint.longitude.toFixed(2)},${String(Math.round(footprint.radiusMi)).padStart(4, '0')}`
      : ''
  }`;
