import type { DataSource } from 'typeorm';
import { createDatabase } from '../testing/harness';
import { openDatabase, rowsOf, rowsOfPrepared, touchedBy } from './database';

/** Tables that have no entity: the migrations' own, and a mark whose rows have no key. */
const WITHOUT_ENTITY = ['migrations', 'rebuild_wanted'];

interface CatalogueColumn {
  readonly table: string;
  readonly column: string;
  readonly type: string;
  readonly nullable: boolean;
  readonly in_key: boolean;
  readonly counted: boolean;
}

/** Columns as PostgreSQL's own catalogue has them (PostgreSQL 15 documentation, chapter 53, "System Catalogs"). */
const CATALOGUE = `
  select c.relname as "table", a.attname as "column", format_type(a.atttypid, a.atttypmod) as type,
         not a.attnotnull as nullable,
         exists (select 1 from pg_constraint k where k.conrelid = c.oid and k.contype = 'p' and a.attnum = any(k.conkey)) as in_key,
         coalesce(pg_get_expr(d.adbin, d.adrelid) like 'nextval(%', false) as counted
  from pg_class c
  join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
  left join pg_attrdef d on d.adrelid = c.oid and d.adnum = a.attnum
  where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
    and c.relname <> all($1)`;

const inOrder = (columns: readonly CatalogueColumn[]): string[] =>
  columns
    .map(
      ({ table, column, type, nullable, in_key, counted }) =>
        `${table}.${column}: ${type}${nullable ? ' or null' : ''}${in_key ? ', key' : ''}${counted ? ', counted' : ''}`,
    )
    .sort();

const ofEntities = ({ entityMetadatas, driver }: DataSource): CatalogueColumn[] =>
  entityMetadatas.flatMap(({ tableName, columns }) =>
    columns.map((column) => ({
      table: tableName,
      column: column.databaseName,
      type: `${driver.normalizeType(column)}${column.isArray ? '[]' : ''}`,
      nullable: column.isNullable,
      in_key: column.isPrimary,
      counted: column.isGenerated,
    })),
  );

describe('the entities', () => {
  let database: Awaited<ReturnType<typeof createDatabase>>;
  let source: DataSource;
  beforeAll(async () => {
    database = await createDatabase();
    source = await openDatabase(database.url);
  });
  afterAll(async () => {
    await source.destroy();
    await database.drop();
  });

  it('are the tables that all migrations together made, column by column', async () => {
    const tables = await rowsOf<CatalogueColumn>(source, CATALOGUE, [WITHOUT_ENTITY]);
    expect(tables.length).toBeGreaterThan(200);
    expect(inOrder(ofEntities(source))).toEqual(inOrder(tables));
  });

  it('leave no table out for nothing', async () => {
    const left = await rowsOf<{ relname: string }>(
      source,
      `select relname from pg_class where relnamespace = 'public'::regnamespace and relname = any($1) order by relname`,
      [WITHOUT_ENTITY],
    );
    expect(left.map(({ relname }) => relname)).toEqual(WITHOUT_ENTITY);
  });
});

describe('a statement', () => {
  it('gives the rows it returns, whatever it does, and how many it touched', async () => {
    const database = await createDatabase();
    const source = await openDatabase(database.url);
    try {
      const insert = `insert into station_note (call, note) values ('QT1AA', 'a'), ('QT1AB', 'b') returning call`;
      expect(await rowsOf(source, insert)).toEqual([{ call: 'QT1AA' }, { call: 'QT1AB' }]);
      const update = `update station_note set note = $1 where call = any($2)`;
      expect(await rowsOf(source, `${update} returning note`, ['c', ['QT1AB']])).toEqual([{ note: 'c' }]);
      expect(await rowsOf(source, `${update} returning note`, ['c', []])).toEqual([]);
      expect(await touchedBy(source, update, ['d', ['QT1AA', 'QT1AB', 'QT1AC']])).toBe(2);
      expect(await touchedBy(source, update, ['d', []])).toBe(0);
      await expect(touchedBy(source, 'select 1 as one')).rejects.toThrow('only an UPDATE or DELETE');
      expect(await rowsOf(source, 'select note from station_note where false')).toEqual([]);
      // One connection prepares it once, in a transaction too, and tells two texts apart.
      await source.transaction(async (manager) => {
        const noted = 'select call from station_note where note = $1 order by call';
        expect(await rowsOfPrepared(manager, noted, ['d'])).toEqual([{ call: 'QT1AA' }, { call: 'QT1AB' }]);
        expect(await rowsOfPrepared(manager, noted, ['x'])).toEqual([]);
        expect(await rowsOfPrepared(manager, `${noted} desc limit 1`, ['d'])).toEqual([{ call: 'QT1AB' }]);
        const kept = await rowsOf<{ statement: string }>(manager, 'select statement from pg_prepared_statements');
        expect(kept.map(({ statement }) => statement).sort()).toEqual([noted, `${noted} desc limit 1`]);
      });
      await expect(rowsOfPrepared(source, 'select $1::int / 0 as n', [1])).rejects.toThrow('division by zero');
    } finally {
      await source.destroy();
      await database.drop();
    }
  });
});
