import 'reflect-metadata';
import { DataSource, type EntityManager } from 'typeorm';
import { entities } from './entities';
import { FourWays } from './migrations/four-ways';
import { Initial } from './migrations/initial';
import { WholePicture } from './migrations/whole-picture';

/** Connects and brings the schema up to date. */
export async function openDatabase(url: string): Promise<DataSource> {
  const source = new DataSource({
    type: 'postgres',
    url,
    entities,
    migrations: [Initial, FourWays, WholePicture],
    migrationsTransactionMode: 'each',
    extra: { max: 12 },
  });
  await source.initialize();
  // Two processes that start together must not both migrate.
  const runner = source.createQueryRunner();
  try {
    await runner.query('select pg_advisory_lock(7300001)');
    await source.runMigrations();
  } finally {
    await runner.query('select pg_advisory_unlock(7300001)');
    await runner.release();
  }
  return source;
}

/** Either the data source or a transaction on it. */
export type Queries = Pick<EntityManager, 'query'>;

/** Rows of a statement, typed by the caller, who wrote the statement. */
export const rowsOf = <T>(queries: Queries, sql: string, parameters: unknown[] = []): Promise<T[]> =>
  queries.query(sql, parameters) as Promise<T[]>;

/** PostgreSQL texts cannot hold U+0000: it is shown as its symbol; the raw octets are kept beside it. */
export const storable = (text: string): string => text.replaceAll('\u0000', '␀');
