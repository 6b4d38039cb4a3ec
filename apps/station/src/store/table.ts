import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm';

/** A column: how PostgreSQL keeps it, and as what the driver gives it. */
export interface Column<T> {
  readonly options: EntitySchemaColumnOptions;
  /** Carries the type alone; there is never a value. */
  readonly given?: T;
}

type Columns = Readonly<Record<string, Column<unknown>>>;

/** A row as the driver gives it. */
export type RowOf<C extends Columns> = { -readonly [P in keyof C]: C[P] extends Column<infer T> ? T : never };

const column = <T>(options: EntitySchemaColumnOptions): Column<T> => ({ options });

export const text = <T extends string = string>(): Column<T> => column({ type: 'text' });
export const texts = (): Column<string[]> => column({ type: 'text', array: true });
export const uuid = (): Column<string> => column({ type: 'uuid' });
export const integer = (): Column<number> => column({ type: 'int' });
/** 64 bits; the driver gives it as digits, since a number of the language holds 53. */
export const bigint = (): Column<string> => column({ type: 'bigint' });
export const real = (): Column<number> => column({ type: 'real' });
export const double = (): Column<number> => column({ type: 'double precision' });
export const doubles = (): Column<number[]> => column({ type: 'double precision', array: true });
export const flag = (): Column<boolean> => column({ type: 'boolean' });
export const instant = (): Column<Date> => column({ type: 'timestamptz' });
export const octets = (): Column<Buffer> => column({ type: 'bytea' });
export const json = <T>(): Column<T> => column({ type: 'jsonb' });
/** JSON as it was written, for what is only ever read whole. */
export const jsonAsWritten = <T>(): Column<T> => column({ type: 'json' });

/** Part of the primary key. */
export const key = <T>({ options }: Column<T>): Column<T> => column({ ...options, primary: true });
/** A primary key that the database counts up. */
export const counted = <T>({ options }: Column<T>): Column<T> =>
  column({ ...options, primary: true, generated: 'increment' });
export const maybe = <T>({ options }: Column<T>): Column<T | null> => column({ ...options, nullable: true });

/** A table; its columns are named as here, in the database with underscores. */
export const table = <C extends Columns>(name: string, columns: C): EntitySchema<RowOf<C>> =>
  new EntitySchema<RowOf<C>>({
    name,
    columns: Object.fromEntries(
      Object.entries(columns).map(([property, { options }]) => [
        property,
        { ...options, name: property.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`) },
      ]),
    ) as ConstructorParameters<typeof EntitySchema<RowOf<C>>>[0]['columns'],
  });
