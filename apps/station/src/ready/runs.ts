import { MOST_OWN_CAUSES, type CheckRun, type CheckRuns } from '@tombolo/contract';
import { ruleBaseFaults, ruleBaseOf, type OwnCause } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, touchedBy, type Queries } from '../store/database';
import { CheckRunEntity, OwnCauseEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { READY_LOCK } from '../store/locks';

const SHOWN = 50;
const viewOf = (row: Omit<CheckRun, 'at'> & { at: Date }): CheckRun => ({ ...row, at: row.at.toISOString() });

/** The last checks, and how often each cause turned out to be the fault. */
export async function listRuns(queries: Queries): Promise<CheckRuns> {
  const runs = await rowsOf<Omit<CheckRun, 'at'> & { at: Date }>(
    queries,
    'select id, symptom, answers, found, fixed, at from check_run order by at desc, id limit $1',
    [SHOWN],
  );
  const counts = await rowsOf<{ symptom: string; found: string; n: number }>(
    queries,
    'select symptom, found, count(*)::int as n from check_run where fixed group by symptom, found',
  );
  const counted: Record<string, Record<string, number>> = {};
  for (const { symptom, found, n } of counts) (counted[symptom] ??= {})[found] = n;
  return { runs: runs.map(viewOf), counted };
}

/** Keeps a check; the same one twice is one. */
export async function keepRun(source: DataSource, run: Omit<CheckRun, 'at'>, at: Date): Promise<CheckRun> {
  return source.transaction(async (manager) => {
    const kept = await manager
      .createQueryBuilder()
      .insert()
      .into(CheckRunEntity)
      .values({ ...run, at })
      .orIgnore()
      .returning('id')
      .execute();
    if ((kept.raw as unknown[]).length > 0) await appendEvents(manager, [{ type: 'ready', data: { id: run.id } }], at);
    const [row] = await rowsOf<Omit<CheckRun, 'at'> & { at: Date }>(
      manager,
      'select id, symptom, answers, found, fixed, at from check_run where id = $1',
      [run.id],
    );
    return viewOf(row!);
  });
}

export async function listOwnCauses(queries: Queries): Promise<OwnCause[]> {
  const rows = await rowsOf<{ id: string; cause: Omit<OwnCause, 'id'> }>(
    queries,
    'select id, cause from own_cause order by created_at, id',
  );
  return rows.map(({ id, cause }) => ({ ...cause, id }));
}

/** Adds a cause or changes it, unless the list would contradict itself. */
export async function keepOwnCause(source: DataSource, { id, ...cause }: OwnCause, at: Date): Promise<OwnCause> {
  return source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [READY_LOCK]);
    const before = await listOwnCauses(manager);
    const known = before.some((one) => one.id === id);
    if (!known && before.length >= MOST_OWN_CAUSES)
      throw new ProblemError(409, 'list-full', 'The list is full', `It holds at most ${MOST_OWN_CAUSES} causes.`);
    const [fault] = ruleBaseFaults(
      ruleBaseOf(cause.symptom, [...before.filter((one) => one.id !== id), { ...cause, id }]),
    );
    if (fault) throw new ProblemError(422, 'invalid', 'Something in it does not fit', fault);
    const repository = manager.getRepository(OwnCauseEntity);
    if (known) await repository.update({ id }, { cause });
    else await repository.insert({ id, cause, createdAt: at });
    await appendEvents(manager, [{ type: 'ready', data: { id } }], at);
    return { ...cause, id };
  });
}

export async function removeOwnCause(source: DataSource, id: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    if ((await touchedBy(manager, 'delete from own_cause where id = $1', [id])) === 0)
      throw new ProblemError(404, 'no-such-cause', 'Not on the list', 'No cause of that identifier was added here.');
    await appendEvents(manager, [{ type: 'ready', data: { id } }], at);
  });
}
