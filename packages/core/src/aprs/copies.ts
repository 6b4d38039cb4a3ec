import { latin1OfOctets } from '../octets';
import { innermostPacket } from './third-party';
import type { Packet } from './packet';

/**
 * Copies of one packet are told by source, destination without SSID and information field within 30 s:
 * the duplicate rule of digipeaters (common practice; the 1.1 addendum asks for 30 s).
 */
export const COPY_WINDOW_MS = 30_000;

/** Two receptions with the same identity inside the window are copies of one packet. */
export function packetIdentity(packet: Packet): string {
  const { packet: inner } = innermostPacket(packet);
  const dash = inner.destination.indexOf('-');
  const destination = dash < 0 ? inner.destination : inner.destination.slice(0, dash);
  let end = inner.info.length;
  // Gateways strip line ends when they put a packet on a text line.
  while (end > 0 && (inner.info[end - 1] === 0x0d || inner.info[end - 1] === 0x0a)) end--;
  return `${inner.source}>${destination}:${latin1OfOctets(inner.info, 0, end)}`;
}

/** The window opens with the first copy; a copy may also be reported late with an earlier time. */
export const withinCopyWindow = (firstAtMs: number, heardAtMs: number): boolean =>
  Math.abs(heardAtMs - firstAtMs) <= COPY_WINDOW_MS;

export interface CopyWindow {
  /** True when the identity was seen inside the window; remembers it otherwise. */
  seen(identity: string, atMs: number): boolean;
}

/** The memory of a digipeater: refuses what it passed on within the window. */
export function createCopyWindow(): CopyWindow {
  const firstAt = new Map<string, number>();
  return {
    seen(identity, atMs) {
      for (const [known, at] of firstAt) {
        if (withinCopyWindow(at, atMs)) break;
        firstAt.delete(known);
      }
      if (firstAt.has(identity)) return true;
      firstAt.set(identity, atMs);
      return false;
    },
  };
}
