import type { Storing } from '@tombolo/contract';
import { createLife } from '../life';
import type { DataSource } from 'typeorm';
import { FAILURE_WORDS, storeFailure } from './failure';

const LOOK_EVERY_MS = 1000;
const ANSWER_WITHIN_MS = 3000;
/** So much is written on trial while the disk is full: less finds room that is of no use. */
const TRIAL_OCTETS = 256 * 1024;

export interface StoringWatch {
  state(): Storing;
  /** Something could not be stored. */
  failed(error: unknown): void;
  /** Something real was stored. While the disk is full that is no more than a remainder that it fitted in. */
  succeeded(): void;
  /** What waits meanwhile, for the state. */
  report(more: Pick<Storing, 'waiting' | 'lost'>): void;
  start(): void;
  stop(): Promise<void>;
}

/**
 * Whether the database stores at present: asked every second, and told by whoever stores. Everybody who looks is told at once, so that
 * nobody believes that what is heard now is in the log.
 */
export function watchStoring(context: {
  readonly database: DataSource;
  readonly now: () => number;
  readonly onChange: (state: Storing) => void;
  readonly log: (message: string) => void;
}): StoringWatch {
  let state: Storing = { storing: true, since: null, reason: null, waiting: 0, lost: 0 };
  let full = false;
  /** An answer to what was asked before something failed says nothing of what is now. */
  let failures = 0;
  const life = createLife();
  let looking: Promise<void> | null = null;
  let toldMs = 0;

  const change = (next: Storing) => {
    const before = state;
    state = next;
    if (life.over) return;
    const turned = before.storing !== next.storing || before.reason !== next.reason;
    // Counts are told now and then, the turn itself at once.
    if (!turned && (next.storing || Date.now() - toldMs < 1000)) return;
    toldMs = Date.now();
    if (turned)
      context.log(
        next.storing
          ? 'storing again'
          : `not storing since ${next.since}: ${next.reason}; what is heard is kept meanwhile`,
      );
    context.onChange(next);
  };
  const failed = (error: unknown) => {
    const failure = storeFailure(error);
    if (failure === 'data') return;
    failures++;
    if (failure === 'full') full = true;
    change({
      ...state,
      storing: false,
      since: state.since ?? new Date(context.now()).toISOString(),
      reason: FAILURE_WORDS[failure],
    });
  };
  const isWell = () => {
    full = false;
    if (!state.storing) change({ ...state, storing: true, since: null, reason: null });
  };

  /** A frozen database takes the question and says nothing. */
  const inTime = <T>(work: Promise<T>) => {
    let late: NodeJS.Timeout;
    work.catch(() => undefined);
    return Promise.race([
      work,
      new Promise<never>((_, reject) => {
        late = setTimeout(() => reject(new Error('connection terminated: no answer')), ANSWER_WITHIN_MS);
      }),
    ]).finally(() => clearTimeout(late));
  };
  const tryToWrite = () =>
    context.database
      .transaction(async (manager) => {
        await manager.query(
          `insert into audit (at, by_whom, what, detail)
           select now(), 'trial', 'trial', string_agg(md5(random()::text || i::text), '') from generate_series(1, $1::int) i`,
          [TRIAL_OCTETS / 32],
        );
        throw new Rollback();
      })
      .catch((error: unknown) => {
        if (!(error instanceof Rollback)) throw error;
      });
  const look = async () => {
    const before = failures;
    try {
      await inTime(full ? tryToWrite() : context.database.query('select 1'));
      if (failures === before) isWell();
    } catch (error) {
      failed(error);
    }
  };

  life.atEnd(() => looking);
  return {
    state: () => state,
    failed,
    succeeded() {
      if (!full) isWell();
    },
    report(more) {
      if (more.waiting !== state.waiting || more.lost !== state.lost) change({ ...state, ...more });
    },
    start() {
      life.every(LOOK_EVERY_MS, () => {
        looking ??= look().finally(() => (looking = null));
      });
    },
    stop: life.end,
  };
}

class Rollback extends Error {}
