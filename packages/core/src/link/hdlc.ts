import { hasGoodFcs, withFcs } from './fcs';

/**
 * HDLC framing on the channel (AX.25 v2.2 §3.1, §3.6, §3.8). Bit streams are Uint8Arrays of 0 and 1 in
 * the order in which they are sent: octets least significant bit first.
 */
const FLAG_BITS = [0, 1, 1, 1, 1, 1, 1, 0];
/** §3.9: a frame shorter than 136 bits with its flags is invalid; without flags, 15 octets with FCS. */
export const MIN_FRAME_OCTETS = 15;

/** Number of 0 bits that stuffing inserts: one after each run of five 1s (§3.6). */
export function stuffedBitCount(octets: Uint8Array): number {
  let ones = 0;
  let stuffed = 0;
  for (const octet of octets) {
    for (let bit = 0; bit < 8; bit++) {
      if ((octet >> bit) & 1) {
        if (++ones === 5) {
          stuffed++;
          ones = 0;
        }
      } else ones = 0;
    }
  }
  return stuffed;
}

export interface FlagCounts {
  readonly opening: number;
  readonly closing: number;
}

const ONE_FLAG_EACH: FlagCounts = { opening: 1, closing: 1 };

/** Bits between switch-on and switch-off of a frame given without FCS: flags, stuffed octets, FCS. */
export function onAirBitCount(frame: Uint8Array, flags: FlagCounts = ONE_FLAG_EACH): number {
  const octets = withFcs(frame);
  return 8 * (octets.length + flags.opening + flags.closing) + stuffedBitCount(octets);
}

/** The bit stream of one frame given without FCS. */
export function encodeHdlc(frame: Uint8Array, flags: FlagCounts = ONE_FLAG_EACH): Uint8Array {
  const octets = withFcs(frame);
  const bits = new Uint8Array(onAirBitCount(frame, flags));
  let at = 0;
  const putFlags = (count: number) => {
    for (let i = 0; i < count; i++) for (const bit of FLAG_BITS) bits[at++] = bit;
  };
  putFlags(flags.opening);
  let ones = 0;
  for (const octet of octets) {
    for (let i = 0; i < 8; i++) {
      const bit = (octet >> i) & 1;
      bits[at++] = bit;
      ones = bit ? ones + 1 : 0;
      if (ones === 5) {
        bits[at++] = 0;
        ones = 0;
      }
    }
  }
  putFlags(flags.closing);
  return bits;
}

export type HdlcEvent =
  | { readonly kind: 'frame'; readonly frame: Uint8Array }
  | { readonly kind: 'bad'; readonly reason: string; readonly octets: Uint8Array };

/**
 * Frames (without FCS) between flags in a bit stream. Seven 1s in a row abort a frame (§3.10); a wrong FCS,
 * a length that is not whole octets and a frame that is too short are reported, not dropped.
 */
export function decodeHdlc(bits: Uint8Array): HdlcEvent[] {
  const events: HdlcEvent[] = [];
  let collected: number[] = [];
  let inFrame = false;
  let ones = 0;

  const close = () => {
    // The flag's first seven bits 0111111 were collected as if they were data.
    const body = collected.slice(0, Math.max(0, collected.length - 7));
    collected = [];
    if (!inFrame || body.length === 0) return;
    const octets = new Uint8Array(Math.floor(body.length / 8));
    for (let i = 0; i < octets.length * 8; i++) octets[i >> 3]! |= body[i]! << (i & 7);
    const bad = (reason: string) => events.push({ kind: 'bad', reason, octets });
    if (body.length % 8 !== 0) bad(`${body.length} bits are not whole octets`);
    else if (octets.length < MIN_FRAME_OCTETS) bad(`${octets.length} octets are too short for a frame`);
    else if (!hasGoodFcs(octets)) bad('the frame check sequence is wrong');
    else events.push({ kind: 'frame', frame: octets.slice(0, -2) });
  };

  for (const bit of bits) {
    if (bit) {
      ones++;
      if (ones === 7) {
        inFrame = false;
        collected = [];
      } else if (ones < 7) collected.push(1);
      continue;
    }
    const run = ones;
    ones = 0;
    if (run === 6) {
      close();
      inFrame = true;
    } else if (run !== 5) {
      collected.push(0);
    }
    // run === 5: this 0 was stuffed in.
  }
  return events;
}

/** NRZI (§3.11 of the physical layer): a 0 changes the line, a 1 keeps it. */
export function nrziEncode(bits: Uint8Array, level: 0 | 1 = 0): Uint8Array {
  let line: number = level;
  return bits.map((bit) => (bit ? line : (line ^= 1)));
}

/** Inverse of `nrziEncode` for the same starting level. */
export function nrziDecode(line: Uint8Array, level: 0 | 1 = 0): Uint8Array {
  let before: number = level;
  return line.map((now) => {
    const bit = now === before ? 1 : 0;
    before = now;
    return bit;
  });
}

export interface ChannelTiming {
  readonly baud: number;
  readonly txDelayMs: number;
  readonly txTailMs: number;
}

/** 1200 Bd with the transmit delay of a hand-held or mobile radio that is in good order. */
export const DEFAULT_TIMING: ChannelTiming = { baud: 1200, txDelayMs: 300, txTailMs: 20 };

/** Milliseconds the channel is taken by one frame (given without FCS), exact to the bit. */
export const airTimeMs = (frame: Uint8Array, timing: ChannelTiming = DEFAULT_TIMING): number =>
  timing.txDelayMs + (1000 * onAirBitCount(frame)) / timing.baud + timing.txTailMs;
