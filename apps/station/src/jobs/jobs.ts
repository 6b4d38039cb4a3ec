import { QueryFailedError, type DataSource } from 'typeorm';
import { createLife } from '../life';
import { storeFailure } from '../store/failure';
import { lastDueMs, type JobKind } from './job';
import { claim, conclude, LEASE_S, openKinds, putDown, putDownNow, renew } from './occurrences';

const LOOK_EVERY_MS = 1000;

export interface Jobs {
  start(): void;
  /** Ends what is under way and takes nothing more. */
  stop(): Promise<void>;
  /** One more occurrence of a kind, now. */
  hurry(kind: string): void;
}

export interface JobsContext {
  readonly database: DataSource;
  readonly kinds: readonly JobKind[];
  /** Of this process. */
  readonly owner: string;
  readonly now: () => number;
  /** While the database is away nothing is looked for. */
  readonly ready: () => boolean;
  readonly failed: (error: unknown) => void;
  readonly log: (message: string) => void;
}

/** A disk that is full elsewhere, or two that wait for each other, say nothing about whether the database stores. */
const tellsOfStore = (error: unknown): boolean => {
  const failure = storeFailure(error);
  return failure === 'away' || (failure === 'full' && error instanceof QueryFailedError);
};

/**
 * Does what is due by the clock. Each occurrence is a row: one process takes it, renews its claim while it works, and another takes it
 * over when that one was killed. Kinds do not wait for each other; of one kind one occurrence at a time is done.
 */
export function createJobs(context: JobsContext): Jobs {
  const { database, owner, now, log } = context;
  const life = createLife();
  let looking: Promise<void> | null = null;
  const atWork = new Map<string, Promise<void>>();
  /** Up to when occurrences were put down, so that the database is asked only when the next one is due. */
  const putDownTo = new Map<string, number>();

  const work = async (kind: JobKind) => {
    for (;;) {
      if (life.over) return;
      const claimed = await claim(database, kind.name, owner, new Date(now()));
      if (!claimed) return;
      const { dueAt } = claimed;
      let lost = false;
      const renewing = setInterval(
        () => {
          renew(database, kind.name, dueAt, owner).then(
            (kept) => (lost ||= !kept),
            () => undefined,
          );
        },
        (LEASE_S * 1000) / 3,
      );
      const end = (state: 'done' | 'failed', outcome: string | null) =>
        conclude(database, kind.name, dueAt, owner, { state, outcome, at: new Date(now()) });
      try {
        const outcome = await kind.run({ dueAt, stopping: () => life.over || lost });
        await end('done', outcome ?? null);
      } catch (error) {
        log(`${kind.name}: ${(error as Error).message}`);
        // What a job stumbles over is its own, unless the database is gone for everybody.
        if (tellsOfStore(error)) context.failed(error);
        await end('failed', (error as Error).message.slice(0, 500));
      } finally {
        clearInterval(renewing);
      }
    }
  };
  const take = (kind: JobKind) => {
    if (life.over || atWork.has(kind.name)) return;
    const working = work(kind)
      .catch(context.failed)
      .finally(() => atWork.delete(kind.name));
    atWork.set(kind.name, working);
  };
  const lookOnce = async () => {
    for (const kind of context.kinds) {
      const dueMs = lastDueMs(kind.everyMs, now());
      if (putDownTo.get(kind.name) === dueMs) continue;
      await putDown(database, kind, now());
      putDownTo.set(kind.name, dueMs);
    }
    const open = await openKinds(database);
    for (const kind of context.kinds) if (open.has(kind.name)) take(kind);
  };
  const look = () => {
    if (life.over || !context.ready()) return;
    looking ??= lookOnce()
      .catch(context.failed)
      .finally(() => (looking = null));
  };

  life.atEnd(() => Promise.all(atWork.values()));
  life.atEnd(() => looking);
  return {
    start() {
      life.every(LOOK_EVERY_MS, look);
      look();
    },
    stop: life.end,
    hurry(kind) {
      putDownNow(database, kind, new Date(now())).then(look, context.failed);
    },
  };
}
