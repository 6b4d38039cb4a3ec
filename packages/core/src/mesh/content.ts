import type { Position } from '../geo/geodesic';
import { hexOfOctets, isUtf8, joinOctets, octetsOfHex, octetsOfLatin1, octetsOfText, textOfOctets } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { NODE_TAG } from './number';

/** What a packet of the mesh says: docs/mesh.md, “The body”. */
export type MeshContent =
  | {
      readonly kind: 'text';
      /** One to five letters or digits, the same in every try of one text. */
      readonly n: string;
      readonly text: string;
    }
  | {
      readonly kind: 'acknowledgement';
      /** Number of the packet that brought the text, eight hexadecimal digits. */
      readonly of: string;
    }
  | {
      readonly kind: 'announcement';
      readonly tag: string;
      readonly name: string;
      readonly carrier: boolean;
      readonly position: Position | null;
      readonly batteryPercent: number | null;
    };

const TEXT = 1;
const ACKNOWLEDGEMENT = 2;
const ANNOUNCEMENT = 3;

const NUMBER_OCTETS = 5;
/** Octets of a text's body beside the text: kind and text number. */
export const MESH_TEXT_HEAD_OCTETS = 1 + NUMBER_OCTETS;
export const MOST_NODE_NAME_OCTETS = 40;

const CARRIER = 0x01;
const HAS_POSITION = 0x02;
const HAS_BATTERY = 0x04;
const TAG_OCTETS = 6;
/** Ten-millionths of a degree: about a centimetre. */
const DEGREE = 1e7;

/** A field of fixed length, filled up with zero octets. */
function field(text: string, length: number): Uint8Array {
  const octets = new Uint8Array(length);
  octets.set(octetsOfLatin1(text).subarray(0, length));
  return octets;
}

const fieldText = (octets: Uint8Array): string => {
  const end = octets.indexOf(0);
  return textOfOctets(end < 0 ? octets : octets.subarray(0, end));
};

/** The octets of a body in the clear. */
export function encodeMeshContent(content: MeshContent): Uint8Array {
  switch (content.kind) {
    case 'text':
      return joinOctets([Uint8Array.of(TEXT), field(content.n, NUMBER_OCTETS), octetsOfText(content.text)]);
    case 'acknowledgement':
      return joinOctets([Uint8Array.of(ACKNOWLEDGEMENT), octetsOfHex(content.of) ?? new Uint8Array(4)]);
    case 'announcement': {
      const { position, batteryPercent } = content;
      const flags =
        (content.carrier ? CARRIER : 0) | (position ? HAS_POSITION : 0) | (batteryPercent === null ? 0 : HAS_BATTERY);
      const place = new Uint8Array(position ? 8 : 0);
      if (position) {
        const view = new DataView(place.buffer);
        view.setInt32(0, Math.round(position.latitude * DEGREE));
        view.setInt32(4, Math.round(position.longitude * DEGREE));
      }
      return joinOctets([
        Uint8Array.of(ANNOUNCEMENT, flags),
        field(content.tag, TAG_OCTETS),
        place,
        batteryPercent === null ? new Uint8Array() : Uint8Array.of(Math.round(batteryPercent)),
        octetsOfText(content.name),
      ]);
    }
  }
}

/** Reads a body in the clear; total. */
export function decodeMeshContent(octets: Uint8Array): Parsed<MeshContent> {
  switch (octets[0]) {
    case TEXT: {
      if (octets.length <= MESH_TEXT_HEAD_OCTETS) return fail(octets.length, 'a text without text');
      const n = fieldText(octets.subarray(1, MESH_TEXT_HEAD_OCTETS));
      if (!/^[A-Za-z0-9]{1,5}$/.test(n)) return fail(1, 'a text number has one to five letters or digits');
      const text = octets.subarray(MESH_TEXT_HEAD_OCTETS);
      if (!isUtf8(text)) return fail(MESH_TEXT_HEAD_OCTETS, 'the text is no UTF-8');
      return ok({ kind: 'text', n, text: textOfOctets(text) });
    }
    case ACKNOWLEDGEMENT:
      return octets.length === 5
        ? ok({ kind: 'acknowledgement', of: hexOfOctets(octets.subarray(1)) })
        : fail(octets.length, 'an acknowledgement names one packet number');
    case ANNOUNCEMENT:
      return decodeAnnouncement(octets);
    case undefined:
      return fail(0, 'an empty body');
    default:
      return fail(0, `kind ${octets[0]} of body is not known`);
  }
}

function decodeAnnouncement(octets: Uint8Array): Parsed<MeshContent> {
  const flags = octets[1] ?? 0;
  const placeAt = 2 + TAG_OCTETS;
  const batteryAt = placeAt + (flags & HAS_POSITION ? 8 : 0);
  const nameAt = batteryAt + (flags & HAS_BATTERY ? 1 : 0);
  if (octets.length < nameAt) return fail(octets.length, 'an announcement that is cut off');
  const tag = fieldText(octets.subarray(2, placeAt));
  if (!NODE_TAG.test(tag)) return fail(2, 'a tag has one to six capital letters or digits');
  const name = octets.subarray(nameAt);
  if (name.length > MOST_NODE_NAME_OCTETS || !isUtf8(name)) return fail(nameAt, 'the name is too long, or no UTF-8');
  let position: Position | null = null;
  if (flags & HAS_POSITION) {
    const view = new DataView(octets.buffer, octets.byteOffset);
    position = { latitude: view.getInt32(placeAt) / DEGREE, longitude: view.getInt32(placeAt + 4) / DEGREE };
    if (Math.abs(position.latitude) > 90 || Math.abs(position.longitude) > 180)
      return fail(placeAt, 'no place on the earth');
  }
  const batteryPercent = flags & HAS_BATTERY ? octets[batteryAt]! : null;
  if (batteryPercent !== null && batteryPercent > 100) return fail(batteryAt, 'a battery holds at most 100 %');
  return ok({
    kind: 'announcement',
    tag,
    name: textOfOctets(name),
    carrier: (flags & CARRIER) !== 0,
    position,
    batteryPercent,
  });
}
