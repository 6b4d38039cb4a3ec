import { randomUUID } from 'node:crypto';
import type { OwnObject, OwnObjectChange, TransmissionView } from '@tombolo/contract';
import { eachWithModem, eventually, RADIO } from '../testing/harness';
import { blocked, wentOut, wentOutMeanwhile } from '../testing/turns';
import { statusTurn } from '../status/status';
import { objectsTurn } from './objects';

const at = eachWithModem();

const { lines } = at;
const out = (n: number) => wentOut(at, n);
const turnIn = async (seconds: number) => {
  at.aheadMs += seconds * 1000;
  await objectsTurn(at.station.context);
};
const SHELTER: OwnObjectChange = {
  form: 'object',
  name: 'SHELTER 1',
  latitude: 41.269,
  longitude: -43.285,
  symbol: '\\z',
  comment: '62 people',
  bearerId: RADIO,
  path: ['WIDE1-1'],
  everyMin: 10,
  revision: null,
};
const put = (id: string, more: Partial<OwnObjectChange> = {}) =>
  at.api.put<OwnObject & { status?: number }>(`/own-objects/${id}`, { ...SHELTER, ...more });
const list = () => at.api.get<OwnObject[]>('/own-objects');

describe('things on the map', () => {
  it('go out at once, again, by their interval, moved, and three times gone', async () => {
    const id = randomUUID();
    expect(await put(id)).toMatchObject({ name: 'SHELTER 1', revision: 1, live: true, stopped: null });
    await out(1);
    expect(lines()[0]).toMatch(/^QT2AR-7>APZTOM,WIDE1-1:;SHELTER 1\*\d{6}z4116\.14N\\\\?04317\.10Wz62 people$/);
    await turnIn(30);
    await turnIn(31);
    await out(2);
    await turnIn(300);
    await turnIn(301);
    await out(3);
    expect(await put(id, { revision: 1, latitude: 41.27, comment: '' })).toMatchObject({ revision: 2, times: 0 });
    await out(4);
    expect(lines()[3]).toContain('4116.20N');
    expect(await at.api.post(`/own-objects/${id}/end`, { revision: 2 })).toMatchObject({ live: false });
    await out(5);
    expect(lines()[4]).toContain(';SHELTER 1_');
    for (const n of [6, 7]) {
      await turnIn(61);
      await out(n);
    }
    await turnIn(3600);
    expect(at.modem.sent).toHaveLength(7);
    expect((await list())[0]).toMatchObject({ live: false, times: 3 });
  });

  it('are never two of one name, nor changed by somebody who saw an older state', async () => {
    const [one, other] = [randomUUID(), randomUUID()];
    await put(one);
    expect(await put(other, { name: 'shelter 1' })).toMatchObject({ status: 409 });
    const both = await Promise.all([put(one, { revision: 1, comment: 'a' }), put(one, { revision: 1, comment: 'b' })]);
    expect(both.map(({ status = 200 }) => status).sort()).toEqual([200, 409]);
    expect(await at.api.post(`/own-objects/${one}/end`, { revision: 1 })).toMatchObject({ status: 409 });
    expect(await put(other, { name: 'MUCH TOO LONG' })).toMatchObject({ status: 422 });
    expect(await at.api.post(`/own-objects/${other}/end`, { revision: 1 })).toMatchObject({ status: 404 });
    expect(await list()).toHaveLength(1);
  });

  it('of somebody else are taken over only on purpose, and left to whoever takes ours', async () => {
    const theirs = ';SHELTER 1*250805z4116.14N\\04317.10WzTheirs';
    at.modem.hear(`QT1NC>APZTOM:${theirs}`);
    await eventually(async () => (await at.api.get<unknown[]>('/stations')).length === 2);
    const id = randomUUID();
    expect(await put(id)).toMatchObject({ status: 409, detail: expect.stringContaining('QT1NC') });
    expect(await list()).toEqual([]);
    await put(id, { takeOver: true });
    await out(1);
    at.aheadMs += 5000;
    at.modem.hear(`QT6CL>APZTOM:;SHELTER 1*250809z4116.14N\\04317.10WzOurs now`);
    await eventually(async () =>
      (await at.api.get<{ owner: string | null }[]>('/stations')).some(({ owner }) => owner === 'QT6CL'),
    );
    await turnIn(61);
    expect(await list()).toMatchObject([
      { live: false, takenBy: 'QT6CL', stopped: expect.stringContaining('QT6CL reports it now') },
    ]);
    await turnIn(3600);
    expect(at.modem.sent).toHaveLength(1);
  });

  it('do not stand in the way of our position, and wait for the questions', async () => {
    await at.api.patch('/settings', { antennaConfirmed: false, position: { latitude: 41.2, longitude: -43.2 } });
    const id = randomUUID();
    expect((await put(id)).stopped).toContain('antenna');
    await turnIn(600);
    expect(at.modem.sent).toHaveLength(0);
    await at.api.patch('/settings', { antennaConfirmed: true });
    await turnIn(1);
    await at.api.post('/position-reports', { id: randomUUID(), bearerId: RADIO, path: [], ambiguity: 0, comment: '' });
    await out(2);
    expect(lines().some((line) => line.includes(';SHELTER 1*'))).toBe(true);
    expect(lines().some((line) => line.startsWith('QT2AR-7>APZTOM:='))).toBe(true);
  });
});

describe('two turns at once', () => {
  it('send a thing once, also when the first one’s went out after the second found it due', async () => {
    const id = randomUUID();
    await put(id);
    await out(1);
    at.aheadMs += 61_000;
    const { context } = at.station;
    const { database } = context;
    const legs = () => database.query<unknown[]>(`select 1 from leg where detail->>'object' = $1`, [id]);
    let turn: Promise<unknown> = Promise.resolve();
    await database.transaction(async (manager) => {
      await manager.query('select 1 from own_object where id = $1 for update', [id]);
      turn = objectsTurn(context);
      await blocked(database);
      await wentOutMeanwhile(manager, { object: id }, new Date(context.now()));
    });
    await turn;
    expect(await legs()).toHaveLength(2);
    await turnIn(601);
    expect(await legs()).toHaveLength(3);
  });
});

describe('our status', () => {
  it('goes out by its plan with the frequency that we listen on, and not while it says nothing', async () => {
    const turn = (seconds: number) => {
      at.aheadMs += seconds * 1000;
      return statusTurn(at.station.context);
    };
    await at.api.patch('/settings', { statusPlan: { bearerId: RADIO, path: [], everyMin: 30 } });
    await turn(0);
    expect(at.modem.sent).toHaveLength(0);
    await at.api.patch('/settings', { statusText: 'Net on the hour', voiceMHz: 146.52 });
    await Promise.all([turn(0), turn(0)]);
    await out(1);
    expect(lines()[0]).toBe('QT2AR-7>APZTOM:>146.520MHz Net on the hour');
    await turn(1700);
    await turn(101);
    await out(2);
    const { rows } = await at.api.get<{ rows: TransmissionView[] }>('/transmissions');
    expect(rows[0]!.evidence[0]!.note).toBe('our status, for everybody, by its plan');
  });
});
