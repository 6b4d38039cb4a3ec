import { fail, ok, type Parsed } from '../../result';
import type { Address } from '../address';
import { frameKind, frameRole, PID_NO_LAYER_3, type Ax25Frame } from '../ax25';

/** A frame of a data-link connection, modulo 8, apart from who sends it to whom (AX.25 v2.2 §4.2, §4.3). */
export type LinkFrame = {
  readonly command: boolean;
  /** P in a command, F in a response. */
  readonly pollFinal: boolean;
} & (
  | { readonly type: 'I'; readonly ns: number; readonly nr: number; readonly info: Uint8Array }
  | { readonly type: 'RR' | 'RNR' | 'REJ' | 'SREJ'; readonly nr: number }
  | { readonly type: 'SABM' | 'SABME' | 'DISC' | 'DM' | 'UA' }
  | { readonly type: 'FRMR' | 'XID' | 'TEST'; readonly info: Uint8Array }
);

const SUPERVISORY = { RR: 0x01, RNR: 0x05, REJ: 0x09, SREJ: 0x0d } as const;
const UNNUMBERED = {
  SABM: 0x2f,
  SABME: 0x6f,
  DISC: 0x43,
  DM: 0x0f,
  UA: 0x63,
  FRMR: 0x87,
  XID: 0xaf,
  TEST: 0xe3,
} as const;
const POLL_FINAL = 0x10;

/** The control octet of a link frame. */
export function controlOf(frame: LinkFrame): number {
  const bit = frame.pollFinal ? POLL_FINAL : 0;
  switch (frame.type) {
    case 'I':
      return (frame.nr << 5) | bit | (frame.ns << 1);
    case 'RR':
    case 'RNR':
    case 'REJ':
    case 'SREJ':
      return (frame.nr << 5) | bit | SUPERVISORY[frame.type];
    default:
      return UNNUMBERED[frame.type] | bit;
  }
}

const NOTHING = new Uint8Array(0);

/** Addresses a link frame; `path` are the digipeaters in the order in which they are to repeat it. */
export function addressLinkFrame(
  source: Address,
  destination: Address,
  path: readonly Address[],
  frame: LinkFrame,
): Ax25Frame {
  return {
    source,
    destination,
    commandBits: { destination: frame.command, source: !frame.command },
    repeaters: path.map(({ call, ssid }) => ({ call, ssid, repeated: false })),
    control: controlOf(frame),
    pid: frame.type === 'I' ? PID_NO_LAYER_3 : null,
    info: 'info' in frame ? frame.info : NOTHING,
  };
}

/** The link frame that an AX.25 frame carries; XID and TEST also come without a connection, UI belongs to none. */
export function linkFrameOf(frame: Ax25Frame): Parsed<LinkFrame> {
  const kind = frameKind(frame.control);
  const role = frameRole(frame);
  const { pollFinal } = kind;
  // Stations before version 2.0 do not tell commands from responses: what a frame can only be, it is (§6.1.2).
  const command = role === 'earlier version' ? isCommandByNature(kind.type) : role === 'command';
  switch (kind.type) {
    case 'I':
      return ok({ type: 'I', command, pollFinal, ns: kind.ns, nr: kind.nr, info: frame.info });
    case 'RR':
    case 'RNR':
    case 'REJ':
    case 'SREJ':
      return ok({ type: kind.type, command, pollFinal, nr: kind.nr });
    case 'FRMR':
    case 'XID':
    case 'TEST':
      return ok({ type: kind.type, command, pollFinal, info: frame.info });
    case 'SABM':
    case 'SABME':
    case 'DISC':
    case 'DM':
    case 'UA':
      return ok({ type: kind.type, command, pollFinal });
    default:
      return fail(0, `a ${kind.type} frame belongs to no connection`);
  }
}

const isCommandByNature = (type: string): boolean => ['I', 'SABM', 'SABME', 'DISC', 'XID', 'TEST'].includes(type);
