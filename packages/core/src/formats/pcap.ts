import { FEND } from '../link/kiss';
import { fail, ok, type Parsed } from '../result';

/** Link types of the capture file format (IETF draft-ietf-opsawg-pcaplinktype): AX.25 bare, and with a KISS type octet. */
export const LINKTYPE_AX25 = 3;
export const LINKTYPE_AX25_KISS = 202;

const MAGIC_MICRO = 0xa1b2c3d4;
const MAGIC_NANO = 0xa1b23c4d;
const GLOBAL_HEADER = 24;
const RECORD_HEADER = 16;
/** Longest record that is read; longer ones are a damaged file. */
const MAX_RECORD = 65_535;

/** The 24-octet header of a capture file, little-endian, microsecond times (draft-ietf-opsawg-pcap §4). */
export function pcapHeader(linkType: number = LINKTYPE_AX25_KISS): Uint8Array {
  const view = new DataView(new ArrayBuffer(GLOBAL_HEADER));
  view.setUint32(0, MAGIC_MICRO, true);
  view.setUint16(4, 2, true);
  view.setUint16(6, 4, true);
  view.setUint32(16, MAX_RECORD, true);
  view.setUint32(20, linkType, true);
  return new Uint8Array(view.buffer);
}

/** One record; `frame` is without FCS. With the KISS link type a leading type octet (port, data) is added. */
export function pcapRecord(
  frame: Uint8Array,
  atMs: number,
  linkType: number = LINKTYPE_AX25_KISS,
  port = 0,
): Uint8Array {
  const lead = linkType === LINKTYPE_AX25_KISS ? 1 : 0;
  const out = new Uint8Array(RECORD_HEADER + lead + frame.length);
  const view = new DataView(out.buffer);
  const seconds = Math.floor(atMs / 1000);
  view.setUint32(0, seconds, true);
  view.setUint32(4, Math.round((atMs - seconds * 1000) * 1000), true);
  view.setUint32(8, lead + frame.length, true);
  view.setUint32(12, lead + frame.length, true);
  if (lead) out[RECORD_HEADER] = (port & 0x0f) << 4;
  out.set(frame, RECORD_HEADER + lead);
  return out;
}

export interface PcapRecord {
  readonly kind: 'record';
  /** Octet offset of the record in the file. */
  readonly at: number;
  readonly atMs: number;
  readonly port: number;
  /** The AX.25 octets without FCS. */
  readonly frame: Uint8Array;
}

export interface PcapFault {
  readonly kind: 'fault';
  readonly at: number;
  readonly atMs: number | null;
  readonly octets: Uint8Array;
  readonly reason: string;
}

export interface PcapReader {
  /** Feeds the next piece of the file; fails once, for good, when it is no capture of AX.25. */
  push(chunk: Uint8Array): Parsed<(PcapRecord | PcapFault)[]>;
  end(): PcapFault[];
}

/** A streaming reader for link types 3 and 202, either byte order, microsecond or nanosecond times. */
export function createPcapReader(): PcapReader {
  let pending: Uint8Array = new Uint8Array(0);
  let offset = 0;
  let littleEndian = true;
  let nano = false;
  let linkType = -1;
  let lost = false;

  const readHeader = (view: DataView): Parsed<null> => {
    littleEndian = true;
    let magic = view.getUint32(0, true);
    if (magic !== MAGIC_MICRO && magic !== MAGIC_NANO) {
      littleEndian = false;
      magic = view.getUint32(0, false);
    }
    if (magic !== MAGIC_MICRO && magic !== MAGIC_NANO) return fail(0, 'not a capture file: the magic number is wrong');
    nano = magic === MAGIC_NANO;
    linkType = view.getUint32(20, littleEndian) & 0x0fff_ffff;
    if (linkType !== LINKTYPE_AX25 && linkType !== LINKTYPE_AX25_KISS)
      return fail(20, `link type ${linkType} is not AX.25 (3) or AX.25 with KISS (202)`);
    return ok(null);
  };

  return {
    push(chunk) {
      if (lost) return ok([]);
      const octets = new Uint8Array(pending.length + chunk.length);
      octets.set(pending);
      octets.set(chunk, pending.length);
      const view = new DataView(octets.buffer);
      let at = 0;
      if (linkType < 0) {
        if (octets.length < GLOBAL_HEADER) {
          pending = octets;
          return ok([]);
        }
        const header = readHeader(view);
        if (!header.ok) return header;
        at = GLOBAL_HEADER;
      }
      const out: (PcapRecord | PcapFault)[] = [];
      while (octets.length - at >= RECORD_HEADER) {
        const seconds = view.getUint32(at, littleEndian);
        const fraction = view.getUint32(at + 4, littleEndian);
        const length = view.getUint32(at + 8, littleEndian);
        const original = view.getUint32(at + 12, littleEndian);
        const atMs = seconds * 1000 + fraction / (nano ? 1e6 : 1e3);
        if (length > MAX_RECORD) {
          out.push({
            kind: 'fault',
            at: offset + at,
            atMs: null,
            octets: octets.slice(at, at + RECORD_HEADER),
            reason: `a record of ${length} octets: the file is damaged from here on`,
          });
          lost = true;
          at = octets.length;
          break;
        }
        if (octets.length - at - RECORD_HEADER < length) break;
        const body = octets.slice(at + RECORD_HEADER, at + RECORD_HEADER + length);
        out.push(recordOf(body, offset + at, atMs, original));
        at += RECORD_HEADER + length;
      }
      offset += at;
      pending = octets.slice(at);
      return ok(out);
    },
    end() {
      if (pending.length === 0) return [];
      const reason = linkType < 0 ? 'the file ends inside its header' : 'the file ends inside a record';
      return [{ kind: 'fault', at: offset, atMs: null, octets: pending, reason }];
    },
  };

  function recordOf(body: Uint8Array, at: number, atMs: number, original: number): PcapRecord | PcapFault {
    const fault = (reason: string): PcapFault => ({ kind: 'fault', at, atMs, octets: body, reason });
    if (body.length < original) return fault(`the capture kept ${body.length} of ${original} octets`);
    if (linkType === LINKTYPE_AX25) return { kind: 'record', at, atMs, port: 0, frame: body };
    const type = body[0] ?? FEND;
    if ((type & 0x0f) !== 0 || body.length === 0) return fault('a KISS command, not a data frame');
    return { kind: 'record', at, atMs, port: type >> 4, frame: body.subarray(1) };
  }
}
