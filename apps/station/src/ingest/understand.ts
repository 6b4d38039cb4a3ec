import { createHash } from 'node:crypto';
import {
  decodeFrame,
  decodeInformation,
  explainRoad,
  formatMonitorLine,
  innermostPacket,
  packetIdentity,
  packetOfFrame,
  parseMonitorLine,
  packetRoadInWords,
  summaryOf,
  textOfOctets,
  type HeardPath,
  type Information,
  type Packet,
  type Parsed,
} from '@tombolo/core';
import type { Heard } from './heard';

/** A reception with all that the core can tell of it. */
export interface Understood {
  readonly heard: Heard;
  /** The packet as first sent (third-party wrappings taken off); null when not even a frame was understood. */
  readonly packet: Packet | null;
  /** The packet as it was heard, with its wrappings. */
  readonly outer: Packet | null;
  readonly identity: Buffer | null;
  readonly information: Information | null;
  readonly path: HeardPath | null;
  readonly kind: string;
  readonly summary: string;
  readonly words: string;
  readonly line: string;
  readonly error: { readonly at: number; readonly reason: string } | null;
}

/** Identity as it is stored and compared: a digest, since information fields have no bounded length. */
export const identityDigest = (packet: Packet): Buffer =>
  createHash('sha256').update(packetIdentity(packet), 'latin1').digest().subarray(0, 16);

/** The packet as it was heard, with its wrappings. */
export function packetOf(heard: Pick<Heard, 'form' | 'raw' | 'importId' | 'fault'>): Parsed<Packet> {
  if (heard.fault) return { ok: false, error: heard.fault };
  if (heard.form === 'line') return parseMonitorLine(heard.raw, { escapes: heard.importId !== null });
  const frame = decodeFrame(heard.raw);
  return frame.ok ? packetOfFrame(frame.value) : frame;
}

/** Decodes a reception as far as it goes. Never throws. */
export function understand(heard: Heard): Understood {
  const outer = packetOf(heard);
  if (!outer.ok) {
    return {
      heard,
      packet: null,
      outer: null,
      identity: null,
      information: null,
      path: null,
      kind: 'not understood',
      summary: outer.error.reason,
      words: '',
      line: '',
      error: outer.error,
    };
  }
  const { packet } = innermostPacket(outer.value);
  const path = explainRoad(outer.value);
  const information = decodeInformation(packet.info, packet.destination);
  return {
    heard,
    packet,
    outer: outer.value,
    identity: identityDigest(packet),
    information: information.ok ? information.value : null,
    path,
    kind: information.ok ? information.value.kind : 'not understood',
    summary: information.ok ? summaryOf(information.value) : information.error.reason,
    words: packetRoadInWords(outer.value),
    line: textOfOctets(formatMonitorLine(outer.value, { escapes: true })),
    error: information.ok ? null : information.error,
  };
}
