import type { DataSource } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import { appendEvents, type NewEvent } from '../store/events';
import { applyToOwnTraffic } from './own-traffic';
import type { Heard } from './heard';
import { deriveAndWatch } from './derived/derive';
import { storeHeard, type Stored } from './store-heard';
import { understand, type Understood } from './understand';

export interface PipelineContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly answerBearer: (heardOn: string | null) => string | null;
  readonly now: () => number;
  /** Told when something was stored that may have to be sent. */
  readonly onStored: () => void;
  readonly log: (message: string) => void;
}

const BATCH = 500;
const RETRY_MS = 1000;

/** Stores one batch with all that follows from it, in one transaction. */
async function storeBatch(context: PipelineContext, batch: readonly Understood[]): Promise<Stored[]> {
  const settings = await context.settings();
  return context.database.transaction(async (manager) => {
    const stored = await storeHeard(manager, batch, new Date(context.now()));
    const alarms = await deriveAndWatch(manager, stored, settings, new Date(context.now()));
    const itemEvents = await applyToOwnTraffic(manager, stored, {
      settings,
      answerBearer: context.answerBearer,
    });
    await appendEvents(manager, [...heardEvents(stored), ...itemEvents, ...alarms], new Date(context.now()));
    return stored;
  });
}

/** Consoles are told of each live packet; of recordings they hear by their progress. */
function heardEvents(stored: readonly Stored[]): NewEvent[] {
  const packets = new Set<string>();
  let failures = 0;
  for (const { understood, packetId } of stored) {
    if (understood.heard.importId !== null) continue;
    if (packetId !== null) packets.add(packetId);
    else failures++;
  }
  const events: NewEvent[] = [...packets].map((id) => ({ type: 'packet', data: { id } }));
  return failures > 0 ? [...events, { type: 'failure', data: { count: failures } }] : events;
}

/**
 * Stores receptions and returns what became of them. When a batch cannot be stored for a reason of its own, it is halved
 * until the one reception is found, and that one is kept as a failure: no neighbour is lost.
 */
export async function ingest(context: PipelineContext, heard: readonly Heard[]): Promise<Stored[]> {
  return storeOrSplit(context, heard.map(understand));
}

async function storeOrSplit(context: PipelineContext, batch: readonly Understood[]): Promise<Stored[]> {
  if (batch.length === 0) return [];
  try {
    return await storeBatch(context, batch);
  } catch (error) {
    if (!isDataError(error)) throw error;
    if (batch.length > 1) {
      const middle = batch.length >> 1;
      const first = await storeOrSplit(context, batch.slice(0, middle));
      return [...first, ...(await storeOrSplit(context, batch.slice(middle)))];
    }
    const [only] = batch as [Understood];
    context.log(`a reception could not be stored as understood: ${(error as Error).message}`);
    if (only.heard.fault) throw error;
    const fault = { at: 0, reason: `could not be stored as understood: ${(error as Error).message}` };
    return storeBatch(context, [understand({ ...only.heard, fault })]);
  }
}

/** PostgreSQL error classes 22 and 23: something about the data, which will not go away by trying again. */
const isDataError = (error: unknown): boolean => {
  const code = (error as { code?: unknown }).code ?? (error as { driverError?: { code?: unknown } }).driverError?.code;
  return typeof code === 'string' && /^2[23]/.test(code);
};

export interface Pipeline {
  /** Takes live receptions; they are stored in order, in batches as large as the backlog. */
  push(heard: Heard): void;
  /** Resolves when nothing is waiting. */
  idle(): Promise<void>;
  stop(): Promise<void>;
}

export function createPipeline(context: PipelineContext): Pipeline {
  const waiting: Heard[] = [];
  let running: Promise<void> | null = null;
  let stopped = false;

  const drain = async () => {
    while (waiting.length > 0) {
      const batch = waiting.slice(0, BATCH);
      try {
        await ingest(context, batch);
        waiting.splice(0, batch.length);
        context.onStored();
      } catch (error) {
        if (stopped) return;
        // The database is away: what was heard waits here.
        context.log(`storing failed, ${waiting.length} receptions wait: ${(error as Error).message}`);
        await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
      }
    }
  };
  const start = () => {
    running ??= drain().finally(() => {
      running = null;
      if (waiting.length > 0 && !stopped) start();
    });
  };

  return {
    push(heard) {
      waiting.push(heard);
      start();
    },
    async idle() {
      while (running) await running;
    },
    async stop() {
      stopped = true;
      await running;
    },
  };
}
