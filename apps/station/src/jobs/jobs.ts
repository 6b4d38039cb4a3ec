import type { DataSource } from 'typeorm';
import type { JobKind } from './job';
import { claim, conclude, LEASE_S, putDown, putDownNow, renew } from './occurrences';

const LOOK_EVERY_MS = 500;

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

/**
 * Does what is due by the clock. Each occurrence is a row: one process takes it, renews its claim while it works, and another takes it
 * over when that one was killed. Kinds do not wait for each other; of one kind one occurrence at a time is done.
 */
export function createJobs(context: JobsContext): Jobs {
  const { database, owner, now, log } = context;
  let timer: NodeJS.Timeout | null = null;
  let stopping = false;
  const atWork = new Map<string, Promise<void>>();

  const work = async (kind: JobKind) => {
    await putDown(database, kind, now());
    for (;;) {
      if (stopping) return;
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
        const outcome = await kind.run({ dueAt, stopping: () => stopping || lost });
        await end('done', outcome ?? null);
      } catch (error) {
        log(`${kind.name}: ${(error as Error).message}`);
        await end('failed', (error as Error).message.slice(0, 500));
        throw error;
      } finally {
        clearInterval(renewing);
      }
    }
  };
  const look = () => {
    if (stopping || !context.ready()) return;
    for (const kind of context.kinds) {
      if (atWork.has(kind.name)) continue;
      atWork.set(
        kind.name,
        work(kind)
          .catch(context.failed)
          .finally(() => atWork.delete(kind.name)),
      );
    }
  };

  return {
    start() {
      timer = setInterval(look, LOOK_EVERY_MS);
      look();
    },
    async stop() {
      stopping = true;
      if (timer) clearInterval(timer);
      await Promise.all(atWork.values());
    },
    hurry(kind) {
      putDownNow(database, kind, new Date(now())).then(look, context.failed);
    },
  };
}
