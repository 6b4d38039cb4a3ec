import { octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { encodeItem, encodeObject } from './object';
import { checkPositionComment } from './own-position';
import { symbolOf } from './symbol';

/** Things that are usually put on the map of all, table and code in one text, in the order of a choice. */
export const OBJECT_SYMBOLS = [
  '/+',
  '\\z',
  '/h',
  '\\w',
  '/:',
  '\\<',
  '\\j',
  '/;',
  '/K',
  '/s',
  '/k',
  '\\N',
  '\\?',
] as const;

/** A thing that we report for others. */
export interface OwnThing {
  /** An object says since when it is so; an item does not. */
  readonly form: 'object' | 'item';
  readonly name: string;
  readonly latitude: number;
  readonly longitude: number;
  /** Table and code. */
  readonly symbol: string;
  readonly comment: string;
}

/** Information field of a thing, there or taken off the map (Protocol Reference 1.0.1, ch. 11); objects bear the time of `atMs`. */
export function encodeOwnThing(thing: OwnThing, live: boolean, atMs: number): Parsed<Uint8Array> {
  const symbol = symbolOf(thing.symbol);
  if (!symbol) return fail(0, 'a symbol is a table and a code');
  const comment = checkPositionComment(thing.comment);
  if (!comment.ok) return comment;
  const { latitude, longitude, name } = thing;
  const place = { latitude, longitude, symbol, comment: live ? comment.value : '' };
  const text = thing.form === 'object' ? encodeObject(name, live, atMs, place) : encodeItem(name, live, place);
  return text.ok ? ok(octetsOfText(text.value)) : text;
}

/** Why a thing cannot be sent, and of what: its name or its comment; null when it can. */
export function faultOfThing(
  thing: OwnThing,
): { readonly field: 'name' | 'comment' | 'symbol'; readonly reason: string } | null {
  const comment = checkPositionComment(thing.comment);
  if (!comment.ok) return { field: 'comment', reason: comment.error.reason };
  if (!symbolOf(thing.symbol)) return { field: 'symbol', reason: 'a symbol is a table and a code' };
  if (thing.name.trim() !== thing.name) return { field: 'name', reason: 'no blanks at its ends' };
  const whole = encodeOwnThing(thing, true, 0);
  return whole.ok ? null : { field: 'name', reason: whole.error.reason };
}

/** Sent once more so soon after each change, since one may be lost. (Our own rule.) */
const AGAIN_MS = 60_000;
/** How often it is said that a thing is gone. */
const TIMES_GONE = 3;

/** When a thing that was sent `times` times since it changed, the last at `lastAtMs`, goes out again, ms; null for never. */
export function nextThingMs(live: boolean, everyMin: number, times: number, lastAtMs: number | null): number | null {
  if (lastAtMs === null || times === 0) return 0;
  if (!live) return times < TIMES_GONE ? lastAtMs + AGAIN_MS : null;
  return lastAtMs + (times === 1 ? AGAIN_MS : everyMin * 60_000);
}
