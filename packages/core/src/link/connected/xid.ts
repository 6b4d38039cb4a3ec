import { fail, ok, type Parsed } from '../../result';

/** What a station offers for a connection (AX.25 v2.2 §4.3.3.7; the octets after ISO 8885, from memory of both). */
export interface LinkOffer {
  readonly selectiveReject: boolean;
  /** I frames that it takes ahead of one that is missing, k of the receiver. */
  readonly window: number;
  /** Octets of an I field that it takes. */
  readonly fieldOctets: number;
}

const FORMAT = 0x82;
const GROUP = 0x80;
const CLASSES = 2;
const FUNCTIONS = 3;
const FIELD_RX = 6;
const WINDOW_RX = 8;

/** Balanced asynchronous mode, half duplex. */
const ABM_HALF_DUPLEX = [0x21, 0x00];
const REJ = 0x02;
const SREJ = 0x04;
const EXTENDED_ADDRESS = 0x80;
/** Modulo 8, TEST, 16-bit FCS. */
const MIDDLE = 0x04 | 0x20 | 0x80;
const SYNCHRONOUS = 0x02;

/** The information field of an XID frame. */
export function encodeXid({ selectiveReject, window, fieldOctets }: LinkOffer): Uint8Array {
  const bits = fieldOctets * 8;
  const parameters = [
    [CLASSES, 2, ...ABM_HALF_DUPLEX],
    [FUNCTIONS, 3, REJ | (selectiveReject ? SREJ : 0) | EXTENDED_ADDRESS, MIDDLE, SYNCHRONOUS],
    [FIELD_RX, 2, (bits >> 8) & 0xff, bits & 0xff],
    [WINDOW_RX, 1, window],
  ].flat();
  return Uint8Array.of(FORMAT, GROUP, parameters.length >> 8, parameters.length & 0xff, ...parameters);
}

/** Reads the information field of an XID frame; what is not told has the defaults of §6.8. */
export function decodeXid(info: Uint8Array): Parsed<LinkOffer> {
  if (info.length < 4 || info[0] !== FORMAT || info[1] !== GROUP) return fail(0, 'not the general format of XID');
  const end = 4 + ((info[2]! << 8) | info[3]!);
  if (end > info.length) return fail(info.length, 'the parameters end before their length says');
  let offer: LinkOffer = { selectiveReject: false, window: 4, fieldOctets: 256 };
  for (let at = 4; at < end;) {
    const [parameter, length] = [info[at]!, info[at + 1]];
    if (length === undefined || at + 2 + length > end) return fail(at, 'a parameter is cut off');
    let value = 0;
    for (let i = 0; i < Math.min(4, length); i++) value = value * 256 + info[at + 2 + i]!;
    if (parameter === FUNCTIONS && length >= 1) offer = { ...offer, selectiveReject: (info[at + 2]! & SREJ) !== 0 };
    if (parameter === FIELD_RX && value >= 8) offer = { ...offer, fieldOctets: Math.floor(value / 8) };
    if (parameter === WINDOW_RX && value >= 1) offer = { ...offer, window: Math.min(7, value) };
    at += 2 + length;
  }
  return ok(offer);
}
