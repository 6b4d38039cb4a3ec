import { hexOfOctets, joinOctets, octetsOfHex } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { EVERYBODY, formatNodeNumber, NODE_NUMBER_OCTETS, nodeNumberOctets } from './number';

/** A packet of the mesh as it is on the air: docs/mesh.md, “The frame”. */
export interface MeshFrame {
  /** The body is sealed under the channel's key. */
  readonly sealed: boolean;
  /** Channel mark, four hexadecimal digits. */
  readonly mark: string;
  /** Numbers of nodes as written, `XXXX-XXXX`; the addressee may be `EVERYBODY`. */
  readonly sender: string;
  readonly addressee: string;
  /** Packet number, eight hexadecimal digits. */
  readonly number: string;
  /** How often it may still be repeated, 0–15, and how often it was. */
  readonly hopsLeft: number;
  readonly hops: number;
  readonly body: Uint8Array;
}

/** A LoRa packet tells its length in one octet. */
export const MOST_FRAME_OCTETS = 255;
export const MESH_HEADER_OCTETS = 18;
export const MOST_HOPS = 15;

const VERSION = 1;
const SEALED = 0x01;
const HOPS_AT = 17;

/** The header; what changes on the way – the hops – is zero with `fixed`. */
export function meshHeader(frame: Omit<MeshFrame, 'body'>, fixed = false): Uint8Array {
  const header = new Uint8Array(MESH_HEADER_OCTETS);
  header[0] = (VERSION << 4) | (frame.sealed ? SEALED : 0);
  header.set(octetsOfHex(frame.mark) ?? [], 1);
  header.set(nodeNumberOctets(frame.sender), 3);
  header.set(nodeNumberOctets(frame.addressee), 8);
  header.set(octetsOfHex(frame.number) ?? [], 13);
  header[HOPS_AT] = fixed ? 0 : (frame.hopsLeft << 4) | frame.hops;
  return header;
}

/** The frame's octets; fails when it is longer than LoRa carries. */
export function encodeMeshFrame(frame: MeshFrame): Parsed<Uint8Array> {
  const octets = MESH_HEADER_OCTETS + frame.body.length;
  if (octets > MOST_FRAME_OCTETS)
    return fail(MOST_FRAME_OCTETS, `${octets} octets are more than the ${MOST_FRAME_OCTETS} that a LoRa packet holds`);
  if (frame.hopsLeft + frame.hops > MOST_HOPS) return fail(HOPS_AT, `at most ${MOST_HOPS} hops`);
  return ok(joinOctets([meshHeader(frame), frame.body]));
}

/** Reads a frame; total: whatever was heard gives a frame or the reason why it is none. */
export function decodeMeshFrame(octets: Uint8Array): Parsed<MeshFrame> {
  if (octets.length < MESH_HEADER_OCTETS) return fail(octets.length, 'shorter than the header of a mesh frame');
  if (octets.length > MOST_FRAME_OCTETS) return fail(MOST_FRAME_OCTETS, 'longer than a LoRa packet');
  const first = octets[0]!;
  if (first >> 4 !== VERSION) return fail(0, `version ${first >> 4} of the mesh frame is not known`);
  if ((first & 0x0f & ~SEALED) !== 0) return fail(0, 'flags that this version does not know');
  const hopsLeft = octets[HOPS_AT]! >> 4;
  const hops = octets[HOPS_AT]! & 0x0f;
  if (hopsLeft + hops > MOST_HOPS) return fail(HOPS_AT, `more than ${MOST_HOPS} hops`);
  const node = (at: number) => formatNodeNumber(octets.subarray(at, at + NODE_NUMBER_OCTETS));
  if (node(3) === EVERYBODY) return fail(3, 'everybody is no sender');
  return ok({
    sealed: (first & SEALED) !== 0,
    mark: hexOfOctets(octets.subarray(1, 3)),
    sender: node(3),
    addressee: node(8),
    number: hexOfOctets(octets.subarray(13, 17)),
    hopsLeft,
    hops,
    body: octets.slice(MESH_HEADER_OCTETS),
  });
}

/** The frame as a node repeats it, one hop on; null when its hops are used up. */
export function repeatedFrame(octets: Uint8Array): Uint8Array | null {
  const hops = octets[HOPS_AT] ?? 0;
  if (hops >> 4 === 0 || (hops & 0x0f) === MOST_HOPS) return null;
  const next = octets.slice();
  next[HOPS_AT] = hops - 0x10 + 1;
  return next;
}

/** Whether two frames are the same transmission of the same sender, however far they came: all but the hops is equal. */
export function sameMeshPacket(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (i !== HOPS_AT && a[i] !== b[i]) return false;
  return true;
}

/** One line for the record: who to whom, and the octets. */
export const meshFrameLine = (frame: MeshFrame, octets: Uint8Array): string =>
  `${frame.sender} > ${frame.addressee} channel ${frame.mark} no ${frame.number} hops ${frame.hops}, ${frame.hopsLeft} left: ${hexOfOctets(octets)}`;
