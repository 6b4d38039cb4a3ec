import type { ItemDetail } from '@tombolo/contract';
import { joinParts, readPart } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../store/database';
import type { ItemRow } from '../store/entities';

/** Parts of one text are not farther apart; the letters come round again later than that. */
export const PARTS_WITHIN_MS = 3_600_000;

/** The whole of which an item is a part, as far as it is there; null for a text of its own. */
export async function partsOf(
  manager: EntityManager,
  { direction, kind, sender, addressee, body, createdAt }: ItemRow,
): Promise<ItemDetail['parts']> {
  const part = kind === 'text' ? readPart(body) : null;
  if (!part) return null;
  const rows = await rowsOf<{ id: string; body: string }>(
    manager,
    `select id, body from item
     where direction = $1 and sender = $2 and addressee = $3 and kind = 'text' and not refused
       and created_at between $4 and $5 and body ~ $6
     order by created_at, id limit 100`,
    [
      direction,
      sender,
      addressee,
      new Date(createdAt.getTime() - PARTS_WITHIN_MS),
      new Date(createdAt.getTime() + PARTS_WITHIN_MS),
      `^\\([1-9]/${part.of}${part.set}\\+?\\) `,
    ],
  );
  const read = rows.flatMap((row) => {
    const one = readPart(row.body);
    return one ? [{ ...one, id: row.id }] : [];
  });
  const { shown, missing } = joinParts(read);
  const ids = new Map(read.map(({ n, id }) => [n, id]));
  return {
    set: part.set,
    n: part.n,
    of: part.of,
    text: shown,
    missing: [...missing],
    items: [...ids].sort(([a], [b]) => a - b).map(([n, id]) => ({ n, id })),
  };
}
