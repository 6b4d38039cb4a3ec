import type { CustodyRecord } from '@tombolo/contract';
import { rowsOf, storable, type Queries } from './database';

export interface NewCustody extends Omit<CustodyRecord, 'id' | 'at'> {
  /** Tells what the record is about, so that recording it twice keeps one. */
  readonly key: string;
  readonly itemId: string;
  readonly at: Date;
}

/** Appends to the record of who held an item. */
export const addCustody = (queries: Queries, record: NewCustody): Promise<unknown> =>
  queries.query(
    `insert into custody (key, item_id, what, other, at, by_whom, bearer, note) values ($1,$2,$3,$4,$5,$6,$7,$8)
     on conflict (key) do nothing`,
    [
      record.key,
      record.itemId,
      record.what,
      storable(record.other),
      record.at,
      record.by,
      record.bearer,
      record.note === null ? null : storable(record.note),
    ],
  );

export async function custodyOf(queries: Queries, itemId: string): Promise<CustodyRecord[]> {
  const rows = await rowsOf<{
    id: string;
    what: CustodyRecord['what'];
    other: string;
    at: Date;
    by_whom: string;
    bearer: string | null;
    note: string | null;
  }>(queries, 'select * from custody where item_id = $1 order by at, id', [itemId]);
  return rows.map((row) => ({
    id: row.id,
    what: row.what,
    other: row.other,
    at: row.at.toISOString(),
    by: row.by_whom,
    bearer: row.bearer,
    note: row.note,
  }));
}
