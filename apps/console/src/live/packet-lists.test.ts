import type { PacketSummary } from '@tombolo/contract';
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { api } from './api';
import { keepingRows, packetKeys, renewPackets, withNewest, type PacketPages } from './packet-lists';

const row = (id: number, copies = 1) => ({ id: String(id), copies: Array.from({ length: copies }) }) as PacketSummary;
const page = (from: number, to: number) => ({
  rows: Array.from({ length: from - to + 1 }, (_, i) => row(from - i)),
  next: to > 1 ? String(to) : null,
});
const pages = (...all: ReturnType<typeof page>[]): PacketPages => ({ pages: all, pageParams: all.map(() => null) });
const ids = (all: PacketPages | null) => all?.pages.flatMap(({ rows }) => rows.map(({ id }) => Number(id)));

describe('what came since', () => {
  const loaded = pages(page(100, 51), page(50, 1));

  it('stands in front of what was loaded, each packet once', () => {
    const merged = withNewest(loaded, page(103, 54));
    expect(ids(merged)).toEqual(Array.from({ length: 103 }, (_, i) => 103 - i));
    // The one behind the last page is asked for as before.
    expect(merged?.pages.at(-1)?.next).toBeNull();
  });

  it('takes the place of a packet of which more copies were heard', () => {
    const newest = { rows: [row(100, 3), ...page(99, 51).rows], next: '51' };
    expect(withNewest(loaded, newest)?.pages[0]?.rows[0]?.copies).toHaveLength(3);
  });

  it('is not joined over a gap', () => expect(withNewest(loaded, page(250, 201))).toBeNull());
  it('is all there is of a list of one page', () =>
    expect(ids(withNewest(pages(page(50, 1)), page(52, 3)))?.[0]).toBe(52));
});

it('keeps the very row that did not change, wherever it stands now, so that it is not drawn again', () => {
  const before = pages(page(50, 1));
  const after = keepingRows(before, pages({ rows: [row(51), row(50, 2), ...page(49, 2).rows], next: '2' }));
  const [first, copied, same] = after.pages[0]!.rows;
  expect(first).toEqual(row(51));
  expect(copied).toEqual(row(50, 2));
  expect(same).toBe(before.pages[0]!.rows[1]);
});

it('asks for the newest rows alone, however many pages are shown', async () => {
  const client = new QueryClient();
  const key = packetKeys.of({ text: '' });
  client.setQueryData(key, pages(page(100, 51), page(50, 1)));
  const observed = new QueryObserver(client, { queryKey: key, staleTime: Infinity, queryFn: () => pages() }).subscribe(
    () => undefined,
  );
  const asked = jest.spyOn(api, 'packets').mockResolvedValue(page(101, 52) as never);
  await renewPackets(client);
  expect(asked).toHaveBeenCalledTimes(1);
  expect(asked).toHaveBeenCalledWith(expect.objectContaining({ before: null }));
  expect(ids(client.getQueryData<PacketPages>(key) ?? null)).toHaveLength(101);
  observed();
});
