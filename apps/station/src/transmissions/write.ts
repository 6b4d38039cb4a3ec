import { randomUUID } from 'node:crypto';
import type { RetryPolicy } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import type { LegDetail, LegRow } from '../store/entities';
import { addEvidence } from '../store/evidence';

/**
 * The only writer of what goes out. A transmission – a row of `leg` – is due when it has a time, is held for a reason, or is settled;
 * nothing else touches these.
 */
export interface NewTransmission {
  readonly id?: string;
  /** Null for what goes out by itself. */
  readonly itemId: string | null;
  readonly role: LegRow['role'];
  readonly bearerId: string | null;
  readonly fromCall: string;
  readonly toCall: string;
  readonly path?: readonly string[];
  readonly info?: Uint8Array;
  readonly acknowledgementAsked?: boolean;
  readonly policy: RetryPolicy;
  readonly detail?: LegDetail | null;
}

const insert = async (queries: Queries, wanted: NewTransmission, at: Date, nextAt: Date | null): Promise<string> => {
  const id = wanted.id ?? randomUUID();
  await queries.query(
    `insert into leg (id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, created_at, next_at, detail)
     values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13)`,
    [
      id,
      wanted.itemId,
      wanted.role,
      wanted.bearerId,
      wanted.fromCall,
      wanted.toCall,
      wanted.path ?? [],
      Buffer.from(wanted.info ?? new Uint8Array()),
      wanted.acknowledgementAsked ?? false,
      JSON.stringify(wanted.policy),
      at,
      nextAt,
      wanted.detail ? JSON.stringify(wanted.detail) : null,
    ],
  );
  return id;
};

/** Puts a transmission in the queue: it is due at once, or at `dueAt`. */
export const queueTransmission = (queries: Queries, wanted: NewTransmission, at: Date, dueAt = at): Promise<string> =>
  insert(queries, wanted, at, dueAt);

/** Puts a transmission that belongs to no item in the queue, due at `dueAt`; its record says what it is for. */
export async function queueByItself(
  queries: Queries,
  wanted: Omit<NewTransmission, 'itemId'>,
  what: { readonly at: Date; readonly dueAt: Date; readonly by: string; readonly note: string },
): Promise<string> {
  const id = await insert(queries, { ...wanted, itemId: null }, what.at, what.dueAt);
  await addEvidence(queries, {
    key: `queued:${id}`,
    itemId: null,
    legId: id,
    kind: 'queued',
    at: what.at,
    bearer: wanted.bearerId,
    by: what.by,
    note: what.note,
  });
  return id;
}

/** Whether a position, or an answer, of ours waits for a bearer already; what has a record of its own does not count. */
export async function waitsByItself(queries: Queries, role: LegRow['role'], bearerId: string): Promise<boolean> {
  const waiting = await rowsOf(
    queries,
    `select 1 from leg where item_id is null and role = $1 and bearer_id = $2 and next_at is not null
       and (detail is null or detail ? 'emergency') limit 1`,
    [role, bearerId],
  );
  return waiting.length > 0;
}

/** Whether a position of ours, or a call for help, that was queued after `after` went out; null asks for any. */
export async function sentByItselfAfter(queries: Queries, role: LegRow['role'], after: Date | null): Promise<boolean> {
  const rows = await rowsOf(
    queries,
    `select 1 from leg where item_id is null and role = $1 and (detail is null or detail ? 'emergency')
       and ($2::timestamptz is null or created_at > $2)
       and exists (select 1 from evidence e where e.leg_id = leg.id and e.kind = 'sent') limit 1`,
    [role, after],
  );
  return rows.length > 0;
}

/** The road by which something arrived, beside the roads that go out; it is never sent. */
export const recordArrivalRoad = (queries: Queries, road: Omit<NewTransmission, 'role' | 'policy'>, at: Date) =>
  insert(queries, { ...road, role: 'convey', policy: NO_TRIES as RetryPolicy }, at, null);
const NO_TRIES = {};

/**
 * Queues an answer that nobody pressed a key for: once, however often what it answers is heard, while it waits. True when it was queued.
 */
export async function queueAutomatic(queries: Queries, wanted: NewTransmission, at: Date): Promise<boolean> {
  const waiting = await rowsOf(
    queries,
    'select 1 from leg where item_id = $1 and role = $2 and bearer_id = $3 and next_at is not null limit 1',
    [wanted.itemId, wanted.role, wanted.bearerId],
  );
  if (waiting.length > 0) return false;
  await queueTransmission(queries, wanted, at);
  return true;
}

/**
 * Holds an item with its transmissions until the transaction ends; false when there is none. In the order in which a try takes them, so that
 * neither waits for the other in a circle; and no key changes, so that whoever only adds a record to the item is not waited for.
 */
export async function holdItem(queries: Queries, itemId: string): Promise<boolean> {
  await queries.query('select 1 from leg where item_id = $1 order by id for update', [itemId]);
  return (await rowsOf(queries, 'select 1 from item where id = $1 for no key update', [itemId])).length > 0;
}

/** Nothing more is tried for a transmission: it was answered, refused, taken or given up. */
export const settle = (queries: Queries, legId: string): Promise<unknown> =>
  queries.query('update leg set next_at = null, held = null where id = $1', [legId]);

/** The same for all that conveys an item; `direct` spares those that hand it on elsewhere. */
export const settleItem = (queries: Queries, itemId: string, direct: boolean): Promise<unknown> =>
  queries.query(
    `update leg set next_at = null, held = null where item_id = $1 and role = 'convey' and (not $2 or detail is null or (detail ? 'service' and not detail ? 'relay'))`,
    [itemId, direct],
  );

/** What conveys an item and waits for its next try is due now. */
export const hasten = (queries: Queries, itemId: string, at: Date): Promise<unknown> =>
  queries.query(
    `update leg set next_at = $2 where item_id = $1 and role = 'convey' and next_at > $2 and (lease_until is null or lease_until < $2)`,
    [itemId, at],
  );

/** Gives up the lease on a transmission, due again at `nextAt` or settled. */
export const release = (queries: Queries, legId: string, nextAt: Date | null): Promise<unknown> =>
  queries.query('update leg set next_at = $2, lease_owner = null, lease_until = null where id = $1', [legId, nextAt]);

/** Changes what a bearer has to know besides, and whether it is due again. */
export const renew = (
  queries: Queries,
  legId: string,
  nextAt: Date | null,
  detail: Partial<LegDetail>,
): Promise<unknown> =>
  queries.query(
    `update leg set next_at = $2, detail = case when $3::jsonb = '{}' then detail else coalesce(detail, '{}') || $3::jsonb end
     where id = $1`,
    [legId, nextAt, JSON.stringify(detail)],
  );

/** Sends it over another path than it was queued with. */
export const sendOver = (queries: Queries, legId: string, path: readonly string[]): Promise<unknown> =>
  queries.query('update leg set path = $2 where id = $1', [legId, path]);

/** Lets go what a restored copy held back. */
export const releaseHeld = (queries: Queries, itemId: string): Promise<unknown> =>
  queries.query('update leg set held = null where item_id = $1 and held is not null', [itemId]);

/** A leg that will be sent, or sent again: one whose tries are made is only listened for until its time is over. */
export const STILL_GOES_OUT = `leg.next_at is not null and coalesce((leg.policy->>'tries')::int, 1) >
  (select count(*) from evidence e where e.leg_id = leg.id and e.kind = 'sent')`;

/** How many wait to go out, in all. */
export async function waitingInAll(queries: Queries): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    queries,
    `select count(*)::int as n from leg where held is null and ${STILL_GOES_OUT}`,
  );
  return row?.n ?? 0;
}

/** How many wait for a bearer. */
export async function waitingFor(queries: Queries, bearerId: string): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    queries,
    `select count(*)::int as n from leg where bearer_id = $1 and ${STILL_GOES_OUT}`,
    [bearerId],
  );
  return row?.n ?? 0;
}

/**
 * Disarms a restored copy: what would still go out is held for a reason, what is only listened for is over. Takes a plain way to ask, since
 * this is done before the program itself works in that database.
 */
export async function disarm(
  ask: (sql: string, parameters?: unknown[]) => Promise<unknown>,
  reason: string,
): Promise<void> {
  await ask(`update leg set next_at = null where next_at is not null and not (${STILL_GOES_OUT})`);
  await ask('update leg set held = $1, lease_owner = null, lease_until = null where next_at is not null', [reason]);
}
