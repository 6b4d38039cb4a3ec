import type { DataSource, EntityManager } from 'typeorm';
import { createLife } from '../life';
import type { Settings } from '@tombolo/contract';
import { repeatForOthers } from './repeat';
import { rowsOf } from '../store/database';
import { appendEvents, type NewEvent } from '../store/events';
import { failpoint } from '../store/failpoints';
import { storeFailure } from '../store/failure';
import type { StoringWatch } from '../store/storing';
import { applyToOwnTraffic } from './own-traffic';
import type { Heard } from './heard';
import { applyMesh } from './mesh/apply';
import { deriveAndWatch } from './derived/derive';
import type { Spool } from './spool';
import { storeHeard, type Stored } from './store-heard';
import { understand, type Understood } from './understand';

export interface PipelineContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly answerBearer: (heardOn: string | null) => string | null;
  /** Where we are as far as that is known now: what answers say. */
  readonly positionNow: (settings: Settings) => Settings['position'];
  /** The usual path of the bearer that answers. */
  readonly usualPath: (bearerId: string) => readonly string[];
  readonly now: () => number;
  /** Told when something was stored that may have to be sent. */
  readonly onStored: () => void;
  readonly log: (message: string) => void;
}

/** What the live pipeline needs besides. */
export interface LiveContext extends PipelineContext {
  readonly storing: Pick<StoringWatch, 'failed' | 'succeeded' | 'report'>;
  /** Room on the disk for what is heard while the database is away; null where there is none. */
  readonly spool: Spool | null;
}

const BATCH = 500;
const RETRY_MS = 1000;
/** More than this waiting in memory: whoever brings it should pause. */
export const HIGH_WATER = 4000;
/** More than this is not kept in memory: a frame has a few hundred octets, so this is a few megabytes. */
const MOST_IN_MEMORY = 20_000;

type BeforeCommit = (manager: EntityManager) => Promise<unknown>;
const nothing: BeforeCommit = async () => undefined;

/** Stores one batch with all that follows from it, in one transaction. */
async function storeBatch(
  context: PipelineContext,
  batch: readonly Understood[],
  beforeCommit: BeforeCommit,
): Promise<Stored[]> {
  const settings = await context.settings();
  return context.database.transaction(async (manager) => {
    const stored = await storeHeard(manager, batch, new Date(context.now()));
    const alarms = await deriveAndWatch(manager, stored, settings, new Date(context.now()));
    const itemEvents = await applyToOwnTraffic(manager, stored, {
      settings,
      position: context.positionNow(settings),
      answerBearer: context.answerBearer,
      usualPath: context.usualPath,
      now: context.now,
    });
    const repeats = await repeatForOthers(manager, stored, settings, context.now());
    const meshEvents = await applyMesh(manager, stored, settings);
    await beforeCommit(manager);
    failpoint('ingest:written');
    await appendEvents(
      manager,
      [...heardEvents(stored), ...itemEvents, ...repeats, ...meshEvents, ...alarms],
      new Date(context.now()),
    );
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
 * until the one reception is found, and that one is kept as a failure: no neighbour is lost. `beforeCommit` is part of the last
 * transaction.
 */
export async function ingest(
  context: PipelineContext,
  heard: readonly Heard[],
  beforeCommit: BeforeCommit = nothing,
): Promise<Stored[]> {
  return ingestUnderstood(context, heard.map(understand), beforeCommit);
}

/** The same for what is understood already. */
export async function ingestUnderstood(
  context: PipelineContext,
  batch: readonly Understood[],
  beforeCommit: BeforeCommit = nothing,
): Promise<Stored[]> {
  if (batch.length === 0) return [];
  try {
    return await storeBatch(context, batch, beforeCommit);
  } catch (error) {
    if (storeFailure(error) !== 'data') throw error;
    if (batch.length > 1) {
      const middle = batch.length >> 1;
      const first = await ingestUnderstood(context, batch.slice(0, middle));
      return [...first, ...(await ingestUnderstood(context, batch.slice(middle), beforeCommit))];
    }
    const [only] = batch as [Understood];
    context.log(`a reception could not be stored as understood: ${(error as Error).message}`);
    if (only.heard.fault) throw error;
    const fault = { at: 0, reason: `could not be stored as understood: ${(error as Error).message}` };
    return storeBatch(context, [understand({ ...only.heard, fault })], beforeCommit);
  }
}

export interface Pipeline {
  /**
   * Takes live receptions; they are stored in order, in batches as large as the backlog. False when so much waits that whoever brings
   * them should pause until `ready` calls back.
   */
  push(heard: Heard): boolean;
  /** Calls back when there is room again. */
  ready(callback: () => void): void;
  /** Resolves when nothing is waiting. */
  idle(): Promise<void>;
  /** Stores what a killed process left in the spool, and begins. */
  start(): Promise<void>;
  stop(): Promise<void>;
}

/**
 * From bearers to the database. While that is away, what is heard goes to the spool, which outlives this process; when it is back the
 * spool is stored first. How far it was stored is recorded in the same transaction, so that nothing is stored twice.
 */
export function createPipeline(context: LiveContext): Pipeline {
  const { storing, spool } = context;
  let waiting: Heard[] = [];
  /** While the spool holds anything, all that comes goes behind it: the order stays. */
  let spooling = false;
  let spoolDone = 0;
  let spooled = 0;
  let lost = 0;
  let running: Promise<void> | null = null;
  const life = createLife();
  let pausedOnes: (() => void)[] = [];
  let wakeEarly: (() => void) | null = null;

  const report = () => storing.report({ waiting: waiting.length + spooled, lost });
  const resume = () => {
    if (waiting.length > HIGH_WATER / 2) return;
    const callbacks = pausedOnes;
    pausedOnes = [];
    for (const callback of callbacks) callback();
  };

  /** Into the spool with what waits. Without a spool it stays in memory, as far as that goes. */
  const moveToSpool = async () => {
    while (waiting.length > 0) {
      const batch = waiting.slice(0, BATCH);
      const kept = spool ? await spool.append(batch).catch(() => 0) : 0;
      spooled += kept;
      waiting.splice(0, kept);
      if (kept < batch.length) break;
    }
    if (waiting.length > MOST_IN_MEMORY) {
      // The newest are left out: what was heard first is in order, and told as all there is up to then.
      lost += waiting.length - MOST_IN_MEMORY;
      waiting = waiting.slice(0, MOST_IN_MEMORY);
    }
    report();
  };

  const drainSpool = async () => {
    if (!spool) return;
    const old = spool.filling();
    for (;;) {
      const { heard, done } = await spool.read(spoolDone, BATCH);
      if (heard.length === 0) {
        if (await spool.empty(done)) break;
        continue;
      }
      await ingest(context, heard, (manager) =>
        manager.query(
          `insert into spool_mark (spool, done, at) values ($1, $2, $3)
           on conflict (spool) do update set done = excluded.done, at = excluded.at`,
          [spool.filling(), done, new Date(context.now())],
        ),
      );
      spoolDone = done;
      spooled = Math.max(0, spooled - heard.length);
      storing.succeeded();
      report();
      context.onStored();
    }
    spoolDone = 0;
    spooled = 0;
    await context.database.query('delete from spool_mark where spool = $1', [old]);
  };

  const drain = async () => {
    while (!life.over && (waiting.length > 0 || spooling)) {
      try {
        if (spooling) {
          await moveToSpool();
          await drainSpool();
          spooling = false;
          continue;
        }
        const batch = waiting.slice(0, BATCH);
        failpoint('ingest:heard');
        await ingest(context, batch);
        failpoint('ingest:stored');
        waiting.splice(0, batch.length);
        storing.succeeded();
        context.onStored();
      } catch (error) {
        storing.failed(error);
        const failure = storeFailure(error);
        if (failure === 'other' || failure === 'data') context.log(`storing failed: ${(error as Error).message}`);
        spooling = true;
        await moveToSpool();
        if (!life.over) await pause();
      }
      report();
      resume();
    }
  };
  const pause = () =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, RETRY_MS);
      wakeEarly = () => {
        clearTimeout(timer);
        resolve();
      };
    }).finally(() => (wakeEarly = null));
  const begin = () => {
    running ??= drain().finally(() => {
      running = null;
      resume();
      if ((waiting.length > 0 || spooling) && !life.over) begin();
    });
  };
  /** A database that takes a question and never answers holds `drain`: what comes meanwhile must not pile up in memory. */
  let relieving: Promise<void> | null = null;
  const relieve = () => {
    if (!spool) return;
    relieving ??= (async () => {
      // Behind the batch that is being stored; that one stays in memory until it is known to be stored.
      const later = waiting.splice(BATCH);
      const kept = await spool.append(later).catch(() => 0);
      spooled += kept;
      lost += later.length - kept;
      spooling = true;
      report();
    })().finally(() => (relieving = null));
  };

  life.atEnd(async () => {
    wakeEarly?.();
    await running;
    await relieving;
    // What could not be stored stays in the spool for the next start.
    if (waiting.length > 0) await moveToSpool();
    await spool?.close();
  });
  return {
    push(heard) {
      if (waiting.length > 2 * MOST_IN_MEMORY) {
        lost++;
        report();
        return false;
      }
      waiting.push(heard);
      if (waiting.length > MOST_IN_MEMORY) relieve();
      begin();
      return waiting.length < HIGH_WATER;
    },
    ready(callback) {
      if (waiting.length < HIGH_WATER) callback();
      else pausedOnes.push(callback);
    },
    async idle() {
      while (running) await running;
    },
    async start() {
      if (!spool) return;
      const [mark] = await rowsOf<{ done: string }>(context.database, 'select done from spool_mark where spool = $1', [
        spool.filling(),
      ]);
      spoolDone = Number(mark?.done ?? 0);
      if (spool.from(spoolDone) > 0) {
        spooling = true;
        context.log('what was heard while the database was away is being stored');
        begin();
      }
    },
    stop: life.end,
  };
}
