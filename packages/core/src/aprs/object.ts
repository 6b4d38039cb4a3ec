import { utf8OfLatin1 } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { frequencyOfName } from './frequency';
import type { Note } from './note';
import { decodePosition } from './position/decode';
import { encodeUncompressedPosition, type PositionToSend } from './position/encode';
import type { PositionReport } from './position/report';
import { decodeTime, encodeDayTime, TIME_OCTETS, type PacketTime } from './time';

/** A thing that a station reports for others (Protocol Reference 1.0.1, ch. 11). */
export interface ObjectReport extends PositionReport {
  readonly name: string;
  /** False: the sender takes it off the map. */
  readonly live: boolean;
  /** Items carry none; an object's is null when it cannot be read. */
  readonly time: PacketTime | null;
}

const NAME_OCTETS = 9;

/** `;NAME_____*111111z` and a position; `text` is the information field, one character per octet. */
export function decodeObject(text: string, note?: Note): Parsed<ObjectReport> {
  if (text.length < 1 + NAME_OCTETS + 1 + TIME_OCTETS) return fail(text.length, 'the object is cut off');
  const state = text[1 + NAME_OCTETS];
  if (state !== '*' && state !== '_')
    return fail(1 + NAME_OCTETS, 'neither * nor _ behind the nine characters of the name');
  const name = utf8OfLatin1(text.slice(1, 1 + NAME_OCTETS)).trimEnd();
  if (name === '') return fail(1, 'the object has no name');
  note?.('Name', name, 1, 1 + NAME_OCTETS);
  note?.('State', state === '*' ? 'live' : 'taken off the map', 1 + NAME_OCTETS, 2 + NAME_OCTETS);
  const timeAt = 2 + NAME_OCTETS;
  const time = decodeTime(text, timeAt, note);
  const position = decodePosition(text, timeAt + TIME_OCTETS, note);
  if (!position.ok) return position;
  const faults = time.ok ? position.value.faults : [time.error, ...position.value.faults];
  // Assigned, not spread: see mic-e.ts.
  const frequency = position.value.frequency ?? frequencyOfName(name, position.value.comment);
  return ok(
    Object.assign(position.value, {
      faults,
      name,
      live: state === '*',
      time: time.ok ? time.value : null,
      frequency,
    }),
  );
}

/** `)NAME!` and a position; names of 3 to 9 characters, `_` instead of `!` takes it off the map. */
export function decodeItem(text: string, note?: Note): Parsed<ObjectReport> {
  const end = /[!_]/.exec(text.slice(1, 1 + NAME_OCTETS + 1));
  if (!end) return fail(1, 'neither ! nor _ behind the name of the item');
  if (end.index < 3) return fail(1, 'the name of an item has 3 to 9 characters');
  const name = utf8OfLatin1(text.slice(1, 1 + end.index)).trimEnd();
  if (name === '') return fail(1, 'the item has no name');
  const live = end[0] === '!';
  note?.('Name', name, 1, 1 + end.index);
  note?.('State', live ? 'live' : 'taken off the map', 1 + end.index, 2 + end.index);
  const position = decodePosition(text, 2 + end.index, note);
  return position.ok ? ok(Object.assign(position.value, { name, live, time: null })) : position;
}

function checkName(name: string, least: number, forbidden: RegExp): Parsed<string> {
  if (name.length < least || name.length > NAME_OCTETS)
    return fail(0, `a name has ${least} to ${NAME_OCTETS} characters`);
  const foreign = forbidden.exec(name);
  if (foreign) return fail(foreign.index, `“${foreign[0]}” cannot stand in this name`);
  return ok(name);
}

/** Text of an object, live or taken off. */
export function encodeObject(name: string, live: boolean, atMs: number, position: PositionToSend): Parsed<string> {
  const checked = checkName(name, 1, /[^ -~]/);
  if (!checked.ok) return checked;
  return ok(
    `;${name.padEnd(NAME_OCTETS)}${live ? '*' : '_'}${encodeDayTime(atMs)}${encodeUncompressedPosition(position)}`,
  );
}

/** Text of an item, live or taken off. */
export function encodeItem(name: string, live: boolean, position: PositionToSend): Parsed<string> {
  const checked = checkName(name, 3, /[^ -~]|[!_]/);
  if (!checked.ok) return checked;
  return ok(`)${name}${live ? '!' : '_'}${encodeUncompressedPosition(position)}`);
}
