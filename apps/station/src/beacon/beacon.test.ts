import { randomUUID } from 'node:crypto';
import type { BeaconNow, BeaconPlan, TransmissionView } from '@tombolo/contract';
import { eachWithModem, eventually, RADIO, startModem } from '../testing/harness';
import { blocked, wentOut, wentOutMeanwhile } from '../testing/turns';
import { beaconTurn, type BeaconContext } from './beacon';

const at = eachWithModem();
beforeEach(async () => {
  await at.api.patch('/settings', { position: { latitude: 41.269, longitude: -43.285 } });
});

const PLAN: BeaconPlan = {
  scheme: { by: 'time', everyS: 600 },
  bearerId: RADIO,
  path: ['WIDE1-1'],
  far: null,
  ambiguity: 0,
  comment: 'School',
};
const plan = (more: Partial<BeaconPlan> = {}) => at.api.patch('/settings', { beacon: { ...PLAN, ...more } });
const state = () => at.api.get<BeaconNow>('/beacon');
const sent = async () => (await at.api.get<{ rows: TransmissionView[] }>('/transmissions')).rows;
/** Later, and a turn of the plan, with a fix of our choosing. */
const turnIn = async (
  seconds: number,
  fix: { latitude: number; courseDeg: number; speedKnots: number } | null = null,
) => {
  at.aheadMs += seconds * 1000;
  const { database: queries, settings, positionNow, wakeOutbox } = at.station.context;
  const context: BeaconContext = {
    database: queries,
    settings,
    now: at.clock,
    wakeOutbox,
    positionNow: async () => {
      const now = await positionNow();
      if (!fix) return now;
      const { latitude, ...motion } = fix;
      const place = { latitude, longitude: -43.285 };
      const receivedAt = new Date(at.clock()).toISOString();
      return {
        ...now,
        position: place,
        receiver: {
          link: 'up',
          reason: null,
          read: 1,
          wrong: 0,
          lastWrong: null,
          fix: { ...place, ...motion, altitudeM: null, satellites: null, hdop: null, toldAt: null, receivedAt },
          fresh: true,
          lostAt: null,
          clockAheadS: null,
          silentS: null,
        },
      };
    },
  };
  return beaconTurn(context);
};
/** Until everything that waited is on the air. */
const out = (n: number) => wentOut(at, n);

describe('our position by the plan', () => {
  it('goes out by itself, once, and its record says so; without a plan nothing does', async () => {
    expect(await state()).toMatchObject({ plan: null, stopped: null, nextBy: null });
    await plan();
    await out(1);
    expect(at.lines()[0]!).toBe('QT2AR-7>APZTOM,WIDE1-1:=4116.14N/04317.10W[School');
    const [row] = await sent();
    expect(row!.evidence[0]!.note).toBe('our position, for everybody, by the beacon plan');
    const { lastAt, nextBy } = await state();
    expect(Date.parse(nextBy!) - Date.parse(lastAt!)).toBe(600_000);
    // Turns in between bring nothing.
    await turnIn(500);
    expect(await sent()).toHaveLength(1);
    await turnIn(100);
    await out(2);
  });

  it('goes out once, also when another turn’s went out after this one found it due', async () => {
    await plan();
    await out(1);
    at.aheadMs += 601_000;
    const { context } = at.station;
    let turn: Promise<unknown> = Promise.resolve();
    await context.database.transaction(async (manager) => {
      await manager.query('select 1 from bearer where id = $1 for update', [RADIO]);
      turn = beaconTurn(context);
      await blocked(context.database);
      await wentOutMeanwhile(manager, undefined, new Date(context.now()));
    });
    await turn;
    expect(await sent()).toHaveLength(2);
    expect(at.modem.sent).toHaveLength(1);
  });

  it('goes on after a restart where it was, not from the beginning', async () => {
    await plan();
    await out(1);
    await at.restart();
    await turnIn(60);
    expect(await sent()).toHaveLength(1);
  });

  it('stops when the source is lost, while the transmitter is locked and while all is held, and says so', async () => {
    await at.api.patch('/settings', { antennaConfirmed: false });
    await plan();
    expect((await state()).stopped).toMatch(/antenna/);
    await turnIn(0);
    await at.api.patch('/settings', { antennaConfirmed: true, position: null });
    expect((await state()).stopped).toBe('No position is set.');
    await turnIn(0);
    await at.api.put('/hold', { held: true });
    expect((await state()).stopped).toBe('Everything is held.');
    await turnIn(0);
    expect(await sent()).toEqual([]);
    await plan({ bearerId: 'none' });
    expect((await state()).stopped).toMatch(/not there any more/);
  });

  it('tells course and speed while it moves, and comes at a turn before its time', async () => {
    const north = { courseDeg: 0, speedKnots: 36 };
    // The station itself has no position here: only these turns have.
    await at.api.patch('/settings', { position: null });
    await plan({ scheme: { by: 'error', withinM: 250, leastS: 60, mostS: 1800 } });
    await turnIn(0, { latitude: 41.3, ...north });
    await out(1);
    expect(at.lines()[0]!).toContain('=4118.00N/04317.10W[360/036School');
    // 36 knots northwards are 0.0167° in 100 s: others reckon right.
    await turnIn(100, { latitude: 41.3167, ...north });
    expect(await sent()).toHaveLength(1);
    // It has stopped instead.
    await turnIn(30, { latitude: 41.3167, courseDeg: 0, speedKnots: 0 });
    await out(2);
    expect(at.lines()[1]!).toContain('=4119.00N/04317.10W[School');
  }, 60_000);

  it('takes the far path every nth time only', async () => {
    const far = { path: ['WIDE1-1', 'WIDE2-1'], everyNth: 3 };
    await plan({ scheme: { by: 'time', everyS: 60 }, far });
    await out(1);
    for (let n = 1; n < 6; n++) {
      await turnIn(60);
      await out(n + 1);
    }
    const paths = (await sent()).map(({ path }) => path.length).reverse();
    expect(paths).toEqual([1, 1, 2, 1, 1, 2]);
  }, 60_000);

  it('waits while the modem is away, and tells nobody afterwards where we were', async () => {
    await plan();
    await out(1);
    const { port } = at.modem;
    await at.modem.stop();
    await eventually(async () => (await state()).stopped !== null);
    expect((await state()).nextBy).toBeNull();
    await turnIn(600);
    expect(await sent()).toHaveLength(1);
    // By hand it may be queued; five minutes later it is no longer true.
    await at.api.post('/position-reports', { id: randomUUID(), bearerId: RADIO, path: [] });
    await at.api.patch('/settings', { beacon: null });
    at.aheadMs += 6 * 60_000;
    at.modem = await startModem(port);
    await eventually(() => at.modem.connections() > 0, 40);
    await eventually(async () => (await sent())[0]!.evidence.some(({ kind }) => kind === 'overdue'), 20);
    expect(at.modem.sent).toEqual([]);
  }, 90_000);

  it('is refused where it cannot be', async () => {
    for (const wrong of [
      { scheme: { by: 'time', everyS: 5 } },
      { scheme: { by: 'error', withinM: 250, leastS: 600, mostS: 60 } },
      { scheme: { by: 'distance', everyM: 0, leastS: 60, mostS: 600 } },
      { comment: 'x'.repeat(37) },
      { comment: '088/036' },
      { path: ['WIDE1-99'] },
      { far: { path: [], everyNth: 1 } },
    ])
      expect(await plan(wrong as Partial<BeaconPlan>)).toMatchObject({ status: 422 });
    expect(await state()).toMatchObject({ plan: null });
  });
});
