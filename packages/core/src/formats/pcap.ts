/** Link types of the capture file format (IETF draft-ietf-opsawg-pcaplinktype): AX.25 bare, and with a KISS type octet. */
export const LINKTYPE_AX25 = 3;
export const LINKTYPE_AX25_KISS = 202;

const MAGIC_MICRO = 0xa1b2c3d4;
const GLOBAL_HEADER = 24;
const RECORD_HEADER = 16;
const SNAPSHOT_OCTETS = 65_535;

/** The 24-octet header of a capture file, little-endian, microsecond times (draft-ietf-opsawg-pcap §4). */
export function pcapHeader(linkType: number = LINKTYPE_AX25_KISS): Uint8Array {
  const view = new DataView(new ArrayBuffer(GLOBAL_HEADER));
  view.setUint32(0, MAGIC_MICRO, true);
  view.setUint16(4, 2, true);
  view.setUint16(6, 4, true);
  view.setUint32(16, SNAPSHOT_OCTETS, true);
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
  // Rounding must not make a whole second of the fraction.
  view.setUint32(4, Math.min(999_999, Math.round((atMs - seconds * 1000) * 1000)), true);
  view.setUint32(8, lead + frame.length, true);
  view.setUint32(12, lead + frame.length, true);
  if (lead) out[RECORD_HEADER] = (port & 0x0f) << 4;
  out.set(frame, RECORD_HEADER + lead);
  return out;
}
