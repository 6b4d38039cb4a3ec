import { pcapHeader, pcapRecord } from '@tombolo/core';
import { runImport } from '../apps/station/src/imports/run-import';
import { createDatabase, startTestStation } from '../apps/station/src/testing/harness';
import type { Figure } from './figure';
import { mixedFrame } from './traffic-mix';

const PACKETS = 100_000;
const PER_CHUNK = 500;
const MEGABYTE = 1024 * 1024;

/** A recording, made while it is read, so that the measured memory is the pipeline's. */
async function* recording(sample: (read: number) => void): AsyncGenerator<Uint8Array> {
  yield pcapHeader();
  const startMs = Date.UTC(2026, 0, 1);
  for (let from = 0; from < PACKETS; from += PER_CHUNK) {
    yield Buffer.concat(
      Array.from({ length: PER_CHUNK }, (_, i) => pcapRecord(mixedFrame(from + i), startMs + (from + i) * 200)),
    );
    sample(from);
  }
}

/** Ingest of a file into PostgreSQL with copy detection, and the memory it takes as it goes. */
export async function ingest(): Promise<Figure[]> {
  const database = await createDatabase();
  const station = await startTestStation(database.url);
  const heaps: { read: number; octets: number }[] = [];
  const sample = (read: number) => {
    if (read % 10_000 !== 0) return;
    globalThis.gc?.();
    heaps.push({ read, octets: process.memoryUsage().heapUsed });
  };
  try {
    const start = performance.now();
    const request = { name: 'bench', format: 'pcap' as const, startedAtMs: 0, totalOctets: null };
    const id = await runImport(station.context.pipeline, request, recording(sample));
    const seconds = (performance.now() - start) / 1000;
    const [row] = await station.context.database.query('select understood, packets from import_run where id = $1', [
      id,
    ]);
    if (row.understood !== PACKETS) throw new Error(`${row.understood} of ${PACKETS} were stored`);
    const early = heaps.find(({ read }) => read === 20_000)!.octets;
    const late = heaps.at(-1)!.octets;
    return [
      {
        name: 'Ingest into PostgreSQL with copies joined',
        value: PACKETS / seconds,
        unit: 'packets/s',
        goal: 4000,
        better: 'more',
        note: `${PACKETS} receptions of ${row.packets} packets from a capture file, making of the file included`,
      },
      {
        name: 'Growth of memory while ingesting',
        value: Math.max(0.1, (late - early) / MEGABYTE),
        unit: 'MB',
        goal: 10,
        better: 'less',
        note: `heap in use at packet 20 000 (${(early / MEGABYTE).toFixed(1)} MB) and 90 000 (${(late / MEGABYTE).toFixed(1)} MB)`,
      },
    ];
  } finally {
    await station.stop();
    await database.drop();
  }
}
