import { explainPath, isInternetMark, isQConstruct, type HeardPath } from '../aprs/path';
import type { Packet } from '../aprs/packet';
import { heardByRadio } from './q-constructs';

/** Somebody heard somebody by radio, as a path tells. */
export interface HeardLink {
  readonly from: string;
  readonly by: string;
  /** True when this was the sender's own transmission, not one that was repeated. */
  readonly first: boolean;
  /**
   * True for what reached our own receiver. Of two digipeaters that signed one behind the other the path does not tell whether a third one,
   * which did not sign, stood between them: such a link is inferred. The exception is a digipeater that took its call out of turn.
   */
  readonly certain: boolean;
}

/**
 * The links that the path of a transmission tells of; wrappings are not looked into. `receiver` is who heard it by radio and tells us,
 * null for a text feed, where the gateway that says so in its mark takes that place. `explained` is what `explainPath` gives of it, where
 * that is known already.
 */
export function linksOf(packet: Packet, receiver: string | null, explained?: HeardPath): HeardLink[] {
  const q = packet.path.findIndex((hop) => isQConstruct(hop.call));
  if (packet.path.some(({ call }) => isInternetMark(call))) return [];
  const heard = q < 0 ? (explained ?? explainPath(packet)) : explainPath({ ...packet, path: packet.path.slice(0, q) });
  const gate = q >= 0 && heardByRadio(packet.path[q]!.call) ? (packet.path[q + 1]?.call ?? null) : null;
  const last = q >= 0 ? gate : receiver;
  const links: HeardLink[] = [];
  const add = (from: string | null, by: string | null, first: boolean, certain: boolean) => {
    if (from !== null && by !== null && from !== by) links.push({ from, by, first, certain });
  };
  let before: string | null = packet.source;
  for (const [i, { call }] of heard.hops.entries()) {
    add(before, call, i === 0, i === 0 && heard.firstHearer !== null);
    before = call;
  }
  add(heard.heardFrom, last, heard.hops.length === 0, heard.heardFromCertain && q < 0);
  return links;
}
