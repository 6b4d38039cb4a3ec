import { randomUUID } from 'node:crypto';
import type { ItemDetail, ItemSummary } from '@tombolo/contract';
import { recordArrival } from '../arrivals/arrive';
import type { Station } from '../station';
import {
  createDatabase,
  itemWhen,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
  type TestDatabase,
} from '../testing/harness';
import { textTo } from '../testing/written';

let database: TestDatabase;
let modem: FakeModem;
let station: Station & { api: Api };
let api: Api;
beforeAll(async () => {
  database = await createDatabase();
  modem = await startModem();
  station = await startWithModem(database.url, modem);
  api = station.api;
});
afterAll(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});

const open = () => api.get<{ rows: ItemSummary[]; more: boolean }>('/items/open');
const arrive = (n: number, kind: 'text' | 'bulletin', agoMin: number) =>
  recordArrival(station.context.database, {
    externalId: `test:${n}`,
    kind,
    sender: 'QT4LB-8',
    addressee: 'QT2AR-7',
    body: `Number ${n}`,
    at: new Date(Date.now() - agoMin * 60_000),
    bearerId: 'board',
    from: 'QT1BB-4',
    own: 'QT2AR-7',
    trace: [],
    raw: '',
    note: '',
  });

it('files many at once, tells which, and takes them back', async () => {
  const arrived = [await arrive(21, 'bulletin', 3), await arrive(22, 'bulletin', 2)];
  const ids = arrived.map(({ itemId }) => itemId);
  const file = (filed: boolean, which: readonly string[] = ids) =>
    api.post<{ changed: string[] }>('/items/filing', { ids: which, filed });
  await api.post(`/items/${ids[0]}/actions`, { action: 'file' });
  // What was filed before does not come back with the others.
  expect((await file(true, [...ids, randomUUID()])).changed).toEqual([ids[1]]);
  expect((await api.get<ItemDetail>(`/items/${ids[1]}`)).heap).toBe('filed');
  expect((await file(true)).changed).toEqual([]);
  expect((await file(false, [ids[1]!])).changed).toEqual([ids[1]]);
  expect((await api.get<ItemDetail>(`/items/${ids[1]}`)).heap).toBe('arrived');
  expect((await api.get<ItemDetail>(`/items/${ids[0]}`)).heap).toBe('filed');
});

it('what needs somebody is listed however much came since, and no longer when it is answered or filed', async () => {
  const { itemId } = await arrive(1, 'text', 600);
  for (let n = 2; n < 130; n++) await arrive(n, 'bulletin', 300 - n);
  const onItsWay = textTo('QT6CL', 'Are you there?');
  await api.post('/items', onItsWay);
  const done = textTo('QT4LB-8', 'Thank you');
  await api.post('/items', done);
  const number = (await api.get<ItemDetail>(`/items/${done.id}`)).number;
  await itemWhen(api, done.id, ({ status }) => status.rung === 'sent');
  modem.hear(`QT4LB-8>APRS::QT2AR-7  :ack${number}`);
  await itemWhen(api, done.id, ({ status }) => status.rung === 'delivered');
  // Not on the first page of the list.
  const { rows: page } = await api.get<{ rows: ItemSummary[] }>('/items?limit=100');
  expect(page.some(({ id }) => id === itemId)).toBe(false);
  expect((await open()).rows.map(({ id, heap }) => [id, heap])).toEqual([
    [onItsWay.id, 'on its way'],
    [itemId, 'needs you'],
  ]);
  await api.post(`/items/${itemId}/actions`, { action: 'file' });
  await api.post(`/items/${onItsWay.id}/actions`, { action: 'cancel' });
  expect(await open()).toEqual({ rows: [], more: false });
  await api.post(`/items/${itemId}/actions`, { action: 'unfile' });
  const answer = textTo('QT4LB-8', 'Yes', { id: randomUUID(), answers: itemId });
  await api.post('/items', answer);
  expect((await open()).rows.map(({ id }) => id)).toEqual([answer.id]);
});
