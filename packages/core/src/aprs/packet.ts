import { formatAddress, parseAddress } from '../link/address';
import { CONTROL_UI, PID_NO_LAYER_3, type Ax25Frame } from '../link/ax25';
import { fail, ok, type Parsed } from '../result';

/** One element of a path; `used` is the H bit of its address (AX.25 v2.2, repeater addresses). */
export interface Hop {
  readonly call: string;
  readonly used: boolean;
  /**
   * Text monitors keep one star, behind the last used element: what stands before it has lost its bit, and only
   * looks used. Absent where the element itself was marked, as each is in a frame.
   */
  readonly implied?: true;
}

/**
 * A packet apart from the bearer that brought it. Calls are texts, because the internet side
 * uses path elements (qAR, lower case, nine characters) that no AX.25 address could carry.
 */
export interface Packet {
  readonly source: string;
  readonly destination: string;
  readonly path: readonly Hop[];
  readonly info: Uint8Array;
}

/** The packet in a UI frame. Fails for frames of connected mode and for other protocols than 0xF0 (Protocol Reference, ch. 3). */
export function packetOfFrame(frame: Ax25Frame): Parsed<Packet> {
  if ((frame.control & ~0x10) !== CONTROL_UI) return fail(0, 'the frame belongs to a connected-mode session');
  if (frame.pid !== PID_NO_LAYER_3)
    return fail(0, `protocol identifier 0x${(frame.pid ?? 0).toString(16).padStart(2, '0')} is not that of APRS, 0xf0`);
  return ok({ ...headOfFrame(frame), info: frame.info });
}

const NOTHING = new Uint8Array(0);

/** Who sends a frame to whom, and over whom: what a frame that carries no packet has in common with those that do. */
export const headOfFrame = (frame: Ax25Frame): Packet => ({
  source: formatAddress(frame.source),
  destination: formatAddress(frame.destination),
  path: frame.repeaters.map((hop) => ({ call: formatAddress(hop), used: hop.repeated })),
  info: NOTHING,
});

/** A command UI frame for a packet; fails when one of its calls cannot be carried by AX.25. */
export function frameOfPacket(packet: Packet): Parsed<Ax25Frame> {
  const source = parseAddress(packet.source);
  if (!source.ok) return source;
  const destination = parseAddress(packet.destination);
  if (!destination.ok) return destination;
  const repeaters = [];
  for (const hop of packet.path) {
    const address = parseAddress(hop.call);
    if (!address.ok) return address;
    repeaters.push({ ...address.value, repeated: hop.used });
  }
  return ok({
    source: source.value,
    destination: destination.value,
    commandBits: { destination: true, source: false },
    repeaters,
    control: CONTROL_UI,
    pid: 0xf0,
    info: packet.info,
  });
}
