import { textOfOctets } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { parseMonitorLine } from './monitor';
import { decodeMessage, type MessageData } from './message';
import type { Packet } from './packet';
import { decodePosition, type PositionReport } from './position';

/** Packet types that are recognised by their first character but whose fields are left undecoded. */
export type NamedType =
  | 'Mic-E position'
  | 'object'
  | 'item'
  | 'weather without position'
  | 'telemetry'
  | 'query'
  | 'capabilities'
  | 'raw NMEA'
  | 'user defined';

export type Information =
  | MessageData
  | ({
      readonly kind: 'position';
      /** `/` and `@` carry a time, `=` and `@` say that the station takes messages. */
      readonly messaging: boolean;
      readonly time: string | null;
    } & PositionReport)
  | { readonly kind: 'status'; readonly text: string }
  | { readonly kind: 'third party'; readonly inner: Packet }
  | { readonly kind: 'named'; readonly type: NamedType; readonly text: string };

const NAMED: Readonly<Record<string, NamedType>> = {
  '`': 'Mic-E position',
  "'": 'Mic-E position',
  ';': 'object',
  ')': 'item',
  _: 'weather without position',
  T: 'telemetry',
  '?': 'query',
  '<': 'capabilities',
  $: 'raw NMEA',
  '{': 'user defined',
};

const TIME_OCTETS = 7;

/** Reads an information field (Protocol Reference 1.0.1, ch. 5). Never throws. */
export function decodeInformation(info: Uint8Array): Parsed<Information> {
  if (info.length === 0) return fail(0, 'the information field is empty');
  const type = String.fromCharCode(info[0]!);
  switch (type) {
    case ':':
      return decodeMessage(info);
    case '!':
    case '=':
    case '/':
    case '@': {
      const timed = type === '/' || type === '@';
      const time = timed ? textOfOctets(info, 1, 1 + TIME_OCTETS) : null;
      if (time !== null && !/^\d{6}[zh/]$/.test(time)) return fail(1, 'the time is not six digits and z, h or /');
      const position = decodePosition(info, timed ? 1 + TIME_OCTETS : 1);
      if (!position.ok) return position;
      return ok({
        kind: 'position',
        messaging: type === '=' || type === '@',
        time,
        ...position.value,
      });
    }
    case '>':
      return ok({ kind: 'status', text: textOfOctets(info, 1).trimEnd() });
    case '}': {
      const inner = parseMonitorLine(info.subarray(1), { escapes: false });
      if (!inner.ok) return fail(inner.error.at + 1, `in the third-party packet: ${inner.error.reason}`);
      return ok({ kind: 'third party', inner: inner.value });
    }
    default: {
      const named = NAMED[type];
      if (named) return ok({ kind: 'named', type: named, text: textOfOctets(info, 1) });
      return fail(0, `no packet type begins with 0x${info[0]!.toString(16).padStart(2, '0')}`);
    }
  }
}

/** How deep third-party packets may be nested before the inner ones are left unread. */
const MAX_NESTING = 3;

/**
 * The packet that was first sent: third-party wrappings are taken off. `wrapped` counts them.
 */
export function innermostPacket(packet: Packet): { packet: Packet; wrapped: number } {
  let inner = packet;
  for (let wrapped = 0; wrapped < MAX_NESTING; wrapped++) {
    if (inner.info[0] !== 0x7d) return { packet: inner, wrapped };
    const next = parseMonitorLine(inner.info.subarray(1), { escapes: false });
    if (!next.ok) return { packet: inner, wrapped };
    inner = next.value;
  }
  return { packet: inner, wrapped: MAX_NESTING };
}
