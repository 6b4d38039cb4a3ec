/**
 * Octets that come in pieces and are taken from the front. The buffer doubles when it is full, so that what waits is copied a few times
 * in all, however small the pieces are.
 */
export class OctetQueue {
  private buffer = new Uint8Array(1024);
  private data = new DataView(this.buffer.buffer);
  private from = 0;
  private to = 0;
  /** Octets taken so far. */
  taken = 0;
  /** Octets moved inside the buffer so far, for tests of how much work it is. */
  moved = 0;

  get length(): number {
    return this.to - this.from;
  }

  push(chunk: Uint8Array): void {
    if (this.to + chunk.length > this.buffer.length) {
      const kept = this.buffer.subarray(this.from, this.to);
      let size = this.buffer.length;
      while (size < 2 * (kept.length + chunk.length)) size *= 2;
      const grown = new Uint8Array(size);
      grown.set(kept);
      this.moved += kept.length;
      this.buffer = grown;
      this.data = new DataView(grown.buffer);
      this.to -= this.from;
      this.from = 0;
    }
    this.buffer.set(chunk, this.to);
    this.to += chunk.length;
  }

  /** Numbers of what waits, `at` octets from its front. */
  uint32(at: number, little: boolean): number {
    return this.data.getUint32(this.from + at, little);
  }
  uint16(at: number, little: boolean): number {
    return this.data.getUint16(this.from + at, little);
  }
  int64(at: number, little: boolean): bigint {
    return this.data.getBigInt64(this.from + at, little);
  }
  octet(at: number): number {
    return this.buffer[this.from + at]!;
  }

  /** A copy of `count` octets, `at` octets from the front. */
  copy(at: number, count: number): Uint8Array {
    return this.buffer.slice(this.from + at, Math.min(this.from + at + count, this.to));
  }

  /** Lets `count` octets go. */
  skip(count: number): void {
    this.from += count;
    this.taken += count;
  }

  /** Takes `count` octets, a copy of them. */
  take(count: number): Uint8Array {
    const octets = this.buffer.slice(this.from, this.from + count);
    this.from += octets.length;
    this.taken += octets.length;
    return octets;
  }
}
