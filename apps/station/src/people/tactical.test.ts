import { randomUUID } from 'node:crypto';
import type { LiveEvent, TacticalView } from '@tombolo/contract';
import { apiOf, createDatabase, startTestStation, type Api } from '../testing/harness';

let database: Awaited<ReturnType<typeof createDatabase>>;
let station: Awaited<ReturnType<typeof startTestStation>>;
let api: Api;
let nowMs = Date.UTC(2026, 10, 26, 6);
beforeEach(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url, { now: () => nowMs });
  api = apiOf(station);
});
afterEach(async () => {
  await station.stop();
  await database.drop();
});

const give = (name: string, call: string) => api.post<TacticalView>('/tactical-names', { name, call });
const list = () => api.get<TacticalView[]>('/tactical-names');

describe('tactical names', () => {
  it('go from one station to another, and what was before stays on record', async () => {
    const first = await give('Shelter 2', 'qt7sh-5');
    expect(first).toMatchObject({ call: 'QT7SH-5', until: null });
    // The same again changes nothing.
    expect(await give('Shelter 2', 'QT7SH-5')).toEqual(first);
    nowMs += 3_600_000;
    const second = await give('SHELTER 2', 'QT6CL');
    const changed = new Date(nowMs).toISOString();
    expect(await list()).toEqual([second, { ...first, until: changed }]);
    expect(second).toMatchObject({ name: 'SHELTER 2', call: 'QT6CL', since: changed, until: null });

    nowMs += 60_000;
    const ended = async (id: string) => (await api.send(`/tactical-names/${id}`, { method: 'DELETE' })).status;
    expect(await ended(second.id)).toBe(204);
    const at = new Date(nowMs).toISOString();
    nowMs += 60_000;
    // It ended the first time.
    expect(await ended(second.id)).toBe(204);
    expect((await list())[0]).toEqual({ ...second, until: at });
    expect(await ended(randomUUID())).toBe(404);
    const events = await api.get<LiveEvent[]>('/events?after=0');
    expect(events.filter(({ type }) => type === 'tactical name')).toHaveLength(3);
  });

  it('hold once when two give one at the same moment, and are no calls', async () => {
    await Promise.all(['QT1NC', 'QT6CL', 'QT7SH-5'].map((call) => give('Gate', call)));
    expect((await list()).filter(({ until }) => until === null)).toHaveLength(1);
    expect(await give('QT1NC', 'QT6CL')).toMatchObject({ status: 422 });
    expect(await give('Gate', 'Gate')).toMatchObject({ status: 422 });
  });

  it('are so many and no more', async () => {
    for (let n = 0; n < 200; n++) await give(`Post ${n}`, 'QT6CL');
    expect(await give('One too many', 'QT6CL')).toMatchObject({ status: 409 });
    // One that is held goes over to another all the same.
    expect(await give('Post 7', 'QT1NC')).toMatchObject({ call: 'QT1NC' });
    expect((await list()).filter(({ until }) => until === null)).toHaveLength(200);
  });
});
