import { utf8OfLatin1 } from '../octets';
import type { Note } from './note';
import { isSymbolTable } from './position/report';
import { symbolInWords, type Symbol } from './symbol';
import { decodeTime, encodeDayTime, TIME_OCTETS, type PacketTime } from './time';

/** A status report (Protocol Reference 1.0.1, ch. 16). */
export interface StatusReport {
  readonly time: PacketTime | null;
  readonly locator: string | null;
  readonly symbol: Symbol | null;
  readonly beam: Beam | null;
  readonly text: string;
}

/** Where an antenna points and what it radiates, as meteor-scatter stations tell. */
export interface Beam {
  readonly headingDeg: number;
  readonly effectivePowerW: number;
}

const LOCATOR = /^([A-R]{2}\d{2}(?:[A-X]{2})?)(.)(.)(?= |$)/i;

/** Reads `>` and an optional time or locator, the text, and an optional `^HP` at its end. Never fails: all is text. */
export function decodeStatus(text: string, note?: Note): StatusReport {
  let at = 1;
  let end = text.length;
  while (end > at && (text[end - 1] === '\r' || text[end - 1] === '\n' || text[end - 1] === ' ')) end--;
  let time: PacketTime | null = null;
  let locator: string | null = null;
  let symbol: Symbol | null = null;
  if (text[at + 6] === 'z') {
    const read = decodeTime(text, at, note);
    if (read.ok) {
      time = read.value;
      at += TIME_OCTETS;
    }
  }
  if (time === null) {
    const found = LOCATOR.exec(text.slice(at, at + 10));
    if (found && isSymbolTable(found[2]!.charCodeAt(0))) {
      locator = found[1]!.slice(0, 4).toUpperCase() + found[1]!.slice(4).toLowerCase();
      symbol = { table: found[2]!, code: found[3]! };
      note?.('Locator', locator, at, at + found[1]!.length);
      note?.('Symbol', symbolInWords(symbol), at + found[1]!.length, at + found[0].length);
      at += found[0].length;
      if (text[at] === ' ') at++;
    }
  }
  let beam: Beam | null = null;
  const tail = /\^([0-9A-Z])([1-9:-K])$/.exec(text.slice(Math.max(at, end - 3), end));
  if (tail) {
    const heading = tail[1]! <= '9' ? Number(tail[1]) : tail[1]!.charCodeAt(0) - 55;
    const step = tail[2]!.charCodeAt(0) - 48;
    beam = { headingDeg: heading * 10, effectivePowerW: step * step * 10 };
    note?.('Beam', `toward ${beam.headingDeg}°, ${beam.effectivePowerW} W effective`, end - 3, end);
    end -= 3;
  }
  const words = utf8OfLatin1(text.slice(at, end));
  if (words !== '') note?.('Text', words, at, end);
  return { time, locator, symbol, beam, text: words };
}

/** Octets of the text of a status report that carries no time (ch. 16). */
export const MOST_STATUS_OCTETS = 62;

/** Text of a status report; a time or a locator, not both. */
export function encodeStatus(
  text: string,
  more: { atMs?: number; locator?: { text: string; symbol: Symbol }; beam?: Beam } = {},
): string {
  const { atMs, locator, beam } = more;
  const head = locator
    ? `${locator.text.toUpperCase()}${locator.symbol.table}${locator.symbol.code}${text === '' ? '' : ' '}`
    : atMs === undefined
      ? ''
      : encodeDayTime(atMs);
  const tail = beam
    ? `^${(Math.round(beam.headingDeg / 10) % 36).toString(36).toUpperCase()}${String.fromCharCode(
        48 + Math.max(1, Math.min(27, Math.round(Math.sqrt(beam.effectivePowerW / 10)))),
      )}`
    : '';
  return `>${head}${text}${tail}`;
}
