import { createCopyWindow, MAX_REPEATERS, packetIdentity, remainingHops, type Hop, type Packet } from '@tombolo/core';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { onPacket, sendPacket } from './packets';

/** A fill-in serves WIDE1-1 only; a wide digipeater every WIDEn-N up to two hops. */
export type DigipeaterKind = 'fill-in' | 'wide';

const MOST_HOPS = 2;

/** The path after this digipeater repeated it; null when it is not for it. */
export function repeatedPath(path: readonly Hop[], call: string, kind: DigipeaterKind): Hop[] | null {
  const at = path.findIndex((hop) => !hop.used);
  const next = path[at];
  if (!next) return null;
  const own = { call, used: true };
  const replaced = [...path.slice(0, at).map((hop) => ({ ...hop })), own, ...path.slice(at + 1)];
  if (next.call === call) return replaced;
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

export function runDigipeater(world: World, radio: Radio, kind: DigipeaterKind): void {
  const window = createCopyWindow();
  const { call } = radio.station;
  onPacket(radio, (packet: Packet) => {
    const path = repeatedPath(packet.path, call, kind);
    if (!path || packet.source === call || packet.path.some((hop) => hop.used && hop.call === call)) return;
    if (window.seen(packetIdentity(packet), world.now())) return;
    sendPacket(radio, { ...packet, path });
  });
}
