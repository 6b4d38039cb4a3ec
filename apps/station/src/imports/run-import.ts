import { randomUUID } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import {
  createKissDecoder,
  createLineSplitter,
  createCaptureReader,
  KISS_COMMANDS,
  MAX_MONITOR_LINE,
  textOfOctets,
} from '@tombolo/core';
import type { ImportFormat } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { discardUnfinishedMaps } from '../maps/store';
import type { Heard } from '../ingest/heard';
import { ingestUnderstood, type PipelineContext } from '../ingest/ingest';
import { understand, type Understood } from '../ingest/understand';
import { ImportEntity } from '../store/entities';
import { rowsOf, storable } from '../store/database';
import { appendEvents } from '../store/events';

/** Small enough that storing a batch holds up nothing else. */
const BATCH = 500;
const PROGRESS_EVERY_MS = 500;

/** Cuts a recording into receptions; a failure ends the import with a reason, what was read before stays. */
interface Cutter {
  push(chunk: Uint8Array): { heard: Heard[]; problem?: string };
  end(): Heard[];
}

/** KISS streams carry no times: one frame a second from the start, so that copies stay beside each other. */
const KISS_SPACING_MS = 1000;

/** `2026-01-01T10:00:00Z ` or `2026-01-01 10:00:00 ` in front of a monitor line. */
const LINE_TIME = /^(\d{4}-\d\d-\d\d)[T ](\d\d:\d\d:\d\d(?:\.\d{1,6})?)Z?\s+/;
const LONGEST_TIME = 40;

export function createCutter(format: ImportFormat, importId: string, startedAtMs: number): Cutter {
  const common = { bearerId: null, importId, port: null };
  let clock = startedAtMs;
  switch (format) {
    case 'kiss': {
      const decoder = createKissDecoder();
      const heardOf = (events: ReturnType<typeof decoder.push>): Heard[] =>
        events.flatMap((event): Heard[] => {
          const at = { ...common, form: 'ax25' as const, heardAtMs: clock };
          if (event.kind === 'garbage') return [{ ...at, raw: event.octets, fault: { at: 0, reason: event.reason } }];
          if (event.command !== KISS_COMMANDS.data)
            return [
              {
                ...at,
                port: event.port,
                raw: event.data,
                fault: { at: 0, reason: `KISS command ${event.command}, not a data frame` },
              },
            ];
          clock += KISS_SPACING_MS;
          return [{ ...at, port: event.port, raw: event.data }];
        });
      return { push: (chunk) => ({ heard: heardOf(decoder.push(chunk)) }), end: () => heardOf(decoder.end()) };
    }
    case 'pcap': {
      const reader = createCaptureReader();
      const heardOf = (
        record:
          | ReturnType<typeof reader.end>[number]
          | { kind: 'record'; at: number; atMs: number; port: number; frame: Uint8Array },
      ): Heard => {
        if (record.kind === 'record') {
          clock = record.atMs;
          return { ...common, form: 'ax25', port: record.port, raw: record.frame, heardAtMs: record.atMs };
        }
        const reason = `at octet ${record.at}: ${record.reason}`;
        return {
          ...common,
          form: 'ax25',
          raw: record.octets,
          heardAtMs: record.atMs ?? clock,
          fault: { at: 0, reason },
        };
      };
      return {
        push: (chunk) => {
          const records = reader.push(chunk);
          return records.ok ? { heard: records.value.map(heardOf) } : { heard: [], problem: records.error.reason };
        },
        end: () => reader.end().map(heardOf),
      };
    }
    case 'monitor': {
      const splitter = createLineSplitter(MAX_MONITOR_LINE + LONGEST_TIME);
      const heardOf = (lines: ReturnType<typeof splitter.push>): Heard[] =>
        lines.flatMap(({ octets, overlong, at }): Heard[] => {
          if (octets.length === 0 || octets[0] === 0x23) return [];
          const time = LINE_TIME.exec(textOfOctets(octets.subarray(0, LONGEST_TIME)));
          const parsed = time ? Date.parse(`${time[1]}T${time[2]}Z`) : NaN;
          if (!Number.isNaN(parsed)) clock = parsed;
          const raw = time ? octets.subarray(time[0].length) : octets;
          return [
            {
              ...common,
              form: 'line',
              raw,
              heardAtMs: clock,
              ...(overlong && {
                fault: {
                  at: MAX_MONITOR_LINE,
                  reason: `the line at octet ${at} is longer than ${MAX_MONITOR_LINE} octets; its beginning was kept`,
                },
              }),
            },
          ];
        });
      return { push: (chunk) => ({ heard: heardOf(splitter.push(chunk)) }), end: () => heardOf(splitter.end()) };
    }
  }
}

/** So many different reasons are told apart; a hostile recording could make one for each packet. */
const MOST_REASONS = 60;

function tally(counts: Record<string, number>, what: string): void {
  const name = what in counts || Object.keys(counts).length < MOST_REASONS ? what : 'other reasons';
  counts[name] = (counts[name] ?? 0) + 1;
}

/** Understood a few at a time, so that the database, which has other answers for this process meanwhile, is not kept waiting for its next question. */
async function understoodBetween(heard: readonly Heard[]): Promise<Understood[]> {
  const all: Understood[] = [];
  for (const [n, one] of heard.entries()) {
    all.push(understand(one));
    if (n % AT_ONCE === AT_ONCE - 1) await setImmediate();
  }
  return all;
}
const AT_ONCE = 20;

export interface ImportRequest {
  readonly name: string;
  readonly format: ImportFormat;
  readonly startedAtMs: number;
  readonly totalOctets: number | null;
}

/**
 * Reads a recording through the ingest pipeline, batch by batch: the stream is read no further than the batch behind the one that is
 * being stored, so memory stays flat. Returns the id of the import; progress goes out as events.
 */
export async function runImport(
  context: PipelineContext & { database: DataSource },
  request: ImportRequest,
  chunks: AsyncIterable<Uint8Array>,
): Promise<string> {
  const id = randomUUID();
  const { database, now } = context;
  const imports = database.getRepository(ImportEntity);
  const counts = {
    readOctets: 0,
    understood: 0,
    notUnderstood: 0,
    packets: 0,
    kinds: {} as Record<string, number>,
    reasons: {} as Record<string, number>,
  };
  await imports.insert({
    id,
    name: request.name,
    format: request.format,
    startedAt: new Date(now()),
    finishedAt: null,
    totalOctets: request.totalOctets === null ? null : String(request.totalOctets),
    ...counts,
    readOctets: '0',
    problem: null,
    removedAt: null,
    touchedAt: new Date(now()),
  });
  const tell = async (more: { finishedAt?: Date; problem?: string | null } = {}) => {
    await database.transaction(async (manager) => {
      await manager
        .getRepository(ImportEntity)
        .update({ id }, { ...counts, readOctets: String(counts.readOctets), touchedAt: new Date(now()), ...more });
      await appendEvents(manager, [{ type: 'import', data: { id } }], new Date(now()));
    });
  };
  await tell();

  const cutter = createCutter(request.format, id, request.startedAtMs);
  let waiting: Heard[] = [];
  let toldAt = now();
  const keep = async (batch: readonly Understood[]) => {
    for (const { understood, isNewPacket } of await ingestUnderstood(context, batch)) {
      if (understood.error) {
        counts.notUnderstood++;
        tally(counts.reasons, storable(understood.error.reason));
      } else counts.understood++;
      if (!isNewPacket) continue;
      counts.packets++;
      if (!understood.error) tally(counts.kinds, understood.kind);
    }
    if (now() - toldAt > PROGRESS_EVERY_MS) {
      toldAt = now();
      await tell();
    }
  };
  // While the database stores one batch, the next is read and understood; no more, so that memory stays flat.
  let kept = Promise.resolve();
  const store = async (least: number) => {
    while (waiting.length >= least && waiting.length > 0) {
      const batch = await understoodBetween(waiting.slice(0, BATCH));
      waiting = waiting.slice(BATCH);
      await kept;
      kept = keep(batch);
      // Told where it is waited for.
      kept.catch(() => undefined);
    }
  };

  let problem: string | null = null;
  try {
    for await (const chunk of chunks) {
      counts.readOctets += chunk.length;
      const cut = cutter.push(chunk);
      for (const heard of cut.heard) waiting.push(heard);
      if (cut.problem !== undefined) {
        problem = cut.problem;
        break;
      }
      await store(BATCH);
    }
    waiting.push(...cutter.end());
    await store(1);
    await kept;
  } catch (error) {
    problem = `the import stopped: ${(error as Error).message}; what was read before was kept`;
    context.log(problem);
    // What is being stored still counts.
    await kept.catch(() => undefined);
  }
  await tell({ finishedAt: new Date(now()), problem });
  context.onStored();
  return id;
}

/** An import that told nothing for so long is not being read any more. */
const SILENT_FOR_MS = 60_000;
/** A map that is not whole after so long will not become so. */
const UNFINISHED_FOR_MS = 3600_000;

/** Ends as cut off what a process that was killed was reading, and clears away maps that never became whole. */
export async function closeCutOffUploads(database: DataSource, nowMs: number): Promise<void> {
  const cut = await rowsOf<{ id: string }>(
    database,
    'select id from import_run where finished_at is null and coalesce(touched_at, started_at) < $1',
    [new Date(nowMs - SILENT_FOR_MS)],
  );
  for (const { id } of cut)
    await database.transaction(async (manager) => {
      await manager.getRepository(ImportEntity).update(
        { id },
        {
          finishedAt: new Date(nowMs),
          problem: 'the import was cut off: the station stopped; what was read before was kept',
        },
      );
      await appendEvents(manager, [{ type: 'import', data: { id } }], new Date(nowMs));
    });
  await discardUnfinishedMaps(database, new Date(nowMs - UNFINISHED_FOR_MS));
}
