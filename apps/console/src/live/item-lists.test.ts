import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { waitFor } from '@testing-library/react';
import type { ItemDetail, ItemSummary } from '@tombolo/contract';
import { stationAnswers } from '../testing/render';
import { arrivedItem } from '../testing/samples';
import { itemKeys, laterItem, openWith, pagesWith, renewItems } from './item-lists';

const uuid = (n: number) => `0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c${String(n).padStart(2, '0')}`;
const at = (minute: number) => `2026-11-25T08:${String(minute).padStart(2, '0')}:00.000Z`;
const item = (n: number, more: Partial<ItemDetail> = {}): ItemDetail =>
  arrivedItem({ id: uuid(n), createdAt: at(n), body: `Number ${n}`, ...more });
const pages = (...rows: ItemSummary[][]) => ({
  pages: rows.map((page) => ({ rows: page, next: null as string | null })),
  pageParams: rows.map((): unknown => null),
});
const bodies = (list: ReturnType<typeof pages> | null) => list?.pages.map(({ rows }) => rows.map(({ body }) => body));

describe('a list in pages', () => {
  const list = pages([item(9), item(7)], [item(5)]);
  it('takes a changed item in its place, and a new one on top', () => {
    expect(bodies(pagesWith(list, item(5, { body: 'Changed' }), true))).toEqual([
      ['Number 9', 'Number 7'],
      ['Changed'],
    ]);
    expect(bodies(pagesWith(list, item(10), true))).toEqual([['Number 10', 'Number 9', 'Number 7'], ['Number 5']]);
    expect(bodies(pagesWith(pages([]), item(1), true))).toEqual([['Number 1']]);
  });
  it('has to be loaded when it is not known where one belongs', () => {
    expect(pagesWith(list, item(6), true)).toBeNull();
    expect(pagesWith(list, item(10), false)).toBeNull();
    expect(pagesWith(pages(), item(10), true)).toBeNull();
  });
});

describe('what is in hand', () => {
  const open = { rows: [item(9), item(7, { heap: 'on its way' })], more: true };
  const numbers = (rows: readonly ItemSummary[]) => rows.map(({ body }) => body);
  it('keeps the newest first, and lets go what needs nobody any more', () => {
    expect(numbers(openWith(open, item(8)).rows)).toEqual(['Number 9', 'Number 8', 'Number 7']);
    expect(numbers(openWith(open, item(7, { heap: 'arrived' })).rows)).toEqual(['Number 9']);
    expect(openWith(open, item(9, { body: 'Changed' }))).toMatchObject({ rows: [{ body: 'Changed' }, {}], more: true });
  });
});

describe('items that changed', () => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  const watching: (() => void)[] = [];
  const watch = (queryKey: readonly unknown[]) =>
    watching.push(
      new QueryObserver(client, { queryKey, queryFn: () => Promise.reject(new Error('not asked for')) }).subscribe(
        () => undefined,
      ),
    );
  afterEach(() => {
    for (const stop of watching.splice(0)) stop();
    client.clear();
  });
  const setUp = () => {
    client.setQueryData(itemKeys.search(''), pages([item(7)]));
    client.setQueryData(itemKeys.search('Number'), pages([item(7)]));
    client.setQueryData(itemKeys.open, { rows: [item(7)], more: false });
    watch(itemKeys.search(''));
  };

  it('are asked for one by one, and each list shows them', async () => {
    const changed = item(7, { body: 'Changed', heap: 'arrived' });
    const asked = stationAnswers({ [`GET /api/v1/items/${changed.id}`]: { body: changed } });
    setUp();
    await renewItems(client, [changed]);
    expect(asked.map(({ path }) => path)).toEqual([`/api/v1/items/${changed.id}`]);
    expect(bodies(client.getQueryData(itemKeys.search(''))!)).toEqual([['Changed']]);
    expect(bodies(client.getQueryData(itemKeys.search('Number'))!)).toEqual([['Changed']]);
    expect(client.getQueryData(itemKeys.open)).toMatchObject({ rows: [] });
    expect(client.getQueryData(itemKeys.one(changed.id))).toMatchObject({ body: 'Changed', trace: [] });
    // A list holds what lists tell, no more.
    expect(client.getQueryData<ReturnType<typeof pages>>(itemKeys.search(''))!.pages[0]!.rows[0]).not.toHaveProperty(
      'evidence',
    );
  });

  it('stay as they are now when a load that began before comes in', async () => {
    const changed = item(7, { body: 'Changed' });
    stationAnswers({ [`GET /api/v1/items/${changed.id}`]: { body: changed } });
    setUp();
    let arrive: (before: ReturnType<typeof pages>) => void = () => undefined;
    const loading = client.fetchQuery({
      queryKey: itemKeys.search(''),
      queryFn: () => new Promise<ReturnType<typeof pages>>((resolve) => (arrive = resolve)),
      staleTime: 0,
    });
    await renewItems(client, [changed]);
    arrive(pages([item(7)]));
    await loading;
    await waitFor(() => expect(bodies(client.getQueryData(itemKeys.search(''))!)).toEqual([['Changed']]));
  });

  it('are not asked for again when the state is shown that their event tells of, and take their places from it', async () => {
    const changed = item(7, { body: 'Changed', revision: 12 });
    const asked = stationAnswers({});
    setUp();
    client.setQueryData(itemKeys.one(changed.id), changed);
    await renewItems(client, [{ id: changed.id, revision: 12 }]);
    expect(asked).toEqual([]);
    expect(bodies(client.getQueryData(itemKeys.search(''))!)).toEqual([['Changed']]);
  });

  it('stay in their later state when an answer comes that was overtaken', async () => {
    const early = item(7, { body: 'Earlier', revision: 12 });
    const late = item(7, { body: 'Later', revision: 13 });
    setUp();
    const answers = { [`GET /api/v1/items/${late.id}`]: { body: late } };
    stationAnswers(answers);
    await renewItems(client, [{ id: late.id, revision: 13 }]);
    answers[`GET /api/v1/items/${late.id}`]!.body = early;
    await renewItems(client, [{ id: early.id, revision: 14 }]);
    expect(bodies(client.getQueryData(itemKeys.search(''))!)).toEqual([['Later']]);
    expect(client.getQueryData(itemKeys.one(late.id))).toMatchObject({ body: 'Later' });
    expect(laterItem(late, early)).toBe(late);
    expect(laterItem(early, late)).toMatchObject({ body: 'Later' });
    expect(bodies(pagesWith(pages([late]), early, true))).toEqual([['Later']]);
    expect(openWith({ rows: [late], more: false }, early).rows).toEqual([late]);
  });

  it('make a search stale that cannot tell whether they belong to it', async () => {
    const fresh = item(9);
    stationAnswers({ [`GET /api/v1/items/${fresh.id}`]: { body: fresh } });
    setUp();
    await renewItems(client, [fresh]);
    expect(bodies(client.getQueryData(itemKeys.search(''))!)).toEqual([['Number 9', 'Number 7']]);
    expect(client.getQueryState(itemKeys.search('Number'))!.isInvalidated).toBe(true);
    expect(client.getQueryState(itemKeys.search(''))!.isInvalidated).toBe(false);
  });

  it('make every list stale when they are many, cannot be had, or nothing is shown', async () => {
    const asked = stationAnswers({});
    setUp();
    const stale = () => client.getQueryState(itemKeys.open)!.isInvalidated;
    await renewItems(client, [{ id: uuid(1), revision: 9 }]);
    expect(stale()).toBe(true);
    setUp();
    expect(stale()).toBe(false);
    await renewItems(
      client,
      Array.from({ length: 7 }, (_, n) => ({ id: uuid(n), revision: 9 })),
    );
    expect(stale()).toBe(true);
    expect(asked).toHaveLength(1);
  });
});
