import type { LiveEvent } from '@tombolo/contract';
import { rowsOf, type Queries } from './database';

export const EVENT_CHANNEL = 'tombolo_event';

/** A resource that changed, before its event has a number and, where it counts its states, the number of this one. */
export type NewEvent = LiveEvent extends infer E
  ? E extends LiveEvent
    ? { readonly type: E['type']; readonly data: Omit<E['data'], 'revision'> }
    : never
  : never;

/**
 * Appends events at the end of a transaction. The head row is locked until commit, so numbers have no
 * gaps and become visible in order; call it last, so that the lock is short. Items count their states before: whoever holds an item may wait
 * for the head, so nobody who holds the head may wait for an item.
 */
export async function appendEvents(queries: Queries, events: readonly NewEvent[], at: Date): Promise<void> {
  if (events.length === 0) return;
  const revisions = await nextRevisions(queries, events);
  const dataOf = (event: NewEvent) =>
    event.type === 'item' ? { ...event.data, revision: revisions.get(event.data.id) ?? 0 } : event.data;
  await queries.query(
    `with head as (update event_head set seq = seq + $1 returning seq)
     insert into event (seq, type, at, data)
     select head.seq - $1 + new.n, new.type, $2, new.data
     from head, unnest($3::text[], $4::jsonb[]) with ordinality as new (type, data, n)`,
    [events.length, at, events.map((event) => event.type), events.map((event) => JSON.stringify(dataOf(event)))],
  );
  await queries.query(`select pg_notify('${EVENT_CHANNEL}', '')`);
}

/**
 * Counts one state more of each item that changed; always in the same order, so that two who change several do not wait for each other. No
 * key changes: whoever added a record to an item, which holds its key, need not be waited for, and does not wait in turn.
 */
async function nextRevisions(queries: Queries, events: readonly NewEvent[]): Promise<Map<string, number>> {
  const ids = events.flatMap((event) => (event.type === 'item' ? [event.data.id] : []));
  if (ids.length === 0) return new Map();
  const rows = await rowsOf<{ id: string; revision: string }>(
    queries,
    `update item set revision = revision + 1
     where id in (select id from item where id = any($1::uuid[]) order by id for no key update) returning id, revision`,
    [[...new Set(ids)]],
  );
  return new Map(rows.map(({ id, revision }) => [id, Number(revision)]));
}

/** That a transmission changed: the item that it belongs to, or it by itself. */
export const transmissionChanged = (leg: { readonly id: string; readonly item_id: string | null }): NewEvent =>
  leg.item_id === null ? { type: 'transmission', data: { id: leg.id } } : { type: 'item', data: { id: leg.item_id } };

/** Events after a number, oldest first. */
export async function eventsAfter(queries: Queries, seq: number, limit: number): Promise<LiveEvent[]> {
  const rows = await rowsOf<{ seq: string; type: LiveEvent['type']; at: Date; data: LiveEvent['data'] }>(
    queries,
    'select seq, type, at, data from event where seq > $1 order by seq limit $2',
    [seq, limit],
  );
  return rows.map((row) => ({ ...row, seq: Number(row.seq), at: row.at.toISOString() }) as LiveEvent);
}

export async function lastEvent(queries: Queries): Promise<number> {
  const [row] = await rowsOf<{ seq: string }>(queries, 'select seq from event_head');
  return Number(row?.seq ?? 0);
}

/** The number of the oldest event that is still kept; null when there is none. */
export async function oldestEvent(queries: Queries): Promise<number | null> {
  const [row] = await rowsOf<{ seq: string | null }>(queries, 'select min(seq) as seq from event');
  return row?.seq == null ? null : Number(row.seq);
}

/** Consoles that were away longer than this many events reload instead of resuming. */
export const KEPT_EVENTS = 50_000;

export const pruneEvents = (queries: Queries): Promise<unknown> =>
  queries.query('delete from event where seq <= (select seq from event_head) - $1', [KEPT_EVENTS]);
