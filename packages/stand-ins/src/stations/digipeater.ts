import {
  createCopyWindow,
  decodeFrame,
  encodeFrame,
  formatAddress,
  MAX_REPEATERS,
  packetIdentity,
  packetOfFrame,
  remainingHops,
  type Hop,
  type Packet,
} from '@tombolo/core';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { onPacket, sendPacket } from './packets';

/**
 * A fill-in serves WIDE1-1 only; a wide digipeater every WIDEn-N up to two hops. One that does not sign answers to LOCAL and leaves its
 * call out; one out of turn answers to its own call wherever it stands in the path, and leaves what stands in front as it is.
 */
export type DigipeaterKind = 'fill-in' | 'wide' | 'unsigned' | 'out of turn';

const MOST_HOPS = 2;

/** The path after this digipeater repeated it; null when it is not for it. */
export function repeatedPath(path: readonly Hop[], call: string, kind: DigipeaterKind): Hop[] | null {
  // Behind the last one that was used: what was passed over in front stays passed over.
  const at = path.reduce((last, hop, i) => (hop.used ? i : last), -1) + 1;
  const next = path[at];
  if (!next) return null;
  const own = { call, used: true };
  const replaced = [...path.slice(0, at).map((hop) => ({ ...hop })), own, ...path.slice(at + 1)];
  if (next.call === call) return replaced;
  if (kind === 'unsigned')
    return next.call === 'LOCAL' ? path.map((hop, i) => (i === at ? { ...hop, used: true } : hop)) : null;
  if (kind === 'out of turn') {
    const mine = path.findIndex((hop, i) => i > at && !hop.used && hop.call === call);
    return mine < 0 ? null : path.map((hop, i) => (i === mine ? { ...hop, used: true } : hop));
  }
  if (next.call === 'WIDE1-1') return replaced;
  const remaining = remainingHops(next.call);
  if (kind === 'fill-in' || remaining === 0 || !next.call.startsWith('WIDE')) return null;
  // Longer paths than the district allows are cut to its limit, not refused.
  const left = Math.min(remaining, MOST_HOPS) - 1;
  if (left === 0) return replaced;
  if (path.length >= MAX_REPEATERS) return null;
  const counted = { call: `${next.call.split('-')[0]}-${left}`, used: false };
  return [...path.slice(0, at), own, counted, ...path.slice(at + 1)];
}

/** A frame of a connection goes on when this digipeater is named next; it may come again, since it is sent again on purpose. */
function repeatConnection(radio: Radio, call: string): void {
  radio.onFrame((octets) => {
    const frame = decodeFrame(octets);
    if (!frame.ok || packetOfFrame(frame.value).ok) return;
    const next = frame.value.repeaters.findIndex((hop) => !hop.repeated);
    if (next < 0 || formatAddress(frame.value.repeaters[next]!) !== call) return;
    const repeaters = frame.value.repeaters.map((hop, i) => (i === next ? { ...hop, repeated: true } : hop));
    const repeated = encodeFrame({ ...frame.value, repeaters });
    if (repeated.ok) radio.send(repeated.value);
  });
}

export function runDigipeater(world: World, radio: Radio, kind: DigipeaterKind): void {
  const window = createCopyWindow();
  const { call } = radio.station;
  repeatConnection(radio, call);
  onPacket(radio, (packet: Packet) => {
    const path = repeatedPath(packet.path, call, kind);
    if (!path || packet.source === call || packet.path.some((hop) => hop.used && hop.call === call)) return;
    if (window.seen(packetIdentity(packet), world.now())) return;
    sendPacket(radio, { ...packet, path });
  });
}
