import type { PacketSummary } from '@tombolo/contract';
import { replaceEqualDeep, type InfiniteData, type QueryClient } from '@tanstack/react-query';
import { api, type HeardQuery } from './api';

const ROWS = 50;
export const packetKeys = { lists: ['packets'], of: (query: HeardQuery) => ['packets', query] as const };

interface Page {
  rows: PacketSummary[];
  next: string | null;
}
export type PacketPages = InfiniteData<Page>;

export const packetsBefore = (query: HeardQuery, before: string | null): Promise<Page> =>
  api.packets({ ...query, before, limit: ROWS });

/** The same pages; a row that was there before and did not change stays the very same object, wherever it stands now. */
export function keepingRows(before: PacketPages | undefined, now: PacketPages): PacketPages {
  if (!before || before === now) return now;
  const known = new Map(before.pages.flatMap(({ rows }) => rows.map((row) => [row.id, row] as const)));
  const kept = (row: PacketSummary) => replaceEqualDeep(known.get(row.id), row);
  return { ...now, pages: now.pages.map((page) => ({ ...page, rows: page.rows.map(kept) })) };
}

/** The pages with what came since; null when there is a gap between both, so that they must be loaded. */
export function withNewest(pages: PacketPages, newest: Page): PacketPages | null {
  const [first, ...others] = pages.pages;
  if (!first || others.length === 0) return { ...pages, pages: [newest] };
  const fresh = new Map(newest.rows.map((row) => [row.id, row]));
  const last = newest.rows.at(-1);
  const isKnown = (id: string | undefined) => pages.pages.some(({ rows }) => rows.some((row) => row.id === id));
  if (newest.next !== null && !isKnown(last?.id)) return null;
  // What was a copy of an older packet moves no row: a packet stands where it was first heard.
  const rest = ({ rows, ...page }: Page): Page => ({ ...page, rows: rows.filter(({ id }) => !fresh.has(id)) });
  return { ...pages, pages: [{ ...first, rows: [...newest.rows, ...rest(first).rows] }, ...others.map(rest)] };
}

/** Loads the newest rows of each list of packets that is shown; what was loaded of older ones stays. */
export async function renewPackets(client: QueryClient): Promise<void> {
  const shown = client.getQueryCache().findAll({ queryKey: packetKeys.lists, type: 'active' });
  await Promise.all(
    shown.map(async ({ queryKey }) => {
      const pages = client.getQueryData<PacketPages>(queryKey);
      const again = () => client.invalidateQueries({ queryKey, exact: true }, { cancelRefetch: false });
      if (!pages || pages.pages.length < 2) return again();
      const newest = await packetsBefore(queryKey[1] as HeardQuery, null).catch(() => null);
      const now = client.getQueryData<PacketPages>(queryKey);
      const merged = newest && now && withNewest(now, newest);
      if (merged) client.setQueryData(queryKey, merged);
      else await again();
    }),
  );
  // Those that nobody looks at are loaded when they are.
  await client.invalidateQueries({ queryKey: packetKeys.lists, type: 'inactive' });
}
