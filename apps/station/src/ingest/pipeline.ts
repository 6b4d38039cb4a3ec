import { createLife } from '../life';
import { rowsOf } from '../store/database';
import { failpoint } from '../store/failpoints';
import { storeFailure } from '../store/failure';
import type { StoringWatch } from '../store/storing';
import type { Heard } from './heard';
import { ingest, type PipelineContext } from './ingest';
import type { Spool } from './spool';

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
