import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  createCaptureReader,
  createKissDecoder,
  decodeFrame,
  decodeInformation,
  encodeKiss,
  explainPath,
  packetOfFrame,
  pcapHeader,
  pcapRecord,
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
    againstAnalyser(),
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

const CAPTURED = 200_000;
const FIELDS = ['ax25.src', 'ax25.dst', 'ax25.via1', 'ax25.ctl', 'ax25.pid'];

/**
 * The same capture file read by a general network analyser, which tells five fields of the frame, and by us down to the fields of the
 * information field. Each reads the file whole, in a run of its own; the better one of three of each counts.
 */
function againstAnalyser(): Figure {
  const folder = mkdtempSync(join(tmpdir(), 'tombolo-decode-'));
  try {
    const file = join(folder, 'mixed.pcap');
    const records = Array.from({ length: CAPTURED }, (_, n) => pcapRecord(mixedFrame(n), 1000 * n));
    writeFileSync(file, Buffer.concat([pcapHeader(), ...records]));
    const best = (run: () => void) =>
      Math.min(
        ...[1, 2, 3].map(() => {
          const start = performance.now();
          run();
          return performance.now() - start;
        }),
      );
    const theirs = best(() => {
      const rows = execFileSync('tshark', ['-r', file, '-T', 'fields', ...FIELDS.flatMap((name) => ['-e', name])], {
        maxBuffer: 1 << 30,
        stdio: ['ignore', 'pipe', 'ignore'],
      });
      if (rows.filter((octet) => octet === 0x0a).length !== CAPTURED) throw new Error('the analyser left packets out');
    });
    const ours = best(() => {
      const octets = readFileSync(file);
      const reader = createCaptureReader();
      let understood = 0;
      for (let at = 0; at < octets.length; at += 65_536) {
        const part = reader.push(octets.subarray(at, at + 65_536));
        if (!part.ok) throw new Error(part.error.reason);
        for (const record of part.value) {
          const frame = record.kind === 'record' ? decodeFrame(record.frame) : null;
          const packet = frame?.ok ? packetOfFrame(frame.value) : null;
          if (!packet?.ok || !decodeInformation(packet.value.info, packet.value.destination).ok) continue;
          if (explainPath(packet.value).via.length > 0) understood++;
        }
      }
      if (understood !== CAPTURED) throw new Error(`only ${understood} of ${CAPTURED} packets were understood`);
    });
    return {
      name: 'Reading a capture, as many times as fast as tshark -T fields',
      value: theirs / ours,
      unit: '×',
      goal: 3,
      better: 'more',
      note: `${CAPTURED} packets: ${(theirs / 1000).toFixed(2)} s and ${(ours / 1000).toFixed(2)} s`,
    };
  } finally {
    rmSync(folder, { recursive: true });
  }
}
