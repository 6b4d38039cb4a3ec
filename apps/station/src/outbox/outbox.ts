import type { DataSource, EntityManager } from 'typeorm';
import { retryDelayMs, type Parsed, type RetryPolicy } from '@tombolo/core';
import { locksOf, type BearerConfig, type Settings } from '@tombolo/contract';
import type { EncodedLeg, OutgoingLeg, Taken } from '../bearers/bearer';
import { rowsOf } from '../store/database';
import type { LegDetail } from '../store/entities';
import { appendEvents } from '../store/events';
import { addEvidence } from '../store/evidence';

/** How long a process may hold a leg between intent and record; after that another takes it up. */
const LEASE_MS = 15_000;
/** Legs are looked for this often even when nobody wakes the outbox. */
const LOOK_EVERY_MS = 1000;
/** A leg due further ahead than this was scheduled by a clock that has since been set back. */
const LONGEST_WAIT_MS = 4 * 3600_000;
/** A text without an acknowledgement: how long hearing it repeated is worth waiting for. */
const LISTEN_MS = 60_000;

export interface OutboxContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly ready: () => { id: string; kind: BearerConfig['kind'] }[];
  readonly encode: (bearerId: string, leg: OutgoingLeg, attempt: number) => Parsed<EncodedLeg>;
  readonly transmit: (bearerId: string, frame: Uint8Array) => Promise<Taken>;
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
}

interface Intent {
  readonly leg: DueLeg;
  readonly attempt: number;
  readonly frame: Uint8Array;
  readonly line: string;
}

/**
 * Carries due legs to their bearers. An attempt is recorded before its frame is handed over and "sent" only
 * when the bearer took it, so that a process killed at any moment leaves a true record behind.
 */
export function createOutbox(context: OutboxContext): Outbox {
  let timer: NodeJS.Timeout | null = null;
  let turn: Promise<void> | null = null;
  let again = false;
  let stopped = false;

  const look = async (): Promise<void> => {
    do {
      again = false;
      try {
        const legs = await claimDue(context);
        await Promise.all(legs.map((leg) => carry(context, leg)));
        if (legs.length > 0) again = true;
      } catch (error) {
        context.log(`outbox: ${(error as Error).message}`);
        return;
      }
    } while (again && !stopped);
  };
  const wake = () => {
    if (stopped) return;
    if (turn) again = true;
    else turn = look().finally(() => (turn = null));
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
      await turn;
    },
  };
}

/** Takes leases on due legs of bearers that can transmit now. */
async function claimDue(context: OutboxContext): Promise<DueLeg[]> {
  const settings = await context.settings();
  const ready = context
    .ready()
    .filter(({ kind }) => locksOf(kind, settings).length === 0)
    .map(({ id }) => id);
  if (ready.length === 0) return [];
  const now = context.now();
  const [rows] = (await context.database.query(
    `update leg set lease_owner = $1, lease_until = $2
     where id in (
       select id from leg
       where next_at is not null and (next_at <= $3 or next_at > $4)
         and (lease_until is null or lease_until < $3 or lease_until > $5) and bearer_id = any($6)
       order by next_at limit 8 for update skip locked)
     returning id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, detail,
       coalesce(detail->>'number', (select number from item where item.id = item_id)) as number`,
    [
      context.owner,
      new Date(now + LEASE_MS),
      new Date(now),
      new Date(now + LONGEST_WAIT_MS),
      new Date(now + 2 * LEASE_MS),
      ready,
    ],
  )) as [DueLeg[], number];
  return rows;
}

async function carry(context: OutboxContext, leg: DueLeg): Promise<void> {
  const intent = await context.database.transaction((manager) => prepare(context, manager, leg));
  if (!intent) return;
  const taken = await context.transmit(leg.bearer_id, intent.frame);
  await context.database.transaction((manager) => record(context, manager, intent, taken));
}

const release = (manager: EntityManager, legId: string, nextAt: Date | null) =>
  manager.query('update leg set next_at = $2, lease_owner = null, lease_until = null where id = $1', [legId, nextAt]);

/**
 * Under the leg's lock: is there something to send at all? An attempt left open by a killed process is
 * recorded as interrupted first. Returns the recorded intent.
 */
async function prepare(context: OutboxContext, manager: EntityManager, leg: DueLeg): Promise<Intent | null> {
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
  const attempts = await rowsOf<{ n: number; kinds: string[] }>(
    manager,
    `select a.n, array_remove(array_agg(e.kind), null) as kinds from attempt a
     left join evidence e on e.leg_id = a.leg_id and e.attempt = a.n
     where a.leg_id = $1 group by a.n order by a.n`,
    [leg.id],
  );
  const last = attempts.at(-1);
  const closed = ['sent', 'interrupted', 'not taken', 'acknowledged', 'rejected'];
  if (last && !last.kinds.some((kind) => closed.includes(kind))) {
    await noteInterruption(context, manager, leg, last.n, at);
    return null;
  }
  const made = attempts.filter(({ kinds }) => !kinds.includes('not taken')).length;
  if (made >= leg.policy.tries) {
    await giveUp(manager, leg, made, at);
    return null;
  }
  const n = (last?.n ?? 0) + 1;
  const encoded = context.encode(leg.bearer_id, outgoing(leg), n);
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
  return { leg, attempt: n, frame, line };
}

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
 * again after a whole interval (the addressee knows it by its number); anything else waits for the operator.
 */
async function noteInterruption(context: OutboxContext, manager: EntityManager, leg: DueLeg, n: number, at: Date) {
  const retryAt = new Date(at.getTime() + retryDelayMs(leg.policy, n, context.random()));
  await addEvidence(
    manager,
    evidenceOfLeg(leg, n, {
      key: `interrupted:${leg.id}:${n}`,
      kind: 'interrupted',
      at,
      note: 'the station stopped while handing the frame over: it may or may not have been transmitted',
      expectBy: leg.acknowledgement_asked ? retryAt : null,
    }),
  );
  await release(manager, leg.id, leg.acknowledgement_asked ? retryAt : null);
  await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
}

async function giveUp(manager: EntityManager, leg: DueLeg, made: number, at: Date) {
  if (leg.acknowledgement_asked)
    await addEvidence(
      manager,
      evidenceOfLeg(leg, made, {
        key: `expired:${leg.id}`,
        kind: 'expired',
        at,
        note: `${made} ${made === 1 ? 'try' : 'tries'}, no acknowledgement`,
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
  if (!taken.taken) {
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `not taken:${leg.id}:${attempt}`,
        kind: 'not taken',
        at,
        note: taken.reason,
      }),
    );
    await release(manager, leg.id, current?.next_at ? new Date(now + 2000) : null);
  } else if (leg.role === 'convey') {
    const waitMs = leg.acknowledgement_asked ? retryDelayMs(leg.policy, attempt, context.random()) : LISTEN_MS;
    const expectBy = new Date(now + waitMs);
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `sent:${leg.id}:${attempt}`,
        kind: 'sent',
        at,
        by: leg.from_call,
        raw: intent.line,
        note: 'the equipment took it',
        expectBy,
      }),
    );
    // Answered or cancelled while the frame was handed over: no further try.
    await release(manager, leg.id, current?.next_at ? expectBy : null);
  } else {
    const kind = leg.role === 'reject' ? 'rejected' : 'acknowledged';
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `${kind}:${leg.id}:${attempt}`,
        kind,
        at,
        by: leg.from_call,
        raw: intent.line,
        note: `${leg.role === 'answer' ? 'its question was answered: ' : ''}to ${leg.to_call}; the equipment took it`,
      }),
    );
    await release(manager, leg.id, null);
  }
  await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
}
