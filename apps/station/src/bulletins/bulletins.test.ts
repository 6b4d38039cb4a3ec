import { randomUUID } from 'node:crypto';
import type {
  HeardBulletin,
  ItemDetail,
  OwnBulletinChange,
  OwnBulletinView,
  TransmissionView,
} from '@tombolo/contract';
import { eachWithModem, eventually, RADIO } from '../testing/harness';
import { blocked, wentOut, wentOutMeanwhile } from '../testing/turns';
import { bulletinsTurn } from './own';

const at = eachWithModem();
const { lines } = at;
const out = (n: number) => wentOut(at, n);
const turnIn = async (seconds: number) => {
  at.aheadMs += seconds * 1000;
  await bulletinsTurn(at.station.context);
};
const inHours = (hours: number) => new Date(at.clock() + hours * 3_600_000).toISOString();
const write = (id: string, more: Partial<OwnBulletinChange> = {}) =>
  at.api.put<OwnBulletinView & { status?: number; detail?: string }>(`/own-bulletins/${id}`, {
    line: '1',
    group: '',
    text: 'Net at 1900Z on the repeater',
    bearerId: RADIO,
    path: ['WIDE1-1'],
    everyMin: 20,
    until: inHours(4),
    revision: null,
    ...more,
  });
const ours = () => at.api.get<OwnBulletinView[]>('/own-bulletins');

describe('our bulletins', () => {
  it('are told at once, again by their interval, changed, and no more once they are over', async () => {
    const id = randomUUID();
    expect(await write(id)).toMatchObject({ line: '1', live: true, revision: 1, stopped: null });
    await out(1);
    expect(lines()[0]).toBe('QT2AR-7>APZTOM,WIDE1-1::BLN1     :Net at 1900Z on the repeater');
    await turnIn(1100);
    expect((await ours())[0]).toMatchObject({ times: 1 });
    await turnIn(101);
    await out(2);
    expect(await write(id, { revision: 1, text: 'Net at 1930Z' })).toMatchObject({ revision: 2, times: 0 });
    await out(3);
    expect(lines()[2]).toMatch(/:BLN1 {5}:Net at 1930Z$/);
    await turnIn(4 * 3600);
    expect(at.modem.sent).toHaveLength(3);
    expect(await ours()).toMatchObject([{ live: false, endedAt: null, stopped: null }]);
    const { rows } = await at.api.get<{ rows: TransmissionView[] }>('/transmissions');
    expect(rows[0]!.evidence[0]!.note).toBe('bulletin 1, for everybody');
  });

  it('of one line are one: another takes its place on purpose, and is not told beside it', async () => {
    const [one, other, group] = [randomUUID(), randomUUID(), randomUUID()];
    await write(one);
    await out(1);
    expect(await write(other)).toMatchObject({ status: 409, detail: expect.stringContaining('Nothing was changed') });
    expect(await write(group, { group: 'wx', text: 'Gale' })).toMatchObject({ group: 'WX' });
    await out(2);
    expect(lines()[1]).toMatch(/:BLN1WX {3}:Gale$/);
    expect(await write(other, { replace: true, text: 'In its place' })).toMatchObject({ live: true });
    await out(3);
    await turnIn(1300);
    await out(5);
    expect(
      lines()
        .slice(3)
        .map((line) => line.split(':').at(-1))
        .sort(),
    ).toEqual(['Gale', 'In its place']);
    expect(
      (await ours())
        .filter(({ live }) => live)
        .map(({ id }) => id)
        .sort(),
    ).toEqual([other, group].sort());
  });

  it('that are changed while they wait go out as they are now, and not as they were', async () => {
    const id = randomUUID();
    await write(id);
    await out(1);
    at.aheadMs += 1_300_000;
    const { context } = at.station;
    const leg = randomUUID();
    await context.database.query(
      `insert into leg select (jsonb_populate_record(l, jsonb_build_object('id', $1::text, 'next_at', $2::timestamptz, 'created_at', $3::timestamptz))).*
       from leg l where detail->>'ownBulletin' = $4 limit 1`,
      [leg, new Date(at.clock() + 60_000), new Date(at.clock()), id],
    );
    await write(id, { revision: 1, text: 'As it is now' });
    const [old] = await context.database.query<[{ next_at: Date | null }]>('select next_at from leg where id = $1', [
      leg,
    ]);
    expect(old.next_at).toBeNull();
    await out(2);
    expect(lines()[1]).toMatch(/As it is now$/);
  });

  it('are taken back by whoever saw them last, also while one waits', async () => {
    await at.api.put('/hold', { held: true });
    const id = randomUUID();
    expect(await write(id)).toMatchObject({ stopped: expect.stringContaining('held') });
    await at.api.put('/hold', { held: false });
    await turnIn(1);
    await out(1);
    const end = (revision: number) => at.api.post<OwnBulletinView>(`/own-bulletins/${id}/end`, { revision });
    expect(await end(9)).toMatchObject({ status: 409 });
    const both = (await Promise.all([end(1), end(1)])) as { status?: number }[];
    expect(both.map(({ status = 200 }) => status).sort()).toEqual([200, 409]);
    // What went out before stays so.
    expect(await ours()).toMatchObject([{ live: false, times: 1, endedAt: expect.any(String) }]);
    await turnIn(1300);
    expect(at.modem.sent).toHaveLength(1);
    expect(await at.api.post(`/own-bulletins/${randomUUID()}/end`, { revision: 1 })).toMatchObject({ status: 404 });
  });

  it('that cannot go out are refused with what is wrong', async () => {
    for (const wrong of [
      { line: 'ab' },
      { group: 'TOOLONG' },
      { text: '' },
      { text: 'x'.repeat(68) },
      { text: 'a|b' },
      { everyMin: 1 },
      { until: 'tomorrow' },
      { until: inHours(-1) },
    ])
      expect([wrong, (await write(randomUUID(), wrong)).status]).toEqual([wrong, 422]);
    expect(await ours()).toEqual([]);
  });

  it('go out once of two turns, also when one went out after the other found it due', async () => {
    const id = randomUUID();
    await write(id);
    await out(1);
    at.aheadMs += 1_300_000;
    const { context } = at.station;
    let turn: Promise<unknown> = Promise.resolve();
    await context.database.transaction(async (manager) => {
      await manager.query('select 1 from own_bulletin where id = $1 for update', [id]);
      turn = bulletinsTurn(context);
      await blocked(context.database);
      await wentOutMeanwhile(manager, { ownBulletin: id }, new Date(context.now()));
    });
    await turn;
    const legs = await context.database.query<unknown[]>(`select 1 from leg where detail->>'ownBulletin' = $1`, [id]);
    expect(legs).toHaveLength(2);
  });
});

describe('bulletins that are heard', () => {
  const heard = () => at.api.get<HeardBulletin[]>('/bulletins');
  const hear = (from: string, addressee: string, text: string) =>
    at.modem.hear(`${from}>APZTOM::${addressee.padEnd(9)}:${text}`);
  const all = (n: number) =>
    eventually(async () => {
      const rows = await heard();
      return rows.length === n && rows;
    });

  it('stand by line, with how often and when last, what replaced them, and are over in time', async () => {
    await at.api.patch('/settings', { position: { latitude: 41.269, longitude: -43.285 } });
    at.modem.hear('QT1NC>APZTOM:=4112.41N/04325.22W-');
    hear('QT1NC', 'BLN2', 'Second line');
    hear('QT1NC', 'BLN1', 'First line');
    hear('QT5WX', 'NWS-WARN', 'Gale from the west');
    hear('QT1NC', 'BLNA', 'Meeting on Sunday');
    const rows = await all(4);
    expect(rows.map(({ sort, line }) => `${sort} ${line}`)).toEqual([
      'warning WARN',
      'bulletin 1',
      'bulletin 2',
      'announcement A',
    ]);
    expect(rows[1]!.distanceKm).toBeCloseTo(13.0, 0);
    expect(rows[0]!.distanceKm).toBeNull();
    at.aheadMs += 1_200_000;
    hear('QT1NC', 'BLN1', 'First line');
    await eventually(async () => (await heard())[1]!.times === 2);
    hear('QT1NC', 'BLN1', 'Another first line');
    const now = await all(5);
    expect(now.map(({ text, over, replaced }) => [text, over, replaced])).toEqual([
      ['Gale from the west', false, false],
      ['Another first line', false, false],
      ['Second line', false, false],
      ['Meeting on Sunday', false, false],
      ['First line', true, true],
    ]);
    at.aheadMs += 4 * 3_600_000;
    expect((await heard()).filter(({ over }) => !over).map(({ text }) => text)).toEqual([
      'Gale from the west',
      'Meeting on Sunday',
    ]);
  });

  it('of groups that are not ours are kept and need nobody', async () => {
    await at.api.patch('/settings', { bulletinGroups: ['WX'] });
    hear('QT1NC', 'BLN3WX', 'For us');
    hear('QT1NC', 'BLN3SHIPS', 'For ships');
    hear('QT1NC', 'BLN3', 'For all');
    await all(3);
    const { rows } = await at.api.get<{ rows: ItemDetail[] }>('/items');
    const filed = rows.filter(({ filedAt }) => filedAt !== null).map(({ body }) => body);
    expect(filed).toEqual(['For ships']);
  });
});
