import type { DataSource, EntityManager } from 'typeorm';
import { retryDelayMs, type RetryPolicy } from '@tombolo/core';
import type { Precedence, Settings } from '@tombolo/contract';
import type { Bearer, EncodedLeg, OutgoingLeg, Taken } from '../bearers/bearer';
import { rowsOf } from '../store/database';
import type { LegDetail } from '../store/entities';
import { appendEvents } from '../store/events';
import { addEvidence } from '../store/evidence';
import { failpoint } from '../store/failpoints';
import { budgetOf, spendAirTime } from './account';
import { release } from './write';

/** How long a process may hold a leg between intent and record before another takes it up; it is renewed while it works. */
const LEASE_MS = 15_000;
const RENEW_LEASE_MS = 5_000;
/** Legs are looked for this often even when nobody wakes the outbox. */
const LOOK_EVERY_MS = 1000;
/** A leg due further ahead than this was scheduled by a clock that has since been set back. */
const LONGEST_WAIT_MS = 4 * 3600_000;
/** A text without an acknowledgement: how long hearing it repeated is worth waiting for. */
const LISTEN_MS = 60_000;
/** An answer that waited longer tells nothing new: the other side has asked again, or given up. (Common practice, no source.) */
export const STALE_ANSWER_MS = 90_000;
/** Of automatic answers this many are looked at for one that the budget allows. */
const MOST_LOOKED_AT = 60;
/** Equipment that could not take a frame so often is not asked again by itself. */
const MOST_NOT_TAKEN = 20;
/** A try of which nobody knows is made again under the same number at least so often in all, where that does no harm. */
const LEAST_HANDED_OVER = 3;

export interface OutboxContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  /** Bearers of this process that may and can transmit now. */
  readonly ready: () => { id: string; bearer: Bearer }[];
  readonly now: () => number;
  readonly random: () => number;
  /** Name of this process on its leases. */
  readonly owner: string;
  readonly log: (message: string) => void;
}

export interface Outbox {
  start(): void;
  /** Looks at once. */
  wake(): void;
  stop(): Promise<void>;
}

interface DueLeg {
  id: string;
  item_id: string;
  role: 'convey' | 'acknowledge' | 'reject' | 'answer';
  bearer_id: string;
  from_call: string;
  to_call: string;
  path: string[];
  info: Buffer;
  acknowledgement_asked: boolean;
  policy: RetryPolicy;
  detail: LegDetail | null;
  number: string | null;
  precedence: Precedence;
}

interface Intent {
  readonly leg: DueLeg;
  readonly attempt: number;
  readonly encoded: EncodedLeg;
}

/**
 * Carries due legs to their bearers, each bearer by itself: one that is slow delays no other. An attempt is recorded before its frame is
 * handed over, and what became of it as soon as that is known, so that a process killed at any moment leaves a true record behind.
 */
export function createOutbox(context: OutboxContext): Outbox {
  const working = new Map<string, Promise<void>>();
  const wakers = new Map<string, () => void>();
  const again = new Set<string>();
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;

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
    while (!stopped) {
      const bearer = bearerOf(id);
      if (!bearer) return;
      again.delete(id);
      const now = context.now();
      const freeAt = bearer.freeAtMs?.(false) ?? 0;
      const urgentAt = bearer.freeAtMs?.(true) ?? 0;
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
    if (stopped) return;
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

  return {
    start() {
      timer = setInterval(wake, LOOK_EVERY_MS);
      wake();
    },
    wake,
    async stop() {
      stopped = true;
      if (timer) clearInterval(timer);
      for (const waker of wakers.values()) waker();
      await Promise.all(working.values());
    },
  };
}

const DUE = `l.next_at is not null and l.held is null and (l.next_at <= $2 or l.next_at > $3)
  and (l.lease_until is null or l.lease_until < $2 or l.lease_until > $4)`;
const COLUMNS = `l.id, l.item_id, l.role, l.bearer_id, l.from_call, l.to_call, l.path, l.info, l.acknowledgement_asked, l.policy, l.detail,
  coalesce(l.detail->>'number', i.number) as number, i.precedence`;
const URGENCY = `case i.precedence when 'emergency' then 0 when 'priority' then 1 when 'welfare' then 2 else 3 end`;

const dueParameters = (id: string, now: number) => [
  id,
  new Date(now),
  new Date(now + LONGEST_WAIT_MS),
  new Date(now + 2 * LEASE_MS),
];

async function somethingIsDue(context: OutboxContext, id: string): Promise<boolean> {
  const rows = await rowsOf(
    context.database,
    `select 1 from leg l where l.bearer_id = $1 and ${DUE} limit 1`,
    dueParameters(id, context.now()),
  );
  return rows.length > 0;
}

/**
 * Takes a lease on the leg that should go out next by a bearer: the urgent first, then answers – the newest first, as far as the budget
 * of automatic air time goes – then texts in their order. With `urgentOnly` the channel is taken, and only an emergency goes in between.
 */
async function claim(context: OutboxContext, id: string, bearer: Bearer, urgentOnly: boolean): Promise<DueLeg | null> {
  const now = context.now();
  await leaveOutStale(context, id, now);
  return context.database.transaction(async (manager) => {
    const [text] = await rowsOf<DueLeg>(
      manager,
      `select ${COLUMNS} from leg l join item i on i.id = l.item_id
       where l.bearer_id = $1 and ${DUE} and l.role = 'convey' and (not $5 or i.precedence = 'emergency')
       order by ${URGENCY}, l.next_at limit 1 for update of l skip locked`,
      [...dueParameters(id, now), urgentOnly],
    );
    const urgent = text && ['emergency', 'priority'].includes(text.precedence);
    const chosen = urgent || urgentOnly ? text : ((await affordable(context, manager, id, bearer, now)) ?? text);
    if (!chosen) return null;
    await manager.query('update leg set lease_owner = $2, lease_until = $3 where id = $1', [
      chosen.id,
      context.owner,
      new Date(now + LEASE_MS),
    ]);
    return chosen;
  });
}

/** The answer that the budget allows, its air time taken from the account. */
async function affordable(
  context: OutboxContext,
  manager: EntityManager,
  id: string,
  bearer: Bearer,
  now: number,
): Promise<DueLeg | null> {
  const answers = await rowsOf<DueLeg>(
    manager,
    `select ${COLUMNS} from leg l join item i on i.id = l.item_id
     where l.bearer_id = $1 and ${DUE} and l.role <> 'convey'
     order by ${URGENCY}, l.created_at desc, l.id limit ${MOST_LOOKED_AT} for update of l skip locked`,
    dueParameters(id, now),
  );
  if (answers.length === 0) return null;
  if (!bearer.air) return answers[0]!;
  const budget = budgetOf(await context.settings());
  const empty = new Set<string>();
  for (const leg of answers) {
    if (leg.role === 'convey' || empty.has(leg.to_call)) continue;
    const encoded = bearer.encode?.(outgoing(leg), 1);
    // What cannot be built costs nothing; it is refused for that reason further on.
    if (!encoded?.ok) return leg;
    const spending = {
      channel: bearer.air.channel(),
      ms: bearer.air.ms(encoded.value.frame),
      what: leg.role,
      askedBy: leg.to_call,
    };
    if (await spendAirTime(manager, spending, budget, now)) return leg;
    empty.add(leg.to_call);
  }
  return null;
}

/** Answers that came too late, for want of air time or because the transmitter was locked, are told as left out. */
async function leaveOutStale(context: OutboxContext, id: string, now: number): Promise<void> {
  const where = `bearer_id = $1 and role <> 'convey' and next_at is not null and created_at < $2
    and (lease_until is null or lease_until < $3)`;
  const stale = [id, new Date(now - STALE_ANSWER_MS), new Date(now)];
  if ((await rowsOf(context.database, `select 1 from leg where ${where} limit 1`, stale)).length === 0) return;
  await context.database.transaction(async (manager) => {
    const legs = await rowsOf<{ id: string; item_id: string; role: DueLeg['role']; to_call: string }>(
      manager,
      `select id, item_id, role, to_call from leg where ${where} limit 500 for update skip locked`,
      stale,
    );
    for (const leg of legs) {
      await addEvidence(manager, {
        key: `left out:${leg.id}`,
        itemId: leg.item_id,
        legId: leg.id,
        kind: 'left out',
        at: new Date(now),
        bearer: id,
        note: `${ANSWER_WORDS[leg.role]} to ${leg.to_call} was not sent: there was no air time for it within ${STALE_ANSWER_MS / 1000} s`,
      });
      await release(manager, leg.id, null);
    }
    const items = new Set(legs.map((leg) => leg.item_id));
    await appendEvents(
      manager,
      [...items].map((item) => ({ type: 'item', data: { id: item } })),
      new Date(now),
    );
  });
}

const ANSWER_WORDS: Readonly<Record<DueLeg['role'], string>> = {
  convey: 'the text',
  acknowledge: 'the acknowledgement',
  reject: 'the rejection',
  answer: 'the answer',
};

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
    const intent = await context.database.transaction((manager) => prepare(context, manager, bearer, leg));
    if (!intent) return;
    failpoint('outbox:intended');
    const taken = bearer.transmit
      ? await bearer.transmit(intent.encoded)
      : { verdict: 'not taken' as const, words: 'that link cannot transmit' };
    failpoint('outbox:handed over');
    await context.database.transaction((manager) => record(context, manager, intent, taken));
    failpoint('outbox:recorded');
  } finally {
    clearInterval(renewing);
  }
}

/**
 * Under the leg's lock: is there something to send at all? An attempt left open by a killed process is
 * recorded as interrupted first. Returns the recorded intent.
 */
async function prepare(
  context: OutboxContext,
  manager: EntityManager,
  bearer: Bearer,
  leg: DueLeg,
): Promise<Intent | null> {
  const now = context.now();
  const at = new Date(now);
  const [current] = await rowsOf<{ next_at: Date | null; lease_owner: string | null }>(
    manager,
    'select next_at, lease_owner from leg where id = $1 for update',
    [leg.id],
  );
  if (current?.lease_owner !== context.owner) return null;
  if (current.next_at === null) {
    // Answered or cancelled in the meantime.
    await release(manager, leg.id, null);
    return null;
  }
  const attempts = await attemptsOf(manager, leg.id);
  const last = attempts.at(-1);
  if (last && !last.kinds.some((kind) => CLOSED.has(kind))) {
    await noteInterruption(context, manager, bearer, leg, last.n, at);
    return null;
  }
  const went = attempts.filter(({ kinds }) => kinds.some((kind) => WENT.has(kind))).length;
  const notTaken = attempts.filter(({ kinds }) => kinds.includes('not taken')).length;
  const handedOver = attempts.length - notTaken;
  const most = bearer.repeatable && went === 0 ? Math.max(leg.policy.tries, LEAST_HANDED_OVER) : leg.policy.tries;
  if (handedOver >= most || notTaken >= MOST_NOT_TAKEN) {
    await giveUp(manager, leg, { handedOver, went, notTaken }, at);
    return null;
  }
  const n = (last?.n ?? 0) + 1;
  const encoded = bearer.encode?.(outgoing(leg), went + 1) ?? {
    ok: false as const,
    error: { at: 0, reason: 'that link cannot transmit' },
  };
  if (!encoded.ok) {
    await addEvidence(
      manager,
      evidenceOfLeg(leg, null, {
        key: `unsendable:${leg.id}`,
        kind: 'refused',
        at,
        by: 'this station',
        note: encoded.error.reason,
      }),
    );
    await release(manager, leg.id, null);
    await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
    return null;
  }
  const { frame, line, identity } = encoded.value;
  await manager.query('insert into attempt (leg_id, n, intended_at, frame, identity) values ($1,$2,$3,$4,$5)', [
    leg.id,
    n,
    at,
    Buffer.from(frame),
    identity,
  ]);
  await addEvidence(
    manager,
    evidenceOfLeg(leg, n, { key: `intended:${leg.id}:${n}`, kind: 'intended', at, raw: line }),
  );
  return { leg, attempt: n, encoded: encoded.value };
}

/** Kinds of evidence that tell how an attempt ended. */
const CLOSED = new Set(['sent', 'interrupted', 'not taken', 'acknowledged', 'rejected']);
/** Of these, those after which it is on its way. */
const WENT = new Set(['sent', 'acknowledged', 'rejected']);

const attemptsOf = (manager: EntityManager, legId: string) =>
  rowsOf<{ n: number; kinds: string[] }>(
    manager,
    `select a.n, array_remove(array_agg(e.kind), null) as kinds from attempt a
     left join evidence e on e.leg_id = a.leg_id and e.attempt = a.n
     where a.leg_id = $1 group by a.n order by a.n`,
    [legId],
  );

const outgoing = (leg: DueLeg): OutgoingLeg => ({
  id: leg.id,
  fromCall: leg.from_call,
  toCall: leg.to_call,
  path: leg.path,
  info: leg.info,
  detail: leg.detail,
  number: leg.number,
});

const evidenceOfLeg = <T extends object>(leg: DueLeg, attempt: number | null, more: T) => ({
  itemId: leg.item_id,
  legId: leg.id,
  attempt,
  bearer: leg.bearer_id,
  ...more,
});

/**
 * The station stopped between intent and record: nobody knows whether the frame went out. A numbered text is tried
 * again after a whole interval (the addressee knows it by its number), and so is what goes out once however often it is handed over;
 * anything else waits for the operator.
 */
async function noteInterruption(
  context: OutboxContext,
  manager: EntityManager,
  bearer: Bearer,
  leg: DueLeg,
  n: number,
  at: Date,
) {
  const again = leg.acknowledgement_asked || bearer.repeatable === true;
  const waitMs = bearer.repeatable ? 1000 : retryDelayMs(leg.policy, n, context.random());
  const retryAt = new Date(at.getTime() + waitMs);
  await addEvidence(
    manager,
    evidenceOfLeg(leg, n, {
      key: `interrupted:${leg.id}:${n}`,
      kind: 'interrupted',
      at,
      note: 'the station stopped while handing the frame over: it may or may not have been transmitted',
      expectBy: again ? retryAt : null,
    }),
  );
  await release(manager, leg.id, again ? retryAt : null);
  await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
}

async function giveUp(
  manager: EntityManager,
  leg: DueLeg,
  { handedOver, went, notTaken }: { handedOver: number; went: number; notTaken: number },
  at: Date,
) {
  const tries = `${handedOver} ${handedOver === 1 ? 'try' : 'tries'}`;
  if (leg.acknowledgement_asked || went === 0)
    await addEvidence(
      manager,
      evidenceOfLeg(leg, null, {
        key: `expired:${leg.id}`,
        kind: 'expired',
        at,
        note:
          handedOver === 0
            ? `the equipment could not take it ${notTaken} times`
            : went === 0
              ? `${tries}, of none of which it is known whether it went out`
              : `${tries}, no acknowledgement`,
      }),
    );
  await release(manager, leg.id, null);
  await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
}

async function record(context: OutboxContext, manager: EntityManager, intent: Intent, taken: Taken): Promise<void> {
  const { leg, attempt } = intent;
  const now = context.now();
  const at = new Date(now);
  const [current] = await rowsOf<{ next_at: Date | null }>(
    manager,
    'select next_at from leg where id = $1 for update',
    [leg.id],
  );
  const waitMs =
    leg.acknowledgement_asked || taken.verdict === 'unknown'
      ? retryDelayMs(leg.policy, attempt, context.random())
      : LISTEN_MS;
  const expectBy = new Date(now + waitMs);
  // Answered or cancelled while the frame was handed over: no further try.
  const next = (when: Date) => (current?.next_at ? when : null);
  if (taken.verdict === 'not taken') {
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `not taken:${leg.id}:${attempt}`,
        kind: 'not taken',
        at,
        note: taken.words,
      }),
    );
    await release(manager, leg.id, next(new Date(now + 2000)));
  } else if (taken.verdict === 'unknown') {
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `interrupted:${leg.id}:${attempt}`,
        kind: 'interrupted',
        at,
        note: taken.words,
        expectBy,
      }),
    );
    await release(manager, leg.id, next(expectBy));
  } else if (leg.role === 'convey') {
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `sent:${leg.id}:${attempt}`,
        kind: 'sent',
        at,
        by: leg.from_call,
        raw: intent.encoded.line,
        note: taken.words,
        expectBy,
      }),
    );
    await release(manager, leg.id, next(expectBy));
  } else {
    const kind = leg.role === 'reject' ? 'rejected' : 'acknowledged';
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `${kind}:${leg.id}:${attempt}`,
        kind,
        at,
        by: leg.from_call,
        raw: intent.encoded.line,
        note: `${leg.role === 'answer' ? 'its question was answered: ' : ''}to ${leg.to_call}; ${taken.words}`,
      }),
    );
    await release(manager, leg.id, null);
  }
  await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
}
