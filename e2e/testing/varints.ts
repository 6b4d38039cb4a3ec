/** Numbers of seven bits an octet, the lowest first: as tile archives and protocol buffers write them. */
export function varints(values: readonly number[]): Buffer {
  const octets: number[] = [];
  for (let value of values) {
    while (value >= 0x80) {
      octets.push((value & 0x7f) | 0x80);
      value = Math.floor(value / 128);
    }
    octets.push(value);
  }
  return Buffer.from(octets);
}
