import { createLife } from '../life';
import { failpoint } from '../store/failpoints';
import { within } from '../within';
import type { Bearer } from './bearer';
import { prepare, record } from './attempt';
import { claim, LEASE_MS, somethingIsDue, urgentIsDue } from './claim';
import type { DueLeg, OutboxContext } from './due';
import { sendOver } from './write';

const RENEW_LEASE_MS = 5_000;
/** Legs are looked for this often even when nobody wakes the outbox. */
const LOOK_EVERY_MS = 1000;
/** So long connections give way to what is urgent; it is said anew at each look while it waits. */
const GIVE_WAY_MS = 2500;

/** Planning that takes longer is not waited for: all that this bearer has to carry stands behind it. */
const PLANNED_WITHIN_MS = 3000;

export interface Outbox {
  start(): void;
  /** Looks at once. */
  wake(): void;
  stop(): Promise<void>;
}

/**
 * Carries due legs to their bearers, each bearer by itself: one that is slow delays no other. An attempt is recorded before its frame is
 * handed over, and what became of it as soon as that is known, so that a process killed at any moment leaves a true record behind.
 */
export function createOutbox(context: OutboxContext): Outbox {
  const working = new Map<string, Promise<void>>();
  const wakers = new Map<string, () => void>();
  const again = new Set<string>();
  const life = createLife();

  const pause = (id: string, ms: number) =>
    new Promise<void>((resolve) => {
      const late = setTimeout(resolve, ms);
      wakers.set(id, () => {
        clearTimeout(late);
        resolve();
      });
    }).finally(() => wakers.delete(id));
  const bearerOf = (id: string) => context.ready().find((one) => one.id === id)?.bearer;

  const work = async (id: string) => {
    while (!life.over) {
      const bearer = bearerOf(id);
      if (!bearer) return;
      again.delete(id);
      const now = context.now();
      const freeAt = bearer.freeAtMs?.(false) ?? 0;
      const urgentAt = bearer.freeAtMs?.(true) ?? 0;
      if (freeAt > now && bearer.giveWay && (await urgentIsDue(context, id))) bearer.giveWay(now + GIVE_WAY_MS);
      if (urgentAt > now) {
        await pause(id, Math.min(LOOK_EVERY_MS, urgentAt - now));
        continue;
      }
      const leg = await claim(context, id, bearer, freeAt > now);
      if (leg) await carry(context, bearer, leg);
      else if (freeAt > now && (await somethingIsDue(context, id)))
        await pause(id, Math.min(LOOK_EVERY_MS, freeAt - now));
      else if (!again.has(id)) return;
    }
  };
  const wake = () => {
    if (life.over) return;
    for (const { id } of context.ready()) {
      again.add(id);
      wakers.get(id)?.();
      if (working.has(id)) continue;
      working.set(
        id,
        work(id)
          .catch((error: Error) => context.log(`outbox of ${id}: ${error.message}`))
          .finally(() => working.delete(id)),
      );
    }
  };

  life.atEnd(() => {
    for (const waker of wakers.values()) waker();
    return Promise.all(working.values());
  });
  return {
    start() {
      life.every(LOOK_EVERY_MS, wake);
      wake();
    },
    wake,
    stop: life.end,
  };
}

/** Whose planning did not come to an end yet: it holds a connection to the database, and the next would hold another. */
const overdue = new WeakSet<OutboxContext>();

/** The path of an answer, by all that is known when it goes; null where it goes as it was queued. */
async function plannedPath(context: OutboxContext, leg: DueLeg): Promise<readonly string[] | null> {
  // What is repeated for others goes as they asked, and to whom was heard direct just now it goes direct.
  if (leg.role === 'convey' || leg.detail?.repeats || leg.path.length === 0 || overdue.has(context)) return null;
  const asked = context.pathOfAnswer({ bearerId: leg.bearer_id, to: leg.to_call });
  try {
    const path = await within(PLANNED_WITHIN_MS, asked);
    // Air time for the frame as it was queued is taken from the account already: a longer one would go beyond it.
    return path && path.length <= leg.path.length ? path : null;
  } catch (error) {
    context.log(`the path of an answer: ${(error as Error).message}`);
    overdue.add(context);
    void asked.catch(() => undefined).finally(() => overdue.delete(context));
    return null;
  }
}

async function carry(context: OutboxContext, bearer: Bearer, leg: DueLeg): Promise<void> {
  const renewing = setInterval(() => {
    void context.database
      .query('update leg set lease_until = $3 where id = $1 and lease_owner = $2', [
        leg.id,
        context.owner,
        new Date(context.now() + LEASE_MS),
      ])
      .catch(() => undefined);
  }, RENEW_LEASE_MS);
  try {
    const path = await plannedPath(context, leg);
    const intent = await context.database.transaction(async (manager) => {
      const prepared = await prepare(context, manager, bearer, path ? { ...leg, path: [...path] } : leg);
      if (prepared && path) await sendOver(manager, leg.id, path);
      return prepared;
    });
    if (!intent) return;
    failpoint('outbox:intended');
    const taken = bearer.transmit
      ? await bearer.transmit(intent.encoded)
      : { verdict: 'not taken' as const, words: 'that bearer cannot transmit' };
    failpoint('outbox:handed over');
    await context.database.transaction((manager) => record(context, manager, intent, taken));
    failpoint('outbox:recorded');
  } finally {
    clearInterval(renewing);
  }
}
