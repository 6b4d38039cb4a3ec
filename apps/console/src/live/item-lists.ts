import { itemSummary, type ItemDetail, type ItemSummary } from '@tombolo/contract';
import { replaceEqualDeep, type InfiniteData, type QueryClient } from '@tanstack/react-query';
import { api } from './api';

/** Keys of what is shown of items. */
export const itemKeys = {
  lists: ['items'],
  search: (text: string) => ['items', 'search', text] as const,
  /** Whether an item belongs to it only the station can say. */
  conversation: (who: string, text: string) => ['items', 'with', who, text] as const,
  open: ['items', 'open'] as const,
  one: (id: string) => ['item', id] as const,
};

type Pages = InfiniteData<{ rows: ItemSummary[]; next: string | null }>;
interface Open {
  readonly rows: ItemSummary[];
  readonly more: boolean;
}

const newestFirst = (a: ItemSummary, b: ItemSummary): number =>
  a.createdAt === b.createdAt ? (a.id < b.id ? -1 : 1) : a.createdAt < b.createdAt ? 1 : -1;

/** Of two states of an item the later one. */
const later = <I extends Pick<ItemSummary, 'revision'>>(shown: I, item: I): I =>
  shown.revision > item.revision ? shown : item;

/** The same for an item that is shown whole; what did not change stays the very same object. */
export const laterItem = (shown: ItemDetail | undefined, item: ItemDetail): ItemDetail =>
  shown && shown.revision > item.revision ? shown : replaceEqualDeep(shown, item);

/** The pages with this state of an item in place of the former; null when they must be loaded to know where it belongs. */
export function pagesWith(pages: Pages, item: ItemSummary, everything: boolean): Pages | null {
  const there = pages.pages.some(({ rows }) => rows.some(({ id }) => id === item.id));
  const replaced = (rows: ItemSummary[]) => rows.map((row) => (row.id === item.id ? later(row, item) : row));
  if (there) return { ...pages, pages: pages.pages.map((page) => ({ ...page, rows: replaced(page.rows) })) };
  const [first, ...others] = pages.pages;
  if (!everything || !first || (first.rows[0] && newestFirst(item, first.rows[0]) > 0)) return null;
  return { ...pages, pages: [{ ...first, rows: [item, ...first.rows] }, ...others] };
}

/** What is in hand, with this state of an item. */
export function openWith(open: Open, item: ItemSummary): Open {
  if (open.rows.some(({ id, revision }) => id === item.id && revision > item.revision)) return open;
  const others = open.rows.filter(({ id }) => id !== item.id);
  const inHand = item.heap === 'needs you' || item.heap === 'on its way';
  return { ...open, rows: inHand ? [...others, item].sort(newestFirst) : others };
}

/** Of more than this at once the lists are loaded whole. */
const MOST_SINGLY = 6;

/**
 * Shows what became of items: each is asked for by itself and takes its place in the lists. One that is shown as late as its event tells is
 * not asked for again, and an answer that was overtaken by a later one is let go.
 */
export async function renewItems(
  client: QueryClient,
  changed: readonly Pick<ItemSummary, 'id' | 'revision'>[],
): Promise<void> {
  const again = (queryKey: readonly unknown[]) => client.invalidateQueries({ queryKey }, { cancelRefetch: false });
  const shown = client.getQueryCache().findAll({ queryKey: itemKeys.lists, type: 'active' });
  if (changed.length > MOST_SINGLY || shown.length === 0) {
    await Promise.all([again(itemKeys.lists), ...changed.map(({ id }) => again(itemKeys.one(id)))]);
    return;
  }
  const known = (id: string) => client.getQueryData<ItemDetail>(itemKeys.one(id));
  await Promise.all(
    changed.map(async ({ id, revision }) => {
      const before = known(id);
      const detail =
        before && revision > 0 && before.revision >= revision ? before : await api.item(id).catch(() => null);
      if (!detail) return again(itemKeys.lists);
      if ((known(id)?.revision ?? 0) > detail.revision) return;
      client.setQueryData<ItemDetail>(itemKeys.one(id), detail);
      await place(client, itemSummary.parse(detail));
    }),
  );
}

async function place(client: QueryClient, item: ItemSummary): Promise<void> {
  for (const query of client.getQueryCache().findAll({ queryKey: itemKeys.lists })) {
    // A load that began before would put back what it was then.
    if (query.state.fetchStatus === 'fetching')
      void query.promise?.catch(() => undefined).then(() => placeIn(client, query.queryKey, item));
    await placeIn(client, query.queryKey, item);
  }
}

async function placeIn(client: QueryClient, queryKey: readonly unknown[], item: ItemSummary): Promise<void> {
  if (queryKey[1] === 'open') {
    client.setQueryData<Open>(queryKey, (open) => open && openWith(open, item));
    return;
  }
  const pages = client.getQueryData<Pages>(queryKey);
  const placed = pages && pagesWith(pages, item, queryKey[1] === 'search' && queryKey[2] === '');
  if (placed) client.setQueryData(queryKey, placed);
  else await client.invalidateQueries({ queryKey, exact: true }, { cancelRefetch: false });
}
