import { latin1OfOctets, utf8OfLatin1 } from '../octets';
import { fail, ok, type ParseError, type Parsed } from '../result';
import { positionOfLocator } from '../geo/locator';
import { decodeAddressed, type AddressedData } from './addressed';
import { decodeCapabilities, type Capabilities } from './capabilities';
import { symbolOfDestination } from './destination';
import { decodeMicE, type MicE } from './mic-e';
import { parseMonitorLine } from './monitor';
import { decodeNmea, type NmeaSentence } from './nmea';
import { shifted, type Note } from './note';
import { decodeItem, decodeObject, type ObjectReport } from './object';
import type { Packet } from './packet';
import { decodePosition } from './position/decode';
import type { PositionReport } from './position/report';
import { decodeQuery, type Query } from './query';
import { decodeRawWeather, isRawWeather } from './raw-weather';
import { decodeStatus, type StatusReport } from './status';
import { symbolInWords, type Symbol } from './symbol';
import { decodeTelemetry, type Telemetry } from './telemetry';
import { innermostPacket, MAX_NESTING } from './third-party';
import { decodeMonthTime, decodeTime, TIME_OCTETS, type PacketTime } from './time';
import { decodeUserDefined, type UserDefined } from './user-defined';
import { decodeWeather, measuresAnything, type Weather } from './weather';

export type Information =
  | AddressedData
  | ({
      readonly kind: 'position';
      /** `=` and `@` say that the station takes messages. */
      readonly messaging: boolean;
      readonly time: PacketTime | null;
    } & PositionReport)
  | ({ readonly kind: 'Mic-E' } & MicE)
  | ({ readonly kind: 'object' | 'item' } & ObjectReport)
  | ({ readonly kind: 'status' } & StatusReport)
  | {
      readonly kind: 'weather';
      readonly time: PacketTime | null;
      readonly weather: Weather;
      readonly comment: string;
      readonly faults: readonly ParseError[];
    }
  | ({ readonly kind: 'telemetry' } & Telemetry)
  | ({ readonly kind: 'query' } & Query)
  | { readonly kind: 'capabilities'; readonly tokens: Capabilities }
  | ({ readonly kind: 'NMEA'; readonly symbol: Symbol | null } & NmeaSentence)
  | { readonly kind: 'direction finder'; readonly bearingDeg: number; readonly quality: number | null }
  | {
      readonly kind: 'locator';
      readonly locator: string;
      readonly latitude: number;
      readonly longitude: number;
      readonly comment: string;
    }
  | ({ readonly kind: 'user defined' } & UserDefined)
  | { readonly kind: 'third party'; readonly inner: Packet }
  | { readonly kind: 'test data'; readonly text: string };

/** Some stations put a text before the `!` of their position, within the first 40 octets (ch. 5, data type identifier). */
const LATEST_POSITION = 40;

/**
 * Reads an information field (Protocol Reference 1.0.1, ch. 5); of a Mic-E packet half stands in the destination. Never throws.
 * A listener is told of each field on the way, also of a packet that in the end fails.
 */
export function decodeInformation(info: Uint8Array, destination: string, note?: Note): Parsed<Information> {
  const kind = decodeKind(info, destination, note);
  const data = !kind.ok && mayHoldLatePosition(info) ? (latePosition(latin1OfOctets(info), note) ?? kind) : kind;
  // What was missing at the end is missed at the end, not behind it.
  const end = Math.max(info.length, destination.length);
  return data.ok || data.error.at <= end ? data : fail(info.length, data.error.reason);
}

function decodeKind(info: Uint8Array, destination: string, note?: Note): Parsed<Information> {
  if (info.length === 0) return fail(0, 'the information field is empty');
  const type = String.fromCharCode(info[0]!);
  // Messages are the most common packets and need no copy of the octets as text.
  if (type === ':') return decodeAddressed(info, note);
  const text = latin1OfOctets(info);
  switch (type) {
    case '!':
      return isRawWeather(text) ? decodeStationWeather(text, note) : decodeReport(text, type, note);
    case '=':
    case '/':
    case '@':
      return decodeReport(text, type, note);
    case '`':
    case "'":
    case '\x1c':
    case '\x1d': {
      note?.('Type', 'position, Mic-E', 0, 1);
      const micE = decodeMicE(text, destination, note);
      return micE.ok ? ofKind('Mic-E', micE.value) : micE;
    }
    case ';':
    case ')': {
      const kind = type === ';' ? 'object' : 'item';
      note?.('Type', kind, 0, 1);
      const object = type === ';' ? decodeObject(text, note) : decodeItem(text, note);
      return object.ok ? ofKind(kind, object.value) : object;
    }
    case '>':
      note?.('Type', 'status', 0, 1);
      return ofKind('status', decodeStatus(text, note));
    case '_':
      return decodeWeatherAlone(text, note);
    case 'T': {
      note?.('Type', 'telemetry', 0, 2);
      const telemetry = decodeTelemetry(text, note);
      return telemetry.ok ? ofKind('telemetry', telemetry.value) : telemetry;
    }
    case '?': {
      note?.('Type', 'query to all', 0, 1);
      const query = decodeQuery(text, note);
      return query.ok ? ofKind('query', query.value) : query;
    }
    case '<':
      note?.('Type', 'capabilities', 0, 1);
      return ok({ kind: 'capabilities', tokens: decodeCapabilities(text, note) });
    case '$': {
      if (isRawWeather(text)) return decodeStationWeather(text, note);
      note?.('Type', 'raw sentence of a receiver', 0, 1);
      const sentence = decodeNmea(text, note);
      if (!sentence.ok) return sentence;
      // A sentence has no room for a symbol: the destination names it (ch. 20).
      const symbol = symbolOfDestination(destination);
      if (symbol)
        note?.('Symbol', `${symbolInWords(symbol)}, from the destination`, 0, destination.length, 'destination');
      return ofKind('NMEA', Object.assign(sentence.value, { symbol }));
    }
    case '[':
      return decodeLocatorBeacon(text, note);
    case '{': {
      note?.('Type', 'user defined', 0, 1);
      const own = decodeUserDefined(text, note);
      return own.ok ? ofKind('user defined', own.value) : own;
    }
    case '}':
      return decodeThirdParty(info, note);
    case ',':
      note?.('Type', 'test data: to be ignored', 0, 1);
      return ok({ kind: 'test data', text: utf8OfLatin1(text.slice(1)) });
    case '%':
      return decodeDirectionFinder(text, note);
    case '#':
    case '*':
      return isRawWeather(text) ? decodeStationWeather(text, note) : notKnown(text);
    default:
      return notKnown(text);
  }
}

/**
 * Names what was read. The value is fresh and nobody else's: it is added to, because spreading so wide an object would take longer
 * than reading the packet did.
 */
function ofKind<K extends Information['kind'], T extends object>(kind: K, value: T) {
  return ok(Object.assign(value, { kind }));
}

function decodeReport(text: string, type: string, note?: Note): Parsed<Information> {
  const timed = type === '/' || type === '@';
  const messaging = type === '=' || type === '@';
  note?.('Type', `position${timed ? ' with time' : ''}, ${messaging ? 'takes messages' : 'takes no messages'}`, 0, 1);
  const time = timed ? decodeTime(text, 1, note) : null;
  const position = decodePosition(text, timed ? 1 + TIME_OCTETS : 1, note);
  if (!position.ok) return position;
  // A spoilt time does not spoil the position.
  const faults = time && !time.ok ? [time.error, ...position.value.faults] : position.value.faults;
  return ofKind('position', Object.assign(position.value, { messaging, time: time?.ok ? time.value : null, faults }));
}

function decodeWeatherAlone(text: string, note?: Note): Parsed<Information> {
  note?.('Type', 'weather without position', 0, 1);
  const time = decodeMonthTime(text, 1, note);
  const { weather, end } = decodeWeather(text, 9, 'lettered', note);
  if (!measuresAnything(weather)) return fail(9, 'no weather stands behind the time');
  const comment = utf8OfLatin1(text.slice(end)).trim();
  if (comment !== '') note?.('Software and station', comment, end, text.length);
  return ok({
    kind: 'weather',
    time: time.ok ? time.value : null,
    weather,
    comment,
    faults: time.ok ? [] : [time.error],
  });
}

/** `[IO91SX] text`: a locator alone, as old stations send it (ch. 5). */
function decodeLocatorBeacon(text: string, note?: Note): Parsed<Information> {
  note?.('Type', 'locator', 0, 1);
  const found = /^\[([A-R]{2}\d{2}(?:[A-X]{2})?)\]/i.exec(text);
  const position = found && positionOfLocator(found[1]!);
  if (!found || !position?.ok) return fail(1, 'no locator between square brackets');
  const comment = utf8OfLatin1(text.slice(found[0].length)).trim();
  note?.('Locator', found[1]!, 1, found[0].length - 1);
  if (comment !== '') note?.('Comment', comment, found[0].length, text.length);
  return ok({ kind: 'locator', locator: found[1]!, ...position.value, comment });
}

function decodeThirdParty(info: Uint8Array, note?: Note): Parsed<Information> {
  const inner = parseMonitorLine(info.subarray(1), { escapes: false });
  if (!inner.ok) return fail(inner.error.at + 1, `in the third-party packet: ${inner.error.reason}`);
  if (note) {
    const shift = info.length - inner.value.info.length;
    note('Type', 'packet passed on for another station', 0, 1);
    note('Inside', `a packet from ${inner.value.source} to ${inner.value.destination}`, 1, shift);
    if (innermostPacket(inner.value).wrapped < MAX_NESTING)
      decodeInformation(inner.value.info, inner.value.destination, shifted(note, shift, 'Inside: '));
  }
  return ok({ kind: 'third party', inner: inner.value });
}

const notKnown = (text: string): Parsed<Information> =>
  fail(0, `no packet type begins with 0x${text.charCodeAt(0).toString(16).padStart(2, '0')}`);

/** Types that a text in front of a late position does not begin with by chance: what is wrong in them is told as such. */
const NO_TEXT = new Set([...":!=/@}`'\x1c\x1d;)"].map((type) => type.charCodeAt(0)));

const mayHoldLatePosition = (info: Uint8Array): boolean => info.length > 0 && !NO_TEXT.has(info[0]!);

/** The position behind a text (ch. 5): at the first `!` with which one begins. */
function latePosition(text: string, note?: Note): Parsed<Information> | null {
  for (let at = text.indexOf('!', 1); at > 0 && at < LATEST_POSITION; at = text.indexOf('!', at + 1)) {
    const position = decodePosition(text, at + 1);
    if (!position.ok) continue;
    if (note) decodePosition(text, at + 1, shiftless(note, at));
    return ofKind('position', Object.assign(position.value, { messaging: false, time: null }));
  }
  return null;
}

function decodeStationWeather(text: string, note?: Note): Parsed<Information> {
  const read = decodeRawWeather(text, note);
  return read.ok ? ok({ kind: 'weather', time: null, faults: [], ...read.value }) : read;
}

/** `%bbb/q`: a bearing of a direction finder, and how good it is, 0–9 (ch. 5 names the type; the form from memory). */
function decodeDirectionFinder(text: string, note?: Note): Parsed<Information> {
  const found = /^%(\d{3})(?:\/(\d))?/.exec(text);
  const bearingDeg = Number(found?.[1]);
  if (!found || bearingDeg > 360) return fail(1, 'no bearing of three digits behind %');
  const quality = found[2] === undefined ? null : Number(found[2]);
  note?.('Type', 'bearing of a direction finder', 0, 1);
  note?.('Bearing', `${bearingDeg}°${quality === null ? '' : `, quality ${quality} of 9`}`, 1, found[0].length);
  return ok({ kind: 'direction finder', bearingDeg, quality });
}

/** Names the text in front of a late position, then listens on. */
function shiftless(note: Note | undefined, at: number): Note | undefined {
  if (!note) return undefined;
  let told = false;
  return (name, words, from, to, part) => {
    if (!told) {
      told = true;
      note('In front', 'a text that is no packet type', 0, at);
      note('Type', 'position, takes no messages', at, at + 1);
    }
    note(name, words, from, to, part);
  };
}
