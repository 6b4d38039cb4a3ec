import { openContent, type HeardPath, type MeshFrame } from '@tombolo/core';
import { calledName } from '../mesh/name';
import type { Draft } from './draft';
import { hear, moveTo, unheard, type PlacedPoint } from './sighting';

/** One reception of a frame as it concerns the node that sent it. */
export interface NodeSighting {
  readonly atMs: number;
  readonly words: string;
  readonly bearerId: string | null;
  readonly frame: MeshFrame;
  readonly isNewPacket: boolean;
  /** Addresses of services, which no node is called by. */
  readonly services: ReadonlySet<string>;
}

/** How a frame came: over hops that nobody signs. */
const pathOf = ({ hops, sender }: MeshFrame): HeardPath => ({
  how: hops === 0 ? 'direct' : 'relayed',
  hops: Array.from({ length: hops }, () => ({ call: null, certain: true })),
  via: [],
  unnamedHops: hops,
  unused: [],
  gate: null,
  heardFrom: hops === 0 ? sender : null,
  heardFromCertain: true,
  firstHearer: null,
});

/** What a frame adds to what is known of its sender: that it was heard, and what it announces of itself. */
export function sightNode(
  before: Draft | null,
  { atMs, words, bearerId, frame, isNewPacket, services }: NodeSighting,
): { state: Draft; point: PlacedPoint | null } {
  const draft = before ?? unheard(frame.sender, 'node', frame.sender, null);
  const path = pathOf(frame);
  hear(draft, { atMs, path, words, bearerId, information: null, source: frame.sender, isNewPacket });
  if (!isNewPacket) return { state: draft, point: null };
  draft.packets++;
  const content = openContent(frame);
  if (!content?.ok || content.value.kind !== 'announcement') return { state: draft, point: null };
  const { tag, name, carrier, position, batteryPercent } = content.value;
  draft.name = calledName(tag, frame.sender, services);
  draft.comment = [draft.name === tag ? '' : `calls itself ${tag}`, name, carrier ? 'carrier' : 'terminal']
    .filter((part) => part !== '')
    .join(', ');
  if (batteryPercent !== null && atMs >= (draft.statusAtMs ?? -Infinity)) {
    draft.status = `battery ${batteryPercent} %`;
    draft.statusAtMs = atMs;
  }
  if (!position) return { state: draft, point: null };
  const point = { ...position, atMs, courseDeg: null, speedKnots: null, altitudeM: null };
  return { state: draft, point: moveTo(draft, point, false).point };
}
