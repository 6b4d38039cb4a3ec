/**
 * The frame check sequence of AX.25 v2.2 §3.7: CRC-16/X-25 as in ITU-T X.25 (reflected polynomial
 * 0x1021, initial value and final exclusive-or 0xFFFF).
 */
const table = new Uint16Array(256);
for (let octet = 0; octet < 256; octet++) {
  let crc = octet;
  for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >>> 1) ^ 0x8408 : crc >>> 1;
  table[octet] = crc;
}

/** CRC-16/X-25 of `octets[from..to)`, as a number 0–65535. */
export function fcsOf(octets: Uint8Array, from = 0, to = octets.length): number {
  let crc = 0xffff;
  for (let i = from; i < to; i++) crc = (crc >>> 8) ^ table[(crc ^ octets[i]!) & 0xff]!;
  return crc ^ 0xffff;
}

/** The frame followed by its FCS, low octet first. */
export function withFcs(frame: Uint8Array): Uint8Array {
  const fcs = fcsOf(frame);
  const out = new Uint8Array(frame.length + 2);
  out.set(frame);
  out[frame.length] = fcs & 0xff;
  out[frame.length + 1] = fcs >>> 8;
  return out;
}

/** True when the last two octets are the right FCS of what precedes them. */
export function hasGoodFcs(octets: Uint8Array): boolean {
  const n = octets.length - 2;
  return n >= 0 && fcsOf(octets, 0, n) === (octets[n]! | (octets[n + 1]! << 8));
}
