import type { DataSource } from 'typeorm';
import { rowsOf, touchedBy } from '../store/database';
import { JOB_LOCK } from '../store/locks';
import { lastDueMs, type JobKind } from './job';

/** A process that takes an occurrence renews its claim; when it was killed, somebody else takes it after so long. */
export const LEASE_S = 15;

/** Clocks of processes may differ by so much. */
const MOST_SKEW_MS = 60_000;

export interface Claimed {
  readonly dueAt: Date;
  readonly tries: number;
}

/** Puts down the occurrence that is due, and what was missed since the last one. Twice does no more than once. */
export async function putDown(database: DataSource, { name, everyMs, missed }: JobKind, nowMs: number): Promise<void> {
  const dueMs = lastDueMs(everyMs, nowMs);
  await database.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1, hashtext($2))', [JOB_LOCK, name]);
    // A clock that was set back: what means nothing when it is missed begins anew, so that it does not rest until then.
    if (missed === 'forgotten')
      await manager.query('delete from job where kind = $1 and due_at > $2', [name, new Date(nowMs + MOST_SKEW_MS)]);
    const [last] = await rowsOf<{ due_at: Date | null }>(
      manager,
      'select max(due_at) as due_at from job where kind = $1',
      [name],
    );
    // Done already, by this process or by one whose clock is a little ahead.
    if (last?.due_at && last.due_at.getTime() >= dueMs) return;
    await manager.query(`update job set state = 'missed' where kind = $1 and state = 'waiting'`, [name]);
    if (missed === 'recorded' && last?.due_at)
      await manager.query(
        `insert into job (kind, due_at, state)
         select $1, to_timestamp(ms / 1000.0), 'missed' from generate_series($2::bigint, $3::bigint, $4::bigint) ms
         on conflict do nothing`,
        [name, lastDueMs(everyMs, last.due_at.getTime()) + everyMs, dueMs - everyMs, everyMs],
      );
    await manager.query('insert into job (kind, due_at) values ($1, $2) on conflict do nothing', [
      name,
      new Date(dueMs),
    ]);
  });
}

/** Puts down an occurrence for now, beside those of the clock. */
export const putDownNow = (database: DataSource, kind: string, now: Date): Promise<unknown> =>
  database.query('insert into job (kind, due_at) values ($1, $2) on conflict do nothing', [kind, now]);

/** Kinds of which something waits, or was left by a process that was killed. */
export async function openKinds(database: DataSource): Promise<Set<string>> {
  const rows = await rowsOf<{ kind: string }>(
    database,
    `select distinct kind from job where state = 'waiting' or (state = 'running' and lease_until < now())`,
  );
  return new Set(rows.map(({ kind }) => kind));
}

/** Takes what waits of a kind, or what a killed process left; null when there is nothing, or somebody is at it. */
export async function claim(database: DataSource, kind: string, owner: string, now: Date): Promise<Claimed | null> {
  return database.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1, hashtext($2))', [JOB_LOCK, kind]);
    const [open] = await rowsOf<{ due_at: Date; tries: number; at_it: boolean }>(
      manager,
      `select due_at, tries, state = 'running' and lease_until > now() as at_it from job
       where kind = $1 and state in ('waiting', 'running') order by state, due_at limit 1`,
      [kind],
    );
    if (!open || open.at_it) return null;
    await manager.query(
      `update job set state = 'running', owner = $3, lease_until = now() + interval '${LEASE_S} s', tries = tries + 1,
         began_at = $4 where kind = $1 and due_at = $2`,
      [kind, open.due_at, owner, now],
    );
    return { dueAt: open.due_at, tries: open.tries + 1 };
  });
}

/** False when the claim was lost meanwhile. */
export async function renew(database: DataSource, kind: string, dueAt: Date, owner: string): Promise<boolean> {
  const kept = await touchedBy(
    database,
    `update job set lease_until = now() + interval '${LEASE_S} s'
     where kind = $1 and due_at = $2 and owner = $3 and state = 'running'`,
    [kind, dueAt, owner],
  );
  return kept > 0;
}

/** Records what came of it, unless somebody else has taken it over. */
export const conclude = (
  database: DataSource,
  kind: string,
  dueAt: Date,
  owner: string,
  end: { readonly state: 'done' | 'failed'; readonly outcome: string | null; readonly at: Date },
): Promise<unknown> =>
  database.query(
    `update job set state = $4, outcome = $5, ended_at = $6, lease_until = null
     where kind = $1 and due_at = $2 and owner = $3 and state = 'running'`,
    [kind, dueAt, owner, end.state, end.outcome, end.at],
  );

/** What was done by the clock every few seconds is not remembered for long; the rest for a year. */
export async function pruneJobs(database: DataSource, kinds: readonly JobKind[], now: Date): Promise<void> {
  const often = kinds.filter(({ everyMs }) => everyMs < 600_000).map(({ name }) => name);
  await database.query(
    `delete from job where state in ('done', 'failed', 'missed')
       and due_at < $2::timestamptz - case when kind = any($1) then interval '1 hour' else interval '1 year' end`,
    [often, now],
  );
}
