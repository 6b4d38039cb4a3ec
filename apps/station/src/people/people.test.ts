import { randomUUID } from 'node:crypto';
import type { LiveEvent, Person } from '@tombolo/contract';
import { apiOf, createDatabase, eventually, startTestStation, type Api } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { rowsOf } from '../store/database';
import { LISTED, licenceOf } from './people';

let database: Awaited<ReturnType<typeof createDatabase>>;
let station: Awaited<ReturnType<typeof startTestStation>>;
let api: Api;
beforeEach(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url);
  api = apiOf(station);
});
afterEach(async () => {
  await station.stop();
  await database.drop();
});

const names = async () => (await api.get<Person[]>('/people')).map(({ name }) => name);

describe('the list of people', () => {
  it('keeps everybody with all addresses, in the order in which they are to be used', async () => {
    const addresses = [
      { sort: 'mail', address: 'office@ferry.example' },
      { sort: 'call', address: 'qt1nc-9' },
      { sort: 'mail', address: 'pier@ferry.example' },
      { sort: 'node', address: 'ferry' },
      { sort: 'board', address: 'qt1nc@qt1bb' },
    ];
    const id = randomUUID();
    await api.put(`/people/${id}`, { name: ' Ferry Office ', licensed: true, agreement: ' By mail ', addresses });
    const kept = addresses.map(({ sort, address }) => ({
      sort,
      address: sort === 'mail' ? address : address.toUpperCase(),
    }));
    expect(await api.get('/people')).toEqual([
      { id, name: 'Ferry Office', licensed: true, agreement: 'By mail', addresses: kept, broughtBy: [] },
    ]);
    await api.put(`/people/${id}`, { name: 'Ferry', licensed: false, addresses: addresses.slice(0, 1) });
    expect(await api.get('/people')).toEqual([
      { id, name: 'Ferry', licensed: false, agreement: '', addresses: addresses.slice(0, 1), broughtBy: [] },
    ]);
  });

  it('keeps who brings something to somebody, in their order, and refuses what makes no sense', async () => {
    const [farm, pier] = [
      await listPerson(api, 'Farm', { node: 'LSFARM' }),
      await listPerson(api, 'Pier', { node: 'PIER' }),
    ];
    const id = randomUUID();
    const put = (broughtBy: unknown) =>
      api.put<Person>(`/people/${id}`, {
        name: 'Ferry Office',
        licensed: false,
        addresses: [{ sort: 'mail', address: 'office@ferry.example' }],
        broughtBy,
      });
    const both = [
      { person: pier.id, aboutMin: 5 },
      { person: farm.id, aboutMin: 40 },
    ];
    expect((await put(both)).broughtBy).toEqual(both);
    for (const wrong of [
      [{ person: id, aboutMin: 5 }],
      [{ person: farm.id, aboutMin: 0 }],
      [{ person: farm.id, aboutMin: 1441 }],
      [
        { person: farm.id, aboutMin: 5 },
        { person: farm.id, aboutMin: 9 },
      ],
      [{ person: 'Farm', aboutMin: 5 }],
    ])
      expect(await put(wrong)).toMatchObject({ status: 422 });
    expect((await api.get<Person[]>('/people')).find((one) => one.id === id)!.broughtBy).toEqual(both);
    expect((await put(both.slice(1))).broughtBy).toEqual(both.slice(1));
    expect((await api.get<Person[]>('/people')).find((one) => one.id === id)!.broughtBy).toEqual(both.slice(1));
  });

  it('refuses a second one of a name, somebody without an address, and an address that is none', async () => {
    const { id } = await listPerson(api, 'Ferry Office', { phone: '+00 555 0142' });
    const put = (body: object, at: string = randomUUID()) => api.put(`/people/${at}`, body);
    const addresses = [{ sort: 'node', address: 'FERRY' }];
    expect(await put({ name: 'FERRY office', licensed: false, addresses })).toMatchObject({ status: 409 });
    expect(await put({ name: 'Nobody', licensed: false, addresses: [] })).toMatchObject({
      status: 422,
      detail: expect.stringContaining('at least one address'),
    });
    for (const wrong of [
      { sort: 'call', address: 'QT1NC-99' },
      { sort: 'call', address: 'QT1NC@' },
      { sort: 'mail', address: 'ferry' },
      { sort: 'node', address: 'TOO-LONG-TAG' },
      { sort: 'pigeon', address: 'X' },
    ])
      expect(await put({ name: 'Wrong', licensed: false, addresses: [wrong] })).toMatchObject({ status: 422 });
    // Oneself may be written anew in other letters.
    expect(await put({ name: 'FERRY OFFICE', licensed: false, addresses }, id)).toMatchObject({ name: 'FERRY OFFICE' });
    expect(await names()).toEqual(['FERRY OFFICE']);
  });

  it('takes several at once, all or none, and two files at once one after the other', async () => {
    const ids = Array.from({ length: 4 }, () => randomUUID());
    const people = (...names: string[]) => ({
      people: names.map((name, n) => ({
        id: ids[n]!,
        name,
        licensed: false,
        addresses: [{ sort: 'mail', address: `${n}@x.example` }],
      })),
    });
    expect(await api.put('/people', people('Ann', 'Ben', 'ann'))).toMatchObject({ status: 409 });
    expect(await api.put('/people', people('Ann', ''))).toMatchObject({ status: 422 });
    expect(await api.put('/people', { people: [] })).toMatchObject({ status: 422 });
    expect(await names()).toEqual([]);
    await Promise.all([api.put('/people', people('Ann', 'Ben')), api.put('/people', people('Ann', 'Ben', 'Cem'))]);
    expect((await names()).sort()).toEqual(['Ann', 'Ben', 'Cem']);
    // Taken back: who came by it goes, who was changed is as before; all or none, and whoever is gone already is gone.
    const back = (name: string) => ({ ...people(name), without: [ids[1], ids[2], ids[3]] });
    expect(await api.put('/people', { ...back(''), without: [ids[1]] })).toMatchObject({ status: 422 });
    expect(await names()).toHaveLength(3);
    expect(await api.put('/people', back('Anna'))).toMatchObject([{ name: 'Anna' }]);
    expect(await names()).toEqual(['Anna']);
  });

  it('has nobody twice when two add at once', async () => {
    const both = await Promise.all(['Ferry', 'ferry', 'FERRY'].map((name) => listPerson(api, name, { node: 'FERRY' })));
    expect(both.filter((one) => 'addresses' in one)).toHaveLength(1);
    expect(await names()).toHaveLength(1);
  });

  it('lets somebody go, and tells the consoles of each change', async () => {
    const { id } = await listPerson(api, 'Ferry Office', { phone: '+00 555 0142' });
    expect((await api.send(`/people/${id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await api.send(`/people/${id}`, { method: 'DELETE' })).status).toBe(404);
    expect(await names()).toEqual([]);
    const events = await api.get<LiveEvent[]>('/events?after=0');
    expect(events.filter(({ type }) => type === 'person').map(({ data }) => data)).toEqual([{ id }, { id }]);
  });

  it('is the same for every process on the database', async () => {
    const other = await startTestStation(database.url);
    try {
      await listPerson(api, 'Ferry Office', { phone: '+00 555 0142' });
      await api.patch('/settings', { call: 'QT2AR', storeLimit: 40 });
      const elsewhere = apiOf(other);
      await eventually(async () => (await elsewhere.get<{ call: string }>('/settings')).call === 'QT2AR');
      expect(await elsewhere.get('/people')).toMatchObject([{ name: 'Ferry Office' }]);
      // Who operates and what the station does are kept apart: neither writes over the other.
      await Promise.all([elsewhere.patch('/settings', { ssid: 9 }), api.patch('/settings', { storeLimit: 50 })]);
      await eventually(async () => {
        const both = await Promise.all([api, elsewhere].map((one) => one.get<object>('/settings')));
        return both.every((one) => 'ssid' in one && one.ssid === 9 && 'storeLimit' in one && one.storeLimit === 50);
      });
    } finally {
      await other.stop();
    }
  });
});

describe('whoever signs', () => {
  it('is known by name, by the tag of a node and by a call with any SSID; a licence is asked by name', async () => {
    await listPerson(api, 'Ferry Office', { node: 'FERRY', call: 'QT1NC-9' }, true);
    const { database: queries } = station.context;
    const isListed = async (sender: string) => (await rowsOf(queries, LISTED, [sender])).length > 0;
    for (const known of ['ferry office', 'FERRY', 'ferry', 'QT1NC', 'QT1NC-3'])
      expect([known, await isListed(known)]).toEqual([known, true]);
    for (const stranger of ['QT1ND', 'FERRY2', ''])
      expect([stranger, await isListed(stranger)]).toEqual([stranger, false]);
    expect(await licenceOf(queries, 'FERRY OFFICE')).toBe(true);
    expect(await licenceOf(queries, 'FERRY')).toBeNull();
  });
});
