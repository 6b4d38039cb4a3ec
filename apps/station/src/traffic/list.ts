import type { itemsQuery } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { counterpartOf, PASSED_WITH } from './conversation';
import { ItemEntity, type ItemRow } from '../store/entities';

/** Items newest first; one more than asked for, to tell whether there is a next page. */
export async function listItems(source: DataSource, query: z.output<typeof itemsQuery>): Promise<ItemRow[]> {
  const items = source.getRepository(ItemEntity).createQueryBuilder('item');
  if (query.text) {
    const pattern = `%${query.text.replace(/[\\%_]/g, '\\$&')}%`;
    items.andWhere('(item.body ilike :pattern or item.sender ilike :pattern or item.addressee ilike :pattern)', {
      pattern,
    });
  }
  if (query.with) items.andWhere(PASSED_WITH, { ...(await counterpartOf(source, query.with)) });
  if (query.direction) items.andWhere('item.direction = :direction', { direction: query.direction });
  if (query.filed !== undefined) items.andWhere(`item.filed_at is ${query.filed ? 'not ' : ''}null`);
  if (query.before) {
    const [ms = '0', id = ''] = query.before.split(/:(.*)/);
    items.andWhere('(item.created_at < :at or (item.created_at = :at and item.id > :id))', {
      at: new Date(Number(ms)),
      id,
    });
  }
  return items
    .orderBy('item.created_at', 'DESC')
    .addOrderBy('item.id')
    .limit(query.limit + 1)
    .getMany();
}

/** More in hand than this is not shown at once. */
const MOST_OPEN = 500;

/**
 * What may need somebody or be on its way, newest first, however old: the unfiled without what would end it. What it really is, its evidence
 * tells.
 */
export async function listUnsettled(source: DataSource): Promise<{ items: ItemRow[]; more: boolean }> {
  const has = (kinds: string) => `exists (select 1 from evidence e where e.item_id = item.id and e.kind in (${kinds}))`;
  const items = await source
    .getRepository(ItemEntity)
    .createQueryBuilder('item')
    .where('item.filed_at is null')
    .andWhere(
      `(item.direction = 'out' and not ${has(`'delivered', 'answered', 'cancelled'`)}
        or item.direction = 'in' and item.kind <> 'bulletin' and not item.undecipherable and not ${has(`'answered'`)}
        or item.direction = 'in' and exists (select 1 from leg l where l.item_id = item.id and l.detail ? 'relay'))`,
    )
    .orderBy('item.created_at', 'DESC')
    .addOrderBy('item.id')
    .limit(MOST_OPEN + 1)
    .getMany();
  return { items: items.slice(0, MOST_OPEN), more: items.length > MOST_OPEN };
}

/** The key of the page behind an item. */
export const formatItemKey = (item: ItemRow): string => `${item.createdAt.getTime()}:${item.id}`;

const PAGE = 100;

/** Every item of a time span in pages, oldest first, for the communications log; of all that passed with somebody alone where that is said. */
export async function* itemsBetween(
  source: DataSource,
  from: Date,
  to: Date,
  who: string | null = null,
): AsyncGenerator<ItemRow[]> {
  const counterpart = who === null ? null : await counterpartOf(source, who);
  let last: ItemRow | null = null;
  for (;;) {
    const query = source
      .getRepository(ItemEntity)
      .createQueryBuilder('item')
      .where('item.created_at between :from and :to', { from, to });
    if (counterpart) query.andWhere(PASSED_WITH, { ...counterpart });
    if (last)
      query.andWhere('(item.created_at > :at or (item.created_at = :at and item.id > :id))', {
        at: last.createdAt,
        id: last.id,
      });
    const items: ItemRow[] = await query.orderBy('item.created_at').addOrderBy('item.id').limit(PAGE).getMany();
    if (items.length > 0) yield items;
    if (items.length < PAGE) return;
    last = items.at(-1)!;
  }
}
