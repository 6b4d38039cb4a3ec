import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { OwnObject, TrackersNow } from '@tombolo/contract';
import fc from 'fast-check';
import { objectsTurn } from '../objects/objects';
import { eachWithModem, eventually } from '../testing/harness';
import { readFeed } from './feed';
import { trackersTurn } from './trackers';

const NOW = Date.parse('2026-11-25T08:05:00Z');
const unit = (name: string, more: object = {}, coordinates: unknown = [-43.285, 41.269]) => ({
  type: 'Feature',
  geometry: { type: 'Point', coordinates },
  properties: { unit: name, time: '2026-11-25T08:00:00Z', battery: 83, ...more },
});
const feed = (...features: unknown[]) => JSON.stringify({ type: 'FeatureCollection', features });

describe('an answer of a tracker feed', () => {
  it('is the latest of each unit; what one says wrong costs no other', () => {
    const read = readFeed(
      feed(
        unit('A'),
        unit('A', { time: '2026-11-25T08:03:00+00:00', emergency: true }),
        unit('A', { time: '2026-11-25T07:00:00Z' }),
        unit('B', { battery: 140 }),
        unit('C', { time: '1970-01-01T00:00:00Z' }),
        unit('D', {}, [-43.2, 412]),
        unit('E', { time: '2026-11-25T09:00:00Z' }),
        { type: 'Feature' },
        7,
        unit(9 as never),
      ),
      NOW,
    );
    if (!read.ok) throw new Error(read.error.reason);
    expect(read.value.reports).toMatchObject([
      { unit: 'A', at: '2026-11-25T08:03:00.000Z', emergency: true, batteryPercent: 83, latitude: 41.269 },
      { unit: '9', emergency: false },
    ]);
    expect(read.value.faults).toHaveLength(6);
    expect(read.value.faults).toContain('C: its time, 1970-01-01T00:00:00Z, cannot be right');
  });

  it('that is none is said to be none', () => {
    for (const [text, reason] of [
      ['', 'the feed answered nothing'],
      ['<!doctype html><title>Log in</title>', 'the feed did not answer with JSON'],
      ['{"type":"Topology"}', 'the feed did not answer with a FeatureCollection of GeoJSON'],
      ['null', 'the feed did not answer with a FeatureCollection of GeoJSON'],
    ])
      expect(readFeed(text!, NOW)).toMatchObject({ ok: false, error: { reason } });
    fc.assert(
      fc.property(fc.json(), (json) => {
        readFeed(json, NOW);
        readFeed(`{"type":"FeatureCollection","features":[${json}]}`, NOW);
      }),
    );
  });
});

describe('trackers from elsewhere', () => {
  const at = eachWithModem();
  let server: Server;
  let answer: { status?: number; body: string; location?: string };
  let asked = 0;
  beforeEach(async () => {
    asked = 0;
    server = createServer((_request, response) => {
      asked++;
      response.writeHead(answer.status ?? 200, answer.location ? { location: answer.location } : {});
      response.end(answer.body);
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterEach(() => new Promise<void>((resolve) => server.close(() => resolve())));

  const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();
  const state = () => at.api.get<TrackersNow>('/trackers');
  const turnOn = () =>
    at.api.patch('/settings', {
      trackerFeed: { url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/units`, everyS: 30 },
    });
  /**
   * Asks the feed, whenever it was asked before. Twice: the station's own turn may just have it in hand, and then whoever comes second finds
   * nothing to do.
   */
  const turn = async () => {
    for (let n = 0; n < 2; n++) {
      await at.station.context.database.query(`update tracker_feed set asked_at = asked_at - interval '1 hour'`);
      await trackersTurn(at.station.context);
    }
  };
  const change = (name: string, more: object = {}) =>
    at.api.put<TrackersNow & { status?: number }>('/trackers/SAT-1', {
      name,
      symbol: '/s',
      showBattery: true,
      bridged: true,
      ...more,
    });
  const { lines } = at;

  it('are listed, and go on the air only when somebody says so, as objects with whose they are and how old', async () => {
    const told = ago(3);
    answer = { body: feed(unit('SAT-1', { time: told })) };
    await turnOn();
    await turn();
    expect(await state()).toMatchObject({
      fault: null,
      units: [{ unit: 'SAT-1', name: 'SAT-1', bridged: false, stale: false }],
    });
    await objectsTurn(at.station.context);
    expect(await at.api.get('/own-objects')).toEqual([]);
    expect(await change('MUCH TOO LONG')).toMatchObject({ status: 422 });
    await change('BOAT');
    expect(await at.api.get<OwnObject[]>('/own-objects')).toMatchObject([{ name: 'BOAT', symbol: '/s', live: true }]);
    await objectsTurn(at.station.context);
    await eventually(() => at.modem.sent.length === 1);
    expect(lines()[0]).toContain(`stracker SAT-1 ${told.slice(11, 13)}${told.slice(14, 16)}z cell 83%`);
    // Not named to be seen, it is taken off, and that is said.
    await change('BOAT', { bridged: false });
    expect(await at.api.get<OwnObject[]>('/own-objects')).toMatchObject([{ live: false }]);
  });

  it('that nobody named are forgotten after a day, and never more than a thousand are kept; named ones stay', async () => {
    const old = ago(23 * 60);
    answer = {
      body: feed(
        unit('SAT-1', { time: old }),
        unit('SAT-2', { time: old }),
        unit('SOS', { time: old, emergency: true }),
      ),
    };
    await turnOn();
    await turn();
    await change('BOAT', { bridged: false });
    await at.station.context.database.query(
      `insert into tracker (unit, shown, report, object_id, changed_at)
       select 'X' || n, jsonb_build_object('name', 'X' || n, 'symbol', '/[', 'showBattery', false, 'bridged', false),
         jsonb_build_object('unit', 'X' || n, 'latitude', 41, 'longitude', -43, 'at', $1::text, 'batteryPercent', null, 'emergency', false),
         gen_random_uuid(), now()
       from generate_series(1, 1003) n`,
      [ago(60)],
    );
    await at.station.context.database.query(
      `update tracker set report = report || jsonb_build_object('at', $1::text) where unit in ('SAT-1', 'SAT-2', 'SOS')`,
      [ago(25 * 60)],
    );
    answer = { body: feed(unit('SAT-3', { time: ago(1) }), unit('SAT-4', { time: ago(25 * 60) })) };
    await turn();
    const { units } = await state();
    expect(units).toHaveLength(1002);
    const names = units.map(({ unit: name }) => name);
    expect(names).toEqual(expect.arrayContaining(['SAT-1', 'SAT-3', 'SOS']));
    expect(names).not.toContain('SAT-2');
    expect(names).not.toContain('SAT-4');
  });

  it('are told anew when they moved, at most so often, and taken off when they are stale', async () => {
    answer = { body: feed(unit('SAT-1', { time: ago(10) })) };
    await turnOn();
    await turn();
    await change('BOAT');
    const object = async () => (await at.api.get<OwnObject[]>('/own-objects'))[0]!;
    expect(await object()).toMatchObject({ revision: 1, latitude: 41.269 });
    answer = { body: feed(unit('SAT-1', { time: ago(5) }, [-43.285, 41.29])) };
    await turn();
    expect((await object()).revision).toBe(1);
    await at.station.context.database.query(`update own_object set changed_at = changed_at - interval '10 minutes'`);
    await turn();
    expect(await object()).toMatchObject({ revision: 2, latitude: 41.29 });
    await at.station.context.database.query(
      `update tracker set report = report || jsonb_build_object('at', $1::text)`,
      [ago(45)],
    );
    await turn();
    // The feed told of it again at a later time: only a tracker that is silent is stale.
    expect((await state()).units[0]!.stale).toBe(false);
    answer = { body: feed() };
    await at.station.context.database.query(
      `update tracker set report = report || jsonb_build_object('at', $1::text)`,
      [ago(45)],
    );
    await turn();
    expect((await state()).units[0]!.stale).toBe(true);
    expect(await object()).toMatchObject({ live: false });
  });

  it('that call for help raise an alarm, once, which ends when they say otherwise', async () => {
    answer = { body: feed(unit('SAT-1', { time: ago(4), emergency: true })) };
    await turnOn();
    await turn();
    await turn();
    answer = { body: feed(unit('SAT-1', { time: ago(3), emergency: true })) };
    await turn();
    const alarms = () => at.api.get<{ call: string; words: string; endedAt: string | null }[]>('/alarms');
    expect(await alarms()).toMatchObject([
      { call: 'SAT-1', words: 'calls for help: tracker SAT-1, by its feed', endedAt: null },
    ]);
    // Going back in time it says nothing.
    answer = { body: feed(unit('SAT-1', { time: ago(9) })) };
    await turn();
    expect((await alarms())[0]!.endedAt).toBeNull();
    answer = { body: feed(unit('SAT-1', { time: ago(1) })) };
    await turn();
    expect((await alarms())[0]!.endedAt).not.toBeNull();
  });

  it('of a name that a station has too end no alarm of that station, nor it theirs', async () => {
    const alarms = async () =>
      (await at.api.get<{ words: string; endedAt: string | null }[]>('/alarms')).map(({ endedAt }) => endedAt !== null);
    answer = { body: feed(unit('SAT-1', { time: ago(4), emergency: true })) };
    await turnOn();
    await turn();
    await change('QT4LB-8', { bridged: false });
    at.modem.hear('QT4LB-8>APZTOM:=4112.00N\\04324.00W!EMERGENCY');
    await eventually(async () => (await alarms()).length === 2);
    at.modem.hear('QT4LB-8>APZTOM:=4112.00N/04324.00WsAll well');
    await eventually(async () => (await alarms()).some(Boolean));
    expect((await alarms()).filter(Boolean)).toHaveLength(1);
    at.modem.hear('QT4LB-8>APZTOM:=4112.00N\\04324.00W!EMERGENCY again');
    await eventually(async () => (await alarms()).length === 3);
    answer = { body: feed(unit('SAT-1', { time: ago(1) })) };
    await turn();
    expect((await alarms()).filter((ended) => !ended)).toHaveLength(1);
  });

  it('are nodes of the mesh as well, once they told where they are', async () => {
    const told = Date.now() - 60_000;
    await at.station.context.database.query(
      `insert into station (call, state, last_at, changed_at) values ('K3F9-21QD',
         jsonb_build_object('call', 'K3F9-21QD', 'kind', 'node', 'name', 'LSFARM', 'latitude', 41.285, 'longitude', -43.248, 'positionAtMs', $1::float8),
         now(), now())`,
      [told],
    );
    await trackersTurn(at.station.context);
    await trackersTurn(at.station.context);
    expect((await state()).units).toMatchObject([
      { unit: 'mesh K3F9-21QD', name: 'K3F9-21QD', latitude: 41.285, bridged: false, stale: false },
    ]);
  });

  it('keep what is known when the feed fails, and say how', async () => {
    answer = { body: feed(unit('SAT-1', { time: ago(4) })) };
    await turnOn();
    await turn();
    for (const [next, fault] of [
      [{ body: '<html>' }, 'the feed did not answer with JSON'],
      [{ status: 503, body: '' }, 'the feed answered 503'],
      [{ body: `"${'x'.repeat(1_100_000)}"` }, 'the feed answered with more than a megabyte'],
      [{ status: 302, body: '', location: 'http://127.0.0.1:1/' }, 'the feed cannot be reached'],
    ] as const) {
      answer = next;
      await turn();
      expect(await state()).toMatchObject({ fault, units: [{ unit: 'SAT-1' }] });
    }
    // Two at once ask once.
    answer = { body: feed() };
    asked = 0;
    await at.station.context.database.query(`update tracker_feed set asked_at = asked_at - interval '1 hour'`);
    await Promise.all([1, 2, 3].map(() => trackersTurn(at.station.context)));
    expect(asked).toBe(1);
    expect(await at.api.patch('/settings', { trackerFeed: { url: 'file:///etc/passwd' } })).toMatchObject({
      status: 422,
    });
  });
});
