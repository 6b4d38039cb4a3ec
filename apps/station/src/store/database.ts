import 'reflect-metadata';
import { createHash } from 'node:crypto';
import { DataSource, type EntityManager } from 'typeorm';
import { entities } from './entities';
import { migrations } from './migrations';

/** No wait for the database is longer: a page that cannot be answered says so. */
const CONNECT_WITHIN_MS = 4000;
const STATEMENT_WITHIN_MS = 20_000;

/** Answers of pages, and all that runs by itself, draw from pools of their own: neither can starve the other. */
export type Purpose = 'pages' | 'work';
const MOST_CONNECTIONS: Readonly<Record<Purpose, number>> = { pages: 8, work: 10 };

/** Connects to a database whose schema is up to date; fails in words when it is not. */
export async function openDatabase(url: string, purpose: Purpose = 'work'): Promise<DataSource> {
  const source = new DataSource({
    type: 'postgres',
    url,
    entities,
    extra: {
      max: MOST_CONNECTIONS[purpose],
      connectionTimeoutMillis: CONNECT_WITHIN_MS,
      // A connection whose other end is gone without a word is noticed.
      keepAlive: true,
      application_name: `tombolo ${purpose}`,
      ...(purpose === 'pages' && { statement_timeout: STATEMENT_WITHIN_MS, query_timeout: STATEMENT_WITHIN_MS + 2000 }),
      idle_in_transaction_session_timeout: 60_000,
    },
    // Broken connections that wait in the pool are told to the log, and end nothing.
    poolErrorHandler: () => undefined,
  });
  await source.initialize();
  const wanted = migrations.length;
  const [{ n }] = (await source.query('select count(*)::int as n from migrations')) as [{ n: number }];
  if (n !== wanted) {
    await source.destroy();
    throw new Error(
      n < wanted
        ? 'the database is of an earlier version: bring it up to date first, as its owner'
        : 'the database is of a later version than this program',
    );
  }
  return source;
}

/** Either the data source or a transaction on it. */
export type Queries = Pick<EntityManager, 'query'>;

/** What the driver gives: rows, but for UPDATE and DELETE the rows they return and how many they touched. */
type Answer = unknown[] | [rows: unknown[], touched: number];
const isTouched = (answer: Answer): answer is [unknown[], number] => Array.isArray(answer[0]);

/** Rows of a statement, also of an UPDATE or DELETE that returns some; typed by the caller, who wrote the statement. */
export async function rowsOf<T>(queries: Queries, sql: string, parameters: unknown[] = []): Promise<T[]> {
  const answer = (await queries.query(sql, parameters)) as Answer;
  return (isTouched(answer) ? answer[0] : answer) as T[];
}

/** By its text: the same on every connection. */
const nameOf = (sql: string): string => `p${createHash('sha256').update(sql).digest('hex').slice(0, 32)}`;

/**
 * The same by a statement that each connection keeps prepared: where planning takes longer than what is planned. For texts that do not vary,
 * since a connection keeps each for ever; the plan may be one that does not know the values.
 */
export const rowsOfPrepared = <T>(queries: Queries, text: string, parameters: unknown[]): Promise<T[]> =>
  // TypeORM hands the statement to the driver as it is, which takes a name with it.
  rowsOf(queries, { name: nameOf(text), text } as unknown as string, parameters);

/** How many rows an UPDATE or DELETE touched. */
export async function touchedBy(queries: Queries, sql: string, parameters: unknown[] = []): Promise<number> {
  const answer = (await queries.query(sql, parameters)) as Answer;
  if (!isTouched(answer)) throw new Error('only an UPDATE or DELETE tells how many rows it touched');
  return answer[1];
}

/** PostgreSQL texts cannot hold U+0000: it is shown as its symbol; the raw octets are kept beside it. */
export const storable = (text: string): string => text.replaceAll('\u0000', '␀');

/** An array of numbers, or of ids, which are digits, as the database reads it: the driver would quote and escape each. */
export const numberArray = (values: readonly (number | string | null)[]): string =>
  `{${values.map((value) => value ?? 'NULL').join(',')}}`;

const BLOCK = 2000;

/** Rows in blocks that one statement takes: a statement of everything would need all of it in memory several times over. */
function* blocksOf<T>(rows: readonly T[]): Generator<readonly T[]> {
  for (let from = 0; from < rows.length; from += BLOCK) yield rows.slice(from, from + BLOCK);
}

/** Sends all rows in blocks, one behind the other on one connection: the next is put together while the database works on the last. */
export async function inBlocks<T>(rows: readonly T[], send: (block: readonly T[]) => Promise<unknown>): Promise<void> {
  let last: Promise<unknown> = Promise.resolve();
  for (const block of blocksOf(rows)) {
    const sent = send(block);
    // Awaited in its turn; where the one before fails, this one fails with it.
    sent.catch(() => undefined);
    await last;
    last = sent;
  }
  await last;
}
