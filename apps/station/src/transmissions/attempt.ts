import type { EntityManager } from 'typeorm';
import { retryDelayMs } from '@tombolo/core';
import type { Bearer, EncodedLeg } from './bearer';
import type { Taken } from './taken';
import { rowsOf } from '../store/database';
import { appendEvents, transmissionChanged } from '../store/events';
import { addEvidence } from '../store/evidence';
import { outgoing, type DueLeg, type OutboxContext } from './due';
import { spendDuty } from './duty';
import { recordIntent } from './intent';
import { atTheLatest, cannotGo, evidenceOfLeg, giveUp, letPass } from './endings';
import { release } from './write';

/** A text without an acknowledgement: how long hearing it repeated is worth waiting for. */
const LISTEN_MS = 60_000;
/** Equipment that could not take a frame so often is not asked again by itself. */
const MOST_NOT_TAKEN = 20;
/** A try of which nobody knows is made again under the same number at least so often in all, where that does no harm. */
const LEAST_HANDED_OVER = 3;

/** A try that is on record and not handed over yet. */
export interface Intent {
  readonly leg: DueLeg;
  readonly attempt: number;
  readonly encoded: EncodedLeg;
}

/**
 * Under the leg's lock: is there something to send at all? An attempt left open by a killed process is
 * recorded as interrupted first. Returns the recorded intent.
 */
export async function prepare(
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
  if (leg.policy.until && now >= Date.parse(leg.policy.until)) {
    await letPass(manager, leg, leg.policy.until, went, at);
    return null;
  }
  const n = (last?.n ?? 0) + 1;
  const encoded = bearer.encode?.(outgoing(leg), went + 1) ?? {
    ok: false as const,
    error: { at: 0, reason: 'that bearer cannot transmit' },
  };
  if (!encoded.ok) {
    await cannotGo(manager, leg, encoded.error.reason, at);
    return null;
  }
  const { frame, line, identity } = encoded.value;
  if (!(await fitsTheHour(manager, bearer, leg, encoded.value, now))) return null;
  await recordIntent(
    manager,
    { id: leg.id, itemId: leg.item_id, bearerId: leg.bearer_id },
    {
      n,
      at,
      frame,
      identity,
      tuned: bearer.tuned?.() ?? null,
      raw: line,
    },
  );
  return { leg, attempt: n, encoded: encoded.value };
}

/** Takes air time of the hour for a try; what does not fit yet is due again when it does, and its record says so. */
async function fitsTheHour(
  manager: EntityManager,
  bearer: Bearer,
  leg: DueLeg,
  { frame, identity }: EncodedLeg,
  now: number,
): Promise<boolean> {
  const { duty, air } = bearer;
  if (!duty || !air) return true;
  const spending = {
    bearerId: leg.bearer_id,
    subBand: duty.subBand,
    packet: identity.toString(),
    ms: air.ms(frame),
    cause: 'own' as const,
    waitsMs: air.mostWaitMs ?? 0,
  };
  const freeAtMs = await spendDuty(manager, duty, spending, now);
  if (freeAtMs === now) return true;
  const at = new Date(now);
  if (freeAtMs === null) {
    await cannotGo(manager, leg, `it takes longer on the air than ${duty.subBand} allows in an hour`, at);
    return false;
  }
  await addEvidence(
    manager,
    evidenceOfLeg(leg, null, {
      key: `waits:${leg.id}:${freeAtMs}`,
      kind: 'waits',
      at,
      note: `the air time of this hour in ${duty.subBand} is used up: it goes out when enough of it is over, not before ${new Date(freeAtMs).toISOString().slice(11, 16)}Z`,
    }),
  );
  await release(manager, leg.id, atTheLatest(leg, new Date(freeAtMs)));
  await appendEvents(manager, [transmissionChanged(leg)], at);
  return false;
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
  const waitMs = bearer.repeatable ? 1000 : retryDelayMs(leg.policy, n, context.random(), leg.path.length > 0);
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
  await release(manager, leg.id, again ? atTheLatest(leg, retryAt) : null);
  await appendEvents(manager, [transmissionChanged(leg)], at);
}

/** Records what became of a try. */
export async function record(
  context: OutboxContext,
  manager: EntityManager,
  intent: Intent,
  taken: Taken,
): Promise<void> {
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
      ? retryDelayMs(leg.policy, attempt, context.random(), leg.path.length > 0)
      : LISTEN_MS;
  const expectBy = new Date(now + waitMs);
  // Answered or cancelled while the frame was handed over: no further try.
  const next = (when: Date) => (current?.next_at ? atTheLatest(leg, when) : null);
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
  } else if (leg.role === 'convey' || leg.item_id === null) {
    await addEvidence(
      manager,
      evidenceOfLeg(leg, attempt, {
        key: `sent:${leg.id}:${attempt}`,
        kind: 'sent',
        at,
        by: leg.from_call,
        raw: intent.encoded.line,
        note: taken.words,
        expectBy: leg.item_id === null ? null : expectBy,
      }),
    );
    // Nobody answers what belongs to no item; hearing it repeated is taken as it comes.
    await release(manager, leg.id, leg.item_id === null ? null : next(expectBy));
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
  await appendEvents(manager, [transmissionChanged(leg)], at);
}
