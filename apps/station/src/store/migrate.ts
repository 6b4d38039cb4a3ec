import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { SCHEMA_LOCK } from './locks';
import { migrations } from './migrations';

/** The role that the station works as. */
const APP = 'tombolo_app';

/** What is only ever added to. The role of the station can neither change nor remove a row of these. */
export const APPEND_ONLY = [
  'reception',
  'attempt',
  'evidence',
  'custody',
  'alarm',
  'audit',
  'sheet_tick',
  'check_run',
  'prediction',
] as const;

/** What the owner does for the station: partitions of a month, and twins of what is made anew from receptions. */
const FUNCTIONS = ['make_month(date)', 'drop_month(date, bigint)', 'begin_remake()', 'finish_remake()'];

/** As the owner of a database: its schema brought up to date, and the rights of the station set anew. */
export async function bringUpToDate(ownerUrl: string): Promise<void> {
  const source = new DataSource({
    type: 'postgres',
    url: ownerUrl,
    migrations,
    migrationsTransactionMode: 'each',
    extra: { max: 2 },
  });
  await source.initialize();
  try {
    const runner = source.createQueryRunner();
    try {
      // Two that start together must not both migrate.
      await runner.query('select pg_advisory_lock($1)', [SCHEMA_LOCK]);
      await source.runMigrations();
      await runner.query(grants());
    } finally {
      await runner.query('select pg_advisory_unlock($1)', [SCHEMA_LOCK]).catch(() => undefined);
      await runner.release();
    }
  } finally {
    await source.destroy();
  }
}

function grants(): string {
  return `
    revoke all on all tables in schema public from ${APP};
    grant usage on schema public to ${APP};
    grant select, insert, update, delete on all tables in schema public to ${APP};
    grant usage, select on all sequences in schema public to ${APP};
    revoke insert, update, delete on migrations from ${APP};
    revoke update, delete on ${APPEND_ONLY.join(', ')} from ${APP};
    -- That somebody has seen or taken an alarm, and that it is over, is not the alarm.
    grant update (seen_at, taken_by, ended_at) on alarm to ${APP};
    revoke insert, update, delete on monthly from ${APP};
    grant execute on function ${FUNCTIONS.join(', ')} to ${APP};
  `;
}
