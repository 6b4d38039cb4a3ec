import { fail, ok, type Parsed } from '../result';
import { formatAddress, isCallOctet, type Address } from './address';

/** AX.25 v2.2 §3.12, with up to 8 repeaters as v2.0 stations use them. Octets are without FCS. */
export const MAX_REPEATERS = 8;
export const CONTROL_UI = 0x03;
export const PID_NO_LAYER_3 = 0xf0;

const ADDRESS_OCTETS = 7;
const SPACE = 0x20;
/** The two reserved bits of an SSID octet are sent as 1 (§3.12.2). */
const RESERVED = 0b0110_0000;
const TOP_BIT = 0x80;

/** A repeater in the path; `repeated` is its H bit. */
export interface Repeater extends Address {
  readonly repeated: boolean;
}

export interface Ax25Frame {
  readonly destination: Address;
  readonly source: Address;
  /** The C bits (§6.1.2): destination set and source clear is a command, the reverse a response. */
  readonly commandBits: { readonly destination: boolean; readonly source: boolean };
  readonly repeaters: readonly Repeater[];
  readonly control: number;
  /** Present in I and UI frames only. */
  readonly pid: number | null;
  readonly info: Uint8Array;
}

/** Frame kinds of §4.3, told from a modulo-8 control octet. */
export type FrameKind =
  | { readonly type: 'I'; readonly ns: number; readonly nr: number; readonly pollFinal: boolean }
  | {
      readonly type: 'RR' | 'RNR' | 'REJ' | 'SREJ';
      readonly nr: number;
      readonly pollFinal: boolean;
    }
  | {
      readonly type: 'SABM' | 'SABME' | 'DISC' | 'DM' | 'UA' | 'FRMR' | 'UI' | 'XID' | 'TEST';
      readonly pollFinal: boolean;
    }
  | { readonly type: 'unknown'; readonly pollFinal: boolean };

const SUPERVISORY = ['RR', 'RNR', 'REJ', 'SREJ'] as const;
const UNNUMBERED: Readonly<Record<number, 'SABM' | 'SABME' | 'DISC' | 'DM' | 'UA' | 'FRMR' | 'UI' | 'XID' | 'TEST'>> = {
  0x2f: 'SABM',
  0x6f: 'SABME',
  0x43: 'DISC',
  0x0f: 'DM',
  0x63: 'UA',
  0x87: 'FRMR',
  0x03: 'UI',
  0xaf: 'XID',
  0xe3: 'TEST',
};

/** Kind, sequence numbers and P/F bit of a modulo-8 control octet (§4.2, §4.3). */
export function frameKind(control: number): FrameKind {
  const pollFinal = (control & 0x10) !== 0;
  if ((control & 1) === 0) return { type: 'I', ns: (control >> 1) & 7, nr: (control >> 5) & 7, pollFinal };
  if ((control & 3) === 1) return { type: SUPERVISORY[(control >> 2) & 3]!, nr: (control >> 5) & 7, pollFinal };
  return { type: UNNUMBERED[control & ~0x10] ?? 'unknown', pollFinal };
}

export type FrameRole = 'command' | 'response' | 'earlier version';

/** Command, response, or – both C bits alike – a station that speaks a version before 2.0. */
export function frameRole({ commandBits }: Ax25Frame): FrameRole {
  if (commandBits.destination === commandBits.source) return 'earlier version';
  return commandBits.destination ? 'command' : 'response';
}

/** A UI frame as a command with PID 0xF0, no repeater used yet. */
export function uiFrame(source: Address, destination: Address, path: readonly Address[], info: Uint8Array): Ax25Frame {
  return {
    source,
    destination,
    commandBits: { destination: true, source: false },
    repeaters: path.map((hop) => ({ call: hop.call, ssid: hop.ssid, repeated: false })),
    control: CONTROL_UI,
    pid: PID_NO_LAYER_3,
    info,
  };
}

function putAddress(out: Uint8Array, at: number, address: Address, top: boolean, last: boolean) {
  for (let i = 0; i < 6; i++) {
    const char = i < address.call.length ? address.call.charCodeAt(i) : SPACE;
    out[at + i] = char << 1;
  }
  out[at + 6] = (top ? TOP_BIT : 0) | RESERVED | (address.ssid << 1) | (last ? 1 : 0);
}

/** Octets of a frame without FCS. Fails when there are too many repeaters or an address does not fit. */
export function encodeFrame(frame: Ax25Frame): Parsed<Uint8Array> {
  const { repeaters, info } = frame;
  if (repeaters.length > MAX_REPEATERS)
    return fail(0, `${repeaters.length} repeaters; a frame carries at most ${MAX_REPEATERS}`);
  for (const address of [frame.destination, frame.source, ...repeaters]) {
    const fits =
      /^[A-Z0-9]{1,6}$/.test(address.call) && Number.isInteger(address.ssid) && address.ssid >= 0 && address.ssid <= 15;
    if (!fits) return fail(0, `${formatAddress(address)} does not fit an AX.25 address`);
  }
  const hasPid = carriesPid(frame.control);
  const head = ADDRESS_OCTETS * (2 + repeaters.length) + 1 + (hasPid ? 1 : 0);
  const out = new Uint8Array(head + info.length);
  putAddress(out, 0, frame.destination, frame.commandBits.destination, false);
  putAddress(out, 7, frame.source, frame.commandBits.source, repeaters.length === 0);
  repeaters.forEach((hop, i) => putAddress(out, 14 + 7 * i, hop, hop.repeated, i === repeaters.length - 1));
  out[ADDRESS_OCTETS * (2 + repeaters.length)] = frame.control;
  if (hasPid) out[head - 1] = frame.pid ?? PID_NO_LAYER_3;
  out.set(info, head);
  return ok(out);
}

const carriesPid = (control: number): boolean => (control & 1) === 0 || (control & ~0x10) === CONTROL_UI;

/**
 * Reads a frame without FCS. Never throws; a failure tells the octet at which reading stopped.
 * The information field is a view on the given octets, not a copy.
 */
export function decodeFrame(octets: Uint8Array): Parsed<Ax25Frame> {
  let addresses = 0;
  for (;;) {
    const ssidAt = addresses * ADDRESS_OCTETS + 6;
    if (ssidAt >= octets.length)
      return fail(
        octets.length,
        addresses === 0 ? 'the frame ends inside its first address' : 'the frame ends before its address field does',
      );
    addresses++;
    if (octets[ssidAt]! & 1) break;
    if (addresses === 2 + MAX_REPEATERS)
      return fail(ssidAt, `the address field goes on past ${MAX_REPEATERS} repeaters`);
  }
  if (addresses < 2) return fail(6, 'the address field ends after the destination');

  const destination = readAddress(octets, 0);
  if (!destination.ok) return destination;
  const source = readAddress(octets, ADDRESS_OCTETS);
  if (!source.ok) return source;
  const repeaters: Repeater[] = [];
  for (let i = 2; i < addresses; i++) {
    const hop = readAddress(octets, i * ADDRESS_OCTETS);
    if (!hop.ok) return hop;
    repeaters.push({
      call: hop.value.call,
      ssid: hop.value.ssid,
      repeated: (octets[i * ADDRESS_OCTETS + 6]! & TOP_BIT) !== 0,
    });
  }

  let at = addresses * ADDRESS_OCTETS;
  if (at >= octets.length) return fail(at, 'the frame ends before its control octet');
  const control = octets[at++]!;
  let pid: number | null = null;
  if (carriesPid(control)) {
    if (at >= octets.length) return fail(at, 'the frame ends before its protocol identifier');
    pid = octets[at++]!;
  }
  return ok({
    destination: destination.value,
    source: source.value,
    commandBits: {
      destination: (octets[6]! & TOP_BIT) !== 0,
      source: (octets[13]! & TOP_BIT) !== 0,
    },
    repeaters,
    control,
    pid,
    info: octets.subarray(at),
  });
}

function readAddress(octets: Uint8Array, at: number): Parsed<Address> {
  let length = 0;
  let padded = false;
  for (let i = 0; i < 6; i++) {
    const octet = octets[at + i]!;
    if (octet & 1) return fail(at + i, 'the address field ends inside a call sign');
    const char = octet >> 1;
    if (char === SPACE) {
      padded = true;
    } else if (!isCallOctet(char)) {
      return fail(at + i, `0x${char.toString(16)} in a call sign is not A–Z, 0–9 or a space`);
    } else if (padded) {
      return fail(at + i, 'a call sign goes on after a space');
    } else {
      length++;
    }
  }
  if (length === 0) return fail(at, 'a call sign is empty');
  return ok({ call: callOf(octets, at, length), ssid: (octets[at + 6]! >> 1) & 0x0f });
}

/** One string at a time: building it letter by letter is what decoding would spend its time on. */
function callOf(octets: Uint8Array, at: number, length: number): string {
  const six = String.fromCharCode(
    octets[at]! >> 1,
    octets[at + 1]! >> 1,
    octets[at + 2]! >> 1,
    octets[at + 3]! >> 1,
    octets[at + 4]! >> 1,
    octets[at + 5]! >> 1,
  );
  return length === 6 ? six : six.slice(0, length);
}
