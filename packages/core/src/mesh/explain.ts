import { octetsOfText } from '../octets';
import { MESH_HEADER_OCTETS, type MeshFrame } from './frame';
import { decodeMeshContent, MESH_TEXT_HEAD_OCTETS, type MeshContent } from './content';
import { EVERYBODY } from './number';
import type { Parsed } from '../result';
import { counted } from '../text/counted';

/** A field in plain words, with the octets [from, to) of the frame it came from. */
export interface MeshField {
  readonly name: string;
  readonly words: string;
  readonly from: number;
  readonly to: number;
}

/** What a packet of the mesh is about, as far as anybody can read it: kind, and one line. */
export interface MeshSummary {
  readonly kind: 'mesh text' | 'mesh acknowledgement' | 'mesh announcement' | 'mesh sealed' | 'not understood';
  readonly summary: string;
}

const toWords = (addressee: string): string => (addressee === EVERYBODY ? 'everybody' : addressee);
const hops = (n: number): string => counted(n, 'hop');

/** The body in the clear; null of a sealed one. */
export const openContent = (frame: MeshFrame): Parsed<MeshContent> | null =>
  frame.sealed ? null : decodeMeshContent(frame.body);

/** What a frame is about. A sealed one is not opened, whoever holds its key. */
export function summaryOfMesh(frame: MeshFrame): MeshSummary {
  const to = toWords(frame.addressee);
  const content = openContent(frame);
  if (content === null)
    return { kind: 'mesh sealed', summary: `To ${to}: sealed, ${frame.body.length} octets, channel ${frame.mark}` };
  if (!content.ok) return { kind: 'not understood', summary: content.error.reason };
  switch (content.value.kind) {
    case 'text':
      return { kind: 'mesh text', summary: `To ${to}: ${content.value.text}` };
    case 'acknowledgement':
      return { kind: 'mesh acknowledgement', summary: `Acknowledges packet ${content.value.of} to ${to}` };
    case 'announcement':
      return { kind: 'mesh announcement', summary: announcementWords(content.value) };
  }
}

const announcementWords = (content: Extract<MeshContent, { kind: 'announcement' }>): string =>
  [
    content.tag,
    content.name,
    content.carrier ? 'carrier' : 'terminal',
    content.position && `${content.position.latitude.toFixed(4)}, ${content.position.longitude.toFixed(4)}`,
    content.batteryPercent === null ? null : `battery ${content.batteryPercent} %`,
  ]
    .filter(Boolean)
    .join(' – ');

/** How a frame came, in words: nodes do not sign what they repeat. */
export const meshRoadInWords = (frame: MeshFrame): string =>
  frame.hops === 0 ? 'heard direct' : `over ${hops(frame.hops)} of the mesh`;

/** Each field of a frame with its octets; docs/mesh.md, “The frame” and “The body”. */
export function explainMeshFrame(frame: MeshFrame, octets: Uint8Array): MeshField[] {
  const body = MESH_HEADER_OCTETS;
  const field = (name: string, words: string, from: number, to: number): MeshField => ({ name, words, from, to });
  const fields = [
    field('Version and flags', `version 1${frame.sealed ? ', sealed' : ''}`, 0, 1),
    field('Channel mark', frame.mark, 1, 3),
    field('Sender', frame.sender, 3, 8),
    field('Addressee', toWords(frame.addressee), 8, 13),
    field('Packet number', frame.number, 13, 17),
    field('Hops', `${hops(frame.hops)} so far, ${frame.hopsLeft} left`, 17, body),
  ];
  if (frame.sealed)
    return [
      ...fields,
      field('Nonce', '12 octets', body, Math.min(octets.length, body + 12)),
      field('Sealed body', 'AES-256 in GCM, with its tag', Math.min(octets.length, body + 12), octets.length),
    ];
  const content = decodeMeshContent(frame.body);
  if (!content.ok) return [...fields, field('Body', content.error.reason, body, octets.length)];
  const kind = field('Kind', content.value.kind, body, body + 1);
  switch (content.value.kind) {
    case 'text':
      return [
        ...fields,
        kind,
        field('Number of the text', content.value.n, body + 1, body + MESH_TEXT_HEAD_OCTETS),
        field('Text', content.value.text, body + MESH_TEXT_HEAD_OCTETS, octets.length),
      ];
    case 'acknowledgement':
      return [...fields, kind, field('Packet that it acknowledges', content.value.of, body + 1, octets.length)];
    case 'announcement': {
      const { tag, name, carrier, position, batteryPercent } = content.value;
      const nameAt = octets.length - octetsOfText(name).length;
      const batteryAt = batteryPercent === null ? nameAt : nameAt - 1;
      return [
        ...fields,
        kind,
        field('Flags', carrier ? 'carrier' : 'terminal', body + 1, body + 2),
        field('Tag', tag, body + 2, body + 8),
        ...(position ? [field('Position', `${position.latitude}, ${position.longitude}`, body + 8, batteryAt)] : []),
        ...(batteryPercent === null ? [] : [field('Battery', `${batteryPercent} %`, batteryAt, nameAt)]),
        field('Name', name, nameAt, octets.length),
      ];
    }
  }
}
