import type { Hop, Packet } from './packet';
import { joinOctets, octetsOfLatin1, octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';

/**
 * The text form of packets: `SOURCE>DESTINATION,HOP,HOP*,HOP:information`, the star behind the last
 * element that was used. Files escape control octets as `\xNN` so that one packet is one line; feeds do not.
 */
export interface MonitorOptions {
  readonly escapes: boolean;
}

/** A line longer than this is not a packet: 2 + 8 addresses and an information field of 256 octets fit four times. */
export const MAX_MONITOR_LINE = 2048;
const MAX_HEADER = 256;
const CALL = /^[A-Za-z0-9]{1,9}(?:-[A-Za-z0-9]{1,2})?$/;

/** The line of a packet, without line end. */
export function formatMonitorLine(packet: Packet, { escapes }: MonitorOptions): Uint8Array {
  const lastUsed = packet.path.reduce((last, hop, i) => (hop.used ? i : last), -1);
  const path = packet.path.map((hop, i) => `,${hop.call}${i === lastUsed ? '*' : ''}`).join('');
  const header = octetsOfText(`${packet.source}>${packet.destination}${path}:`);
  return joinOctets([header, escapes ? escapeControls(packet.info) : packet.info]);
}

const isControl = (octet: number) => octet < 0x20 || octet === 0x7f;
const BACKSLASH = 0x5c;

function escapeControls(info: Uint8Array): Uint8Array {
  let clean = true;
  for (const octet of info) if (isControl(octet) || octet === BACKSLASH) clean = false;
  if (clean) return info;
  let text = '';
  for (let i = 0; i < info.length; i++) {
    const octet = info[i]!;
    // A backslash is escaped only where it would read as an escape.
    const ambiguous = octet === BACKSLASH && info[i + 1] === 0x78;
    text += isControl(octet) || ambiguous ? `\\x${octet.toString(16).padStart(2, '0')}` : String.fromCharCode(octet);
  }
  return octetsOfLatin1(text);
}

function unescapeControls(info: Uint8Array): Uint8Array {
  if (!info.includes(BACKSLASH)) return info;
  const out: number[] = [];
  for (let i = 0; i < info.length; i++) {
    if (info[i] === BACKSLASH && info[i + 1] === 0x78 && i + 3 < info.length) {
      const hex = String.fromCharCode(info[i + 2]!, info[i + 3]!);
      if (/^[0-9a-fA-F]{2}$/.test(hex)) {
        out.push(parseInt(hex, 16));
        i += 3;
        continue;
      }
    }
    out.push(info[i]!);
  }
  return Uint8Array.from(out);
}

/** Reads one line (without line end). Never throws; failures give the octet offset. */
export function parseMonitorLine(line: Uint8Array, { escapes }: MonitorOptions): Parsed<Packet> {
  if (line.length > MAX_MONITOR_LINE)
    return fail(MAX_MONITOR_LINE, `the line has ${line.length} octets; ${MAX_MONITOR_LINE} is the limit`);
  let header = '';
  let at = 0;
  for (; at < line.length && line[at] !== 0x3a; at++) {
    if (at === MAX_HEADER) return fail(at, 'no colon behind the path');
    header += String.fromCharCode(line[at]!);
  }
  if (at === line.length) return fail(at, 'no colon behind the path');
  const arrow = header.indexOf('>');
  if (arrow < 0) return fail(0, 'no > behind the source');
  const source = header.slice(0, arrow);
  if (!CALL.test(source)) return fail(0, 'the source is not a call sign');
  const [destination = '', ...elements] = header.slice(arrow + 1).split(',');
  if (!CALL.test(destination)) return fail(arrow + 1, 'the destination is not a call sign');
  const lastUsed = elements.reduce((last, element, i) => (element.endsWith('*') ? i : last), -1);
  const path: Hop[] = [];
  for (const [i, element] of elements.entries()) {
    const call = element.endsWith('*') ? element.slice(0, -1) : element;
    if (!CALL.test(call)) return fail(arrow + 1, `“${element.slice(0, 12)}” in the path is not a call sign`);
    if (element.endsWith('*')) path.push({ call, used: true });
    else path.push(i < lastUsed ? { call, used: true, implied: true } : { call, used: false });
  }
  const info = line.subarray(at + 1);
  return ok({ source, destination, path, info: escapes ? unescapeControls(info) : info });
}
