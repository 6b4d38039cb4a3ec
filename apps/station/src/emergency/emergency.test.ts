import { randomUUID } from 'node:crypto';
import type { BeaconNow, EmergencyNow, TransmissionView } from '@tombolo/contract';
import { eachWithModem, eventually, RADIO } from '../testing/harness';
import { blocked, wentOut, wentOutMeanwhile } from '../testing/turns';
import { textTo } from '../testing/written';
import { emergencyTurn } from './emergency';

const at = eachWithModem();
beforeEach(async () => {
  await at.api.patch('/settings', { position: { latitude: 41.269, longitude: -43.285 } });
});

const { lines } = at;
const out = (n: number) => wentOut(at, n);
const call = (body: object = { drill: false, words: 'two hurt' }) => at.api.post<EmergencyNow>('/emergency', body);
const turnIn = (seconds: number) => {
  at.aheadMs += seconds * 1000;
  return emergencyTurn(at.station.context);
};
const REAL = 'QT2AR-7>APZTOM,WIDE1-1,WIDE2-1:=4116.14N\\04317.10W!EMERGENCY two hurt';

describe('our own call for help', () => {
  it('goes out at once, again until it is ended, says who has it, and is ended by radio too', async () => {
    expect(await at.api.get('/emergency')).toMatchObject({
      own: null,
      over: [{ bearerId: RADIO, stopped: null, times: 0 }],
    });
    expect(await call()).toMatchObject({ own: { drill: false, words: 'two hurt' } });
    await out(1);
    expect(lines()).toEqual([REAL]);
    at.modem.hear('QT2AR-7>APZTOM,QT0BR-1*,WIDE2-1:=4116.14N\\04317.10W!EMERGENCY two hurt');
    await eventually(async () => (await at.api.get<EmergencyNow>('/emergency')).over[0]!.seenBy.includes('QT0BR-1'));
    expect((await at.api.get<EmergencyNow>('/emergency')).over[0]!.times).toBe(1);
    await turnIn(30);
    await turnIn(31);
    await out(2);
    expect(await at.api.post('/emergency/end', {})).toMatchObject({ own: null });
    await out(3);
    expect(lines()[2]).toContain('W[Over: help is not needed any more');
    await turnIn(600);
    const { rows } = await at.api.get<{ rows: TransmissionView[] }>('/transmissions');
    expect(rows.map(({ evidence }) => evidence[0]!.note)).toEqual([
      'our call for help is over, for everybody',
      'our call for help, for everybody',
      'our call for help, for everybody',
    ]);
    // Heard back from a digipeater, our own call raises no alarm here.
    expect(await at.api.get('/alarms')).toEqual([]);
  });

  it('is called once, also when another turn’s call went out after this one found it due', async () => {
    await call();
    await out(1);
    at.aheadMs += 61_000;
    const { database } = at.station.context;
    let turn: Promise<unknown> = Promise.resolve();
    await database.transaction(async (manager) => {
      await manager.query('select 1 from bearer where id = $1 for update', [RADIO]);
      turn = emergencyTurn(at.station.context);
      await blocked(database);
      const { own } = await at.api.get<EmergencyNow>('/emergency');
      await wentOutMeanwhile(manager, { emergency: own!.since }, new Date(at.station.context.now()));
    });
    await turn;
    const { rows } = await at.api.get<{ rows: TransmissionView[] }>('/transmissions');
    expect(rows).toHaveLength(2);
    expect(at.modem.sent).toHaveLength(1);
  });

  it('is not called any more by a turn that found it due before it was over', async () => {
    await call();
    await out(1);
    at.aheadMs += 61_000;
    const { database } = at.station.context;
    let turn: Promise<unknown> = Promise.resolve();
    let end: Promise<unknown> = Promise.resolve();
    await database.transaction(async (manager) => {
      await manager.query('select 1 from bearer where id = $1 for update', [RADIO]);
      turn = emergencyTurn(at.station.context);
      await blocked(database);
      end = at.api.post('/emergency/end', {});
      await eventually(async () => (await at.api.get<EmergencyNow>('/emergency')).own === null);
    });
    await Promise.all([turn, end]);
    await out(2);
    expect(lines()[1]).toContain('Over');
    await turnIn(600);
    expect(at.modem.sent).toHaveLength(2);
  });

  it('is marked as a drill on the air, under our usual symbol', async () => {
    await call({ drill: true, words: '' });
    await out(1);
    expect(lines()[0]).toContain('W[EMERGENCY DRILL');
    await at.api.post('/emergency/end', {});
    await out(2);
    expect(lines()[1]).toContain('W[Drill is over');
  });

  it('goes on after a restart; pressed twice it is one', async () => {
    await Promise.all([call(), call(), call()]);
    await out(1);
    await at.restart();
    expect(await at.api.get('/emergency')).toMatchObject({ own: { words: 'two hurt' }, over: [{ times: 1 }] });
    await Promise.all([turnIn(61), emergencyTurn(at.station.context)]);
    await out(2);
    expect(lines()).toEqual([REAL, REAL]);
  });

  it('goes before everything that waits', async () => {
    for (const n of [1, 2, 3, 4])
      await at.api.post('/items', textTo('QT1NC', `Text ${n} that fills the channel for a while`));
    await call();
    await eventually(() => lines().some((line) => line.includes('EMERGENCY')), 20);
    // One may have been on the air already, and one at the at.modem.
    expect(lines().findIndex((line) => line.includes('EMERGENCY'))).toBeLessThanOrEqual(2);
  });

  it('lets no plain position of ours contradict it', async () => {
    await call();
    await out(1);
    await at.api.patch('/settings', {
      beacon: {
        scheme: { by: 'time', everyS: 30 },
        bearerId: RADIO,
        path: [],
        far: null,
        ambiguity: 0,
        comment: '',
      },
    });
    expect(await at.api.get<BeaconNow>('/beacon')).toMatchObject({ stopped: 'Our call for help goes out instead.' });
    const report = { id: randomUUID(), bearerId: RADIO, path: [], ambiguity: 0, comment: '' };
    expect(await at.api.post('/position-reports', report)).toMatchObject({ status: 409 });
  });

  it('without a position is a status', async () => {
    await at.api.patch('/settings', { position: null });
    await call();
    await out(1);
    expect(lines()[0]).toBe('QT2AR-7>APZTOM,WIDE1-1,WIDE2-1:>EMERGENCY two hurt');
  });

  it('does not pass the questions, and nothing is kept of what was refused', async () => {
    await at.api.patch('/settings', { antennaConfirmed: false });
    expect(await call()).toMatchObject({ status: 409, detail: expect.stringContaining('antenna') });
    expect(await call({ drill: false, words: 'x'.repeat(28) })).toMatchObject({ status: 422 });
    expect(await at.api.get('/emergency')).toMatchObject({ own: null });
    // Settings cannot begin or end it in passing.
    await at.api.patch('/settings', { antennaConfirmed: true });
    await call();
    await out(1);
    await at.api.patch('/settings', { emergency: null, statusText: 'x' });
    expect(await at.api.get('/emergency')).toMatchObject({ own: { drill: false } });
    expect(at.modem.sent).toHaveLength(1);
  });
});
