import {
  createKissDecoder,
  decodeFrame,
  decodeInformation,
  encodeKiss,
  explainPath,
  packetOfFrame,
} from '@tombolo/core';
import { median, type Figure } from './figure';
import { mixedFrame } from './traffic-mix';

const PACKETS = 100_000;
const READ_OCTETS = 4096;
const ROUNDS = 5;

/** KISS octets → frames → packets → information fields and paths, on one core. */
export async function decode(): Promise<Figure[]> {
  const chunks = Array.from({ length: PACKETS }, (_, n) => encodeKiss(mixedFrame(n)));
  const stream = Buffer.concat(chunks);
  const rates: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const decoder = createKissDecoder();
    let understood = 0;
    const start = performance.now();
    for (let at = 0; at < stream.length; at += READ_OCTETS) {
      for (const event of decoder.push(stream.subarray(at, at + READ_OCTETS))) {
        if (event.kind !== 'frame') continue;
        const frame = decodeFrame(event.data);
        if (!frame.ok) continue;
        const packet = packetOfFrame(frame.value);
        if (!packet.ok) continue;
        if (
          decodeInformation(packet.value.info, packet.value.destination).ok &&
          explainPath(packet.value).via.length > 0
        )
          understood++;
      }
    }
    rates.push(PACKETS / ((performance.now() - start) / 1000));
    if (understood !== PACKETS) throw new Error(`only ${understood} of ${PACKETS} packets were understood`);
  }
  return [
    {
      name: 'Decode of KISS-framed UI packets',
      value: median(rates),
      unit: 'packets/s',
      goal: 150_000,
      better: 'more',
      note: `median of ${ROUNDS} rounds over ${PACKETS} mixed packets in reads of ${READ_OCTETS} octets`,
    },
  ];
}
