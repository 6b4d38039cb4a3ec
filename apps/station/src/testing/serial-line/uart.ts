/** Start bit, eight data bits from the least significant on, stop bit: 8N1 (common practice of serial lines, no source). */
const BITS = 10;

/** Level of the line while octets are sent one behind the other, at a time counted in bits of the sender; it rests at 1. */
function levelAt(octets: Uint8Array, atBits: number): 0 | 1 {
  const n = Math.floor(atBits / BITS);
  if (atBits < 0 || n >= octets.length) return 1;
  const bit = Math.floor(atBits) % BITS;
  if (bit === 0) return 0;
  if (bit === BITS - 1) return 1;
  return ((octets[n]! >> (bit - 1)) & 1) as 0 | 1;
}

/**
 * What a port set to `readBd` makes of octets that are sent at `sentBd`: it waits for the edge of a start bit, then samples in the middle of
 * its own bits. A missing stop bit is passed on as if it were there, as many ports do.
 */
export function readAtSpeed(octets: Uint8Array, sentBd: number, readBd: number): Uint8Array {
  if (sentBd === readBd) return octets;
  const step = sentBd / readBd;
  const end = octets.length * BITS;
  const read: number[] = [];
  // Edges are looked for finer than either bit is long.
  const look = Math.min(1, step) / 8;
  for (let at = 0; at < end;) {
    if (levelAt(octets, at) === 1) {
      at += look;
      continue;
    }
    // A start bit has to last to its middle.
    if (levelAt(octets, at + step / 2) === 1) {
      at += look;
      continue;
    }
    let octet = 0;
    for (let bit = 0; bit < 8; bit++) octet |= levelAt(octets, at + step * (1.5 + bit)) << bit;
    read.push(octet);
    at += step * 9.5;
    // After a missing stop bit it waits until the line rests again.
    while (at < end && levelAt(octets, at) === 0) at += look;
  }
  return Uint8Array.from(read);
}
