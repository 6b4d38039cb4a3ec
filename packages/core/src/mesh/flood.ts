import { loraSymbolMs } from './air-time';
import { MOST_HOPS } from './frame';
import type { MeshRadio } from './radio';

/** Slots of one role; carriers have the first eight, terminals the eight behind. */
export const FLOOD_SLOTS = 8;

/** A node that has heard so many others repeat a packet stays silent. */
export const ENOUGH_REPEATS = 2;

/** Symbols of a slot: preamble, its end, and time for others to notice it. */
const SLOT_SYMBOLS = 20;

/** What has waited so long for a clear channel is dropped, ms: a packet that was given goes out within it, or never. */
export const MESH_MOST_WAIT_MS = 20_000;

/** How long a slot lasts, ms. Slots pass while the channel is clear. */
export const floodSlotMs = (radio: Pick<MeshRadio, 'spreadingFactor' | 'bandwidthHz'>): number =>
  SLOT_SYMBOLS * loraSymbolMs(radio);

/** The slot in which a node repeats, 0–15; `random` in [0, 1). */
export const floodSlot = (carrier: boolean, random: number): number =>
  (carrier ? 0 : FLOOD_SLOTS) + Math.floor(random * FLOOD_SLOTS);

/**
 * A hop limit for a group: from corner to corner of a square of nodes in which each hears its neighbours, and never more than a chain of
 * all of them needs. An estimate: where height helps, fewer do.
 */
export const proposedHopLimit = (nodes: number): number =>
  Math.min(MOST_HOPS, Math.max(1, Math.min(nodes - 2, Math.ceil(2 * (Math.sqrt(Math.max(1, nodes)) - 1)))));
