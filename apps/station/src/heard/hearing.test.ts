import { randomUUID } from 'node:crypto';
import type { Alarm, HeardLink, ReadingsView, StationDetail, StationView, TrailView, Watch } from '@tombolo/contract';
import { check } from '@placemarkio/check-geojson';
import { rowsOf } from '../store/database';
import { wantRebuild } from '../ingest/derived/rebuild';
import {
  rebuilt,
  createDatabase,
  eventually,
  RADIO,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
} from '../testing/harness';

let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Awaited<ReturnType<typeof startWithModem>>;
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

/** Lets the station hear a packet, and waits until its source is known with at least so many packets. */
async function hear(line: string, packets = 1): Promise<StationDetail> {
  modem.hear(line);
  const call = line.slice(0, line.indexOf('>'));
  return eventually(async () => {
    const seen = await api.get<StationDetail>(`/stations/${call}`);
    return seen.packets >= packets ? seen : undefined;
  });
}
const find = (call: string) => api.get<StationDetail>(`/stations/${encodeURIComponent(call)}`);

describe('a station', () => {
  it('is known by its last place, how it was heard, what it says and how it can be called', async () => {
    const seen = await hear('QT1AA-9>APRS,QT0BR-1*:=4112.00N/04324.00W>088/036146.520MHz Toff Convoy /A=000100');
    expect(seen).toMatchObject({
      kind: 'station',
      name: 'QT1AA-9',
      how: 'relayed',
      via: ['QT0BR-1'],
      words: 'heard via QT0BR-1',
      messaging: true,
      latitude: expect.closeTo(41.2, 6),
      courseDeg: 88,
      speedKnots: 36,
      altitudeM: expect.closeTo(30.48, 6),
      comment: 'Convoy',
      frequency: { frequencyMHz: 146.52, toneOff: true },
      directAt: null,
      bearers: [RADIO],
      line: expect.stringContaining('QT0BR-1*'),
    });
    expect(seen.distanceKm).toBeCloseTo(12.3, 0);
    const digipeater = await find('QT0BR-1');
    expect(digipeater).toMatchObject({ how: 'direct', words: 'known from passing on QT1AA-9' });
    expect(digipeater.relaysAt).not.toBeNull();
    expect(digipeater.directAt).not.toBeNull();
  });

  it('moves along a trail; jumps are flagged and kept off it, and 0° 0′ is nowhere', async () => {
    await hear('QT1AB-9>APRS:!4112.00N/04324.00W>', 1);
    await hear('QT1AB-9>APRS:!4112.50N/04324.00W>', 2);
    await hear('QT1AB-9>APRS:!5512.00N/01024.00E>', 3);
    const jumped = await hear('QT1AB-9>APRS:!0000.00N/00000.00E>', 4);
    expect(jumped).toMatchObject({ latitude: expect.closeTo(41.2083, 3), packets: 4, moves: 2 });
    expect(jumped.doubtAt).not.toBeNull();
    expect(jumped.trail.map(({ fault }) => fault)).toEqual([null, null, 'jump']);
    // A second report of the far place confirms it.
    const believed = await hear('QT1AB-9>APRS:!5512.10N/01024.00E>', 5);
    expect(believed).toMatchObject({ latitude: expect.closeTo(55.2017, 3), doubtAt: null });
    const trails = await api.get<TrailView[]>('/trails?hours=1');
    expect(trails.find(({ call }) => call === 'QT1AB-9')?.steps).toEqual([
      -4_340_000, 4_120_000, 0, 833, 5_380_000, 1_399_334,
    ]);
  });

  it('keeps its place when only a locator follows, and takes the locator when there is nothing else', async () => {
    await hear('QT1AC>APRS:!4112.00N/04324.00W-', 1);
    expect(await hear('QT1AC>APRS:>GN81ig/- On duty', 2)).toMatchObject({
      latitude: expect.closeTo(41.2, 6),
      status: 'On duty',
    });
    expect(await hear('QT1AD>APRS:>GN81ig/- On duty')).toMatchObject({ latitude: expect.closeTo(41.27, 1) });
  });

  it('is heard by Mic-E with the state that its operator set', async () => {
    const seen = await hear('QT1AE-9>S32UVT:`(_fn"Oj/>Hello=');
    expect(seen).toMatchObject({ message: 'Returning', speedKnots: 20, comment: 'Hello', symbol: '/j' });
    const { rows } = await api.get<{ rows: { id: string; kind: string }[] }>('/packets?station=QT1AE-9');
    expect(rows[0]!.kind).toBe('Mic-E');
    const detail = await api.get<{
      fields: { name: string; words: string; from: number; to: number }[];
      rawHex: string;
    }>(`/packets/${rows[0]!.id}`);
    const longitude = detail.fields.find(({ name }) => name === 'Longitude')!;
    const raw = Buffer.from(detail.rawHex, 'hex');
    expect(raw.subarray(longitude.from, longitude.to).toString('latin1')).toBe('(_f');
    // The latitude stands in the destination, whose characters are shifted by one bit in a frame.
    const latitude = detail.fields.find(({ name }) => name === 'Latitude')!;
    expect([...raw.subarray(latitude.from, latitude.to)].map((octet) => String.fromCharCode(octet >> 1)).join('')).toBe(
      'S32UVT',
    );
  });

  it('can be muted and noted, and a change is what a console asks for', async () => {
    await hear('QT1AF>APRS:>Here');
    const all = await api.get<StationView[]>('/stations');
    const newest = all.reduce((last, { changedAt }) => (changedAt > last ? changedAt : last), '');
    const changed = await api.patch<StationDetail>('/stations/QT1AF', { muted: true, note: 'Has the generator' });
    expect(changed).toMatchObject({ muted: true, note: 'Has the generator' });
    const since = await api.get<StationView[]>(`/stations?since=${newest}`);
    expect(since.length).toBeLessThan(all.length);
    expect(since.find(({ call }) => call === 'QT1AF')).toMatchObject({ muted: true });
    expect(await api.patch('/stations/QT1AF', { muted: false, colour: 'red' })).toMatchObject({ status: 422 });
    expect(await api.patch('/stations/QT9ZZ', { muted: true })).toMatchObject({
      status: 404,
      type: 'tombolo:not-heard',
    });
  });
});

describe('an object', () => {
  const object = (state: '*' | '_', place = '4112.00N/04324.00W') => `;RAMP     ${state}251200z${place}rKeep off`;
  it('belongs to who reports it: a stranger may move it with a remark, but not take it away', async () => {
    await hear(`QT1BA>APRS:${object('*')}`, 1);
    expect(await find(';RAMP')).toMatchObject({
      kind: 'object',
      name: 'RAMP',
      owner: 'QT1BA',
      live: true,
      conflict: null,
    });
    await hear(`QT1BB>APRS:${object('_')}`, 1);
    expect(await find(';RAMP')).toMatchObject({
      live: true,
      owner: 'QT1BA',
      conflict: expect.stringContaining('QT1BB says that it is gone'),
    });
    await hear(`QT1BB>APRS:${object('*', '4112.50N/04324.00W')}`, 2);
    expect(await find(';RAMP')).toMatchObject({
      owner: 'QT1BB',
      latitude: expect.closeTo(41.2083, 3),
      conflict: 'taken over by QT1BB from QT1BA',
    });
    // Another place, or it would be a copy of what was sent before.
    await hear(`QT1BB>APRS:${object('_', '4112.50N/04324.00W')}`, 3);
    expect(await find(';RAMP')).toMatchObject({ live: false, conflict: null });
  });
  it('is not the place of who reports it', async () => {
    expect(await find('QT1BA')).toMatchObject({ latitude: null });
  });
});

describe('weather and telemetry', () => {
  const weather = (gust: number) => `QT5WX-13>APRS:!4107.25N/04330.81W_045/028g0${gust}t051r002h88b09961`;
  it('become series in the units that people use', async () => {
    await hear(weather(30), 1);
    await hear(weather(40), 2);
    const [board] = await api.get<ReadingsView[]>('/readings?kind=weather&hours=1');
    expect(board).toMatchObject({ call: 'QT5WX-13', kind: 'weather', defined: true });
    const gusts = board!.series.find(({ quantity }) => quantity === 'weather:gustMph')!;
    expect(gusts).toMatchObject({ name: 'Gusts', unit: 'm/s' });
    expect(gusts.points.map(({ value }) => value)).toEqual([
      expect.closeTo(30 * 0.44704, 6),
      expect.closeTo(40 * 0.44704, 6),
    ]);
  });

  it('are shown as sent without definitions, and only the station itself may define them', async () => {
    await hear('QT8PH-12>APRS:T#001,150,129,000,038,000,10000000', 1);
    const board = async () => (await api.get<ReadingsView[]>('/readings?kind=telemetry&hours=1'))[0]!;
    expect(await board()).toMatchObject({
      defined: false,
      series: [{ name: 'Analog 1', unit: '', points: [{ value: 150 }] }, {}, {}, {}, {}],
    });
    await hear('QT1CA>APRS::QT8PH-12 :PARM.Nonsense', 1);
    expect((await board()).series[0]!.name).toBe('Analog 1');
    await hear('QT8PH-12>APRS::QT8PH-12 :PARM.Level,Battery,Flow,Room,,Pump,Door', 2);
    await hear('QT8PH-12>APRS::QT8PH-12 :UNIT.m,V,l/s,degC,,on,open', 3);
    await hear('QT8PH-12>APRS::QT8PH-12 :EQNS.0,0.01,0,0,0.1,0', 4);
    expect(await board()).toMatchObject({
      defined: true,
      series: [{ name: 'Level', unit: 'm', points: [{ value: expect.closeTo(1.5, 9) }] }, {}, {}, {}, {}],
    });
    expect((await board()).digital[0]).toEqual({ name: 'Pump', label: 'on', active: true });
  });

  it('raise an alarm when a limit is passed, once, until it is seen and has gone off', async () => {
    const watch = await api.post<Watch>('/watches', {
      id: randomUUID(),
      call: 'QT5WX-13',
      quantity: 'weather:gustMph',
      threshold: { when: 'above', limit: 20, withinHours: 1 },
    });
    expect(watch).toMatchObject({ name: 'Gusts', words: 'above 20 m/s', raised: false });
    await hear(weather(50), 3);
    const [alarm] = await eventually(async () => {
      const alarms = await api.get<Alarm[]>('/alarms');
      return alarms.length > 0 ? alarms : undefined;
    });
    expect(alarm).toMatchObject({ call: 'QT5WX-13', words: 'Gusts 22.4 m/s – above 20 m/s', seenAt: null });
    await hear(weather(51), 4);
    expect(await api.get<Alarm[]>('/alarms')).toHaveLength(1);
    expect((await api.post<Alarm>(`/alarms/${alarm!.id}/seen`, {})).seenAt).not.toBeNull();
    await hear(weather(20), 5);
    await eventually(async () => !(await api.get<Watch[]>('/watches'))[0]!.raised);
    await hear(weather(60), 6);
    await eventually(async () => (await api.get<Alarm[]>('/alarms')).length === 2);
    const off = await api.patch<Watch>(`/watches/${watch.id}`, { enabled: false });
    expect(off).toMatchObject({ enabled: false, raised: false });
    expect((await api.send(`/watches/${watch.id}`, { method: 'DELETE' })).status).toBe(204);
    expect(await api.get('/watches')).toEqual([]);
  });

  it('raise an alarm at once for what is beyond the limit already, and refuse what cannot be watched', async () => {
    const wanted = {
      id: randomUUID(),
      call: 'QT8PH-12',
      quantity: 'telemetry:1',
      threshold: { when: 'above', limit: 1, withinHours: 1 },
    };
    expect(await api.post<Watch>('/watches', wanted)).toMatchObject({
      raised: true,
      name: 'Level',
      words: 'above 1 m',
    });
    const change = (body: object) => api.patch<Watch>(`/watches/${wanted.id}`, body);
    const alarms = (await api.get<Alarm[]>('/alarms')).length;
    expect(await change({ threshold: { when: 'above', limit: 900, withinHours: 1 } })).toMatchObject({
      raised: false,
      words: 'above 900 m',
    });
    expect(await change({ threshold: { when: 'above', limit: 0.5, withinHours: 1 } })).toMatchObject({ raised: true });
    expect(await api.get<Alarm[]>('/alarms')).toHaveLength(alarms + 1);
    expect(await change({ quantity: 'luck:1' })).toMatchObject({ status: 422 });
    expect(await api.post('/watches', { ...wanted, quantity: 'luck:1' })).toMatchObject({ status: 422 });
    expect(
      await api.post('/watches', { ...wanted, threshold: { when: 'over', limit: 1, withinHours: 1 } }),
    ).toMatchObject({ status: 422 });
    expect(await api.post('/alarms/999999/seen', {})).toMatchObject({ status: 404 });
  });
});

describe('links', () => {
  it('count who heard whom, with the farthest that it worked', async () => {
    await hear('QT0TH-3>APRS:!4114.55N/04327.36W#', 1);
    for (const n of [1, 2, 3]) await hear(`QT1DA-9>APRS,QT0TH-3*:!4112.00N/04324.00W>${n}`, n);
    const links = await api.get<HeardLink[]>('/heard-links');
    expect(links.find(({ from, by }) => from === 'QT1DA-9' && by === 'QT0TH-3')).toMatchObject({
      count: 3,
      firstCount: 3,
      bestKm: expect.closeTo(6.66, 1),
    });
    expect(links.find(({ from, by }) => from === 'QT0TH-3' && by === 'QT2AR-7')).toMatchObject({
      count: 4,
      firstCount: 1,
    });
    expect((await find('QT1DA-9')).links).toHaveLength(1);
  });
});

describe('exports', () => {
  it('give stations and trails as GPX, KML and GeoJSON, all of them or one', async () => {
    const text = async (path: string) => (await api.send(path)).text();
    const geojson = check(await text('/exports/stations.geojson')) as unknown as {
      features: { properties: { name: string }; geometry: { type: string } }[];
    };
    expect(
      geojson.features
        .filter(({ geometry }) => geometry.type === 'LineString')
        .map(({ properties }) => properties.name),
    ).toContain('QT1AB-9');
    const one = await api.send('/exports/stations.gpx?call=QT1AB-9');
    expect(one.headers.get('content-disposition')).toMatch(/filename="QT1AB-9-.*\.gpx"/);
    expect((await one.text()).match(/<trkpt/g)).toHaveLength(3);
    expect(await text('/exports/stations.kml')).toContain('<coordinates>');
    const csv = await text('/exports/readings.csv?kind=weather');
    expect(csv.split('\r\n')[0]).toBe('Time (UTC),Station,Quantity,Value,Unit');
    expect(csv).toContain('QT5WX-13,Gusts,13.4,m/s');
  });
});

describe('maps', () => {
  const add = (name: string, kind: string, body: string | Buffer) =>
    api.send(`/maps?name=${name}&kind=${kind}`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: body as BodyInit,
    });
  const point =
    '{"type":"Feature","properties":{"name":"Ramp"},"geometry":{"type":"Point","coordinates":[-43.4,41.2]}}';

  /** A header of version 3 with a root directory of 100 octets and tiles of so many behind it. */
  const archiveHead = (tileOctets: number, compression = 1) => {
    const head = Buffer.alloc(127);
    head.write('PMTiles', 'latin1');
    head[7] = 3;
    for (const [at, offset, octets] of [
      [8, 127, 100],
      [24, 127, 0],
      [40, 127, 0],
      [56, 127, tileOctets],
    ] as const) {
      head.writeBigUInt64LE(BigInt(offset), at);
      head.writeBigUInt64LE(BigInt(octets), at + 8);
    }
    head[97] = compression;
    return head;
  };

  it('are kept and served in pieces', async () => {
    // Larger than a stored piece and than one answer, so that a range crosses the edges of both.
    const octets = Buffer.concat([archiveHead(9_000_000), Buffer.alloc(9_000_000, 'tombolo sand ')]);
    const answer = await add('tiles', 'pmtiles', octets);
    expect(answer.status).toBe(201);
    const { id } = (await answer.json()) as { id: string };
    const piece = await api.send(`/maps/${id}/content`, { headers: { range: 'bytes=262100-262199' } });
    expect(piece.status).toBe(206);
    expect(piece.headers.get('content-range')).toBe(`bytes 262100-262199/${octets.length}`);
    expect(Buffer.from(await piece.arrayBuffer())).toEqual(octets.subarray(262_100, 262_200));
    expect(octets.equals(Buffer.from(await (await api.send(`/maps/${id}/content`)).arrayBuffer()))).toBe(true);
    const long = await api.send(`/maps/${id}/content`, { headers: { range: 'bytes=8-' } });
    expect(long.headers.get('content-range')).toBe(`bytes 8-${8 * 1024 * 1024 + 7}/${octets.length}`);
    expect(octets.subarray(8, 8 + 8 * 1024 * 1024).equals(Buffer.from(await long.arrayBuffer()))).toBe(true);
    expect((await api.send(`/maps/${id}/content`, { headers: { range: 'bytes=9999999-' } })).status).toBe(416);
    expect((await api.send(`/maps/${id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await api.send(`/maps/${id}/content`)).status).toBe(404);
  });
  it('are refused with a reason when they cannot be shown, and leave nothing behind', async () => {
    expect((await add('good', 'geojson', point)).status).toBe(201);
    for (const [kind, body, reason] of [
      ['geojson', '{"type":', 'not JSON'],
      ['geojson', '{"type":"Feature","properties":null,"geometry":{"type":"Point","coordinates":["x",1]}}', 'RFC 7946'],
      ['pmtiles', `PMTiles\u0002${'x'.repeat(200)}`, 'version 3'],
      ['pmtiles', 'PMTiles', '127 octets'],
      ['pmtiles', Buffer.concat([archiveHead(4_000_000_000_000), Buffer.alloc(100)]), 'he tiles would end at octet'],
      ['pmtiles', Buffer.concat([archiveHead(1000, 2), Buffer.alloc(1000, 1)]), 'cannot be opened'],
    ] as const) {
      const answer = await add('bad', kind, body);
      expect(answer.status).toBe(422);
      expect(((await answer.json()) as { detail: string }).detail).toContain(reason);
    }
    expect(await api.get('/maps')).toMatchObject([{ name: 'good', kind: 'geojson' }]);
    expect(await rowsOf(station.context.database, 'select count(*)::int as n from map_layer')).toEqual([{ n: 1 }]);
  });
});

describe('questions of other stations', () => {
  const sentTexts = () => modem.sent.map((octets) => Buffer.from(octets).toString('latin1'));
  it('are left to the operator unless answers are allowed', async () => {
    await hear('QT1EA>APRS::QT2AR-7  :?APRSD', 1);
    const { rows } = await api.get<{ rows: { body: string; heap: string }[] }>('/items?direction=in');
    expect(rows.find(({ body }) => body === '?APRSD')?.heap).toBe('needs you');
    expect(sentTexts().some((text) => text.includes('Directs='))).toBe(false);
  });
  it('are answered once with what was heard, when they are', async () => {
    await api.patch('/settings', { answerQueries: true });
    await hear('QT1EB>APRS::QT2AR-7  :?APRSD', 1);
    await eventually(() => sentTexts().some((text) => text.includes(':QT1EB    :Directs=QT1EA')));
    await hear('QT1EB>APRS,QT0BR-1*::QT2AR-7  :?APRST', 2);
    await eventually(() => sentTexts().some((text) => text.includes(':QT1EB    :PATH= QT0BR-1*')));
    await hear('QT1EB>APRS::QT2AR-7  :?APRSP', 3);
    await eventually(() => sentTexts().some((text) => text.includes('=4116.14N/04317.10W[')));
    await hear('QT1EB>APRS::QT2AR-7  :?APRSH QT1EA', 4);
    await eventually(() => sentTexts().some((text) => text.includes('QT1EA heard: 1 0')));
    const { rows } = await api.get<{ rows: { body: string; heap: string }[] }>('/items?direction=in');
    expect(rows.find(({ body }) => body === '?APRST')?.heap).toBe('filed');
  });
  it('are answered with the symbol and the status that the operator chose, or not at all', async () => {
    // Without a status and a voice frequency there is nothing to say: the question is left to the operator.
    await hear('QT1EC>APRS::QT2AR-7  :?APRSS', 1);
    const heapOf = async (sender: string) => {
      const { rows } = await api.get<{ rows: { sender: string; heap: string }[] }>('/items?direction=in');
      return rows.find((row) => row.sender === sender)?.heap;
    };
    expect(await heapOf('QT1EC')).toBe('needs you');
    await api.patch('/settings', { statusText: 'Net control at the school', voiceMHz: 146.52, symbol: '/c' });
    await hear('QT1ED>APRS::QT2AR-7  :?APRSS', 1);
    await eventually(() => sentTexts().some((text) => text.includes('>146.520MHz Net control at the school')));
    await hear('QT1ED>APRS::QT2AR-7  :?APRSP', 2);
    await eventually(() => sentTexts().some((text) => text.includes('=4116.14N/04317.10Wc')));
    // One that leaves no room for the frequency goes out alone.
    await api.patch('/settings', { statusText: 'x'.repeat(62) });
    await hear('QT1EE>APRS::QT2AR-7  :?APRSS', 1);
    await eventually(() => sentTexts().some((text) => text.endsWith(`>${'x'.repeat(62)}`)));
    for (const wrong of [{ statusText: 'x'.repeat(63) }, { statusText: 'a|b' }, { symbol: 'c' }])
      expect(await api.patch('/settings', wrong)).toMatchObject({ status: 422 });
    await api.patch('/settings', { answerQueries: false });
  });
});

describe('the log', () => {
  it('finds packets by words, station, kind, link, and pages through them', async () => {
    const page = (query: string) =>
      api.get<{ rows: { id: string; source: string; kind: string }[]; next: string | null }>(`/packets?${query}`);
    expect((await page('text=Convoy')).rows).toMatchObject([{ source: 'QT1AA-9' }]);
    expect((await page('text=100%25')).rows).toEqual([]);
    expect((await page('kind=object')).rows.length).toBe(4);
    expect((await page('kind=object&station=QT1BA')).rows.length).toBe(1);
    const first = await page(`bearerId=${RADIO}&limit=5`);
    const second = await page(`bearerId=${RADIO}&limit=5&before=${first.next}`);
    expect(first.rows).toHaveLength(5);
    expect(new Set([...first.rows, ...second.rows].map(({ id }) => id)).size).toBe(10);
    expect((await page('bearerId=nobody')).rows).toEqual([]);
  });
});

describe('a rebuild', () => {
  it('makes all that is derived anew, and the same', async () => {
    const { database: source } = station.context;
    const snapshot = async () => ({
      stations: (await rowsOf<{ state: object }>(source, 'select state from station order by call')).map(
        ({ state }) => state,
      ),
      trails: await rowsOf(source, 'select call, packet_id, latitude, fault from trail_point order by call, packet_id'),
      weather: await rowsOf(source, 'select call, packet_id, weather from weather_reading order by call, packet_id'),
      telemetry: await rowsOf(source, 'select * from telemetry_reading order by call, packet_id'),
      meaning: await rowsOf(source, 'select call, meaning from telemetry_meaning order by call'),
      links: await rowsOf(source, 'select from_call, by_call, count, first_count from heard_link order by 1, 2'),
    });
    const before = await snapshot();
    await source.query("update packet set kind = 'Mic-E position' where kind = 'Mic-E'");
    await rebuilt(station);
    expect(await rowsOf(source, "select 1 from packet where kind = 'Mic-E'")).toEqual([]);
    await wantRebuild(source);
    await rebuilt(station);
    expect(await snapshot()).toEqual(before);
    expect(await rowsOf(source, "select 1 from packet where kind = 'Mic-E'")).toHaveLength(1);
  });
});

describe('a recording of mixed packets', () => {
  it('tells how many of each kind were understood, and why the others were not', async () => {
    const lines = [
      'QT1FA>APRS:!4112.00N/04324.00W-',
      'QT1FA>S32UVT:`(_fn"Oj/',
      'QT1FA>APRS:T#005,199,000,255,073,123,01101001',
      'QT1FA>APRS:_10090556c220s004g005t077r000p000P000h50b09900wRSW',
      'QT1FA>APRS:!9112.00N/04324.00W-',
      'QT1FA>APRS:!9212.00N/04324.00W-',
      'QT1FA>APRS:T#',
      'no packet at all',
    ];
    const answer = await api.send('/imports?name=mixed.txt&format=monitor&startedAt=2026-01-01T00:00:00.000Z', {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: lines.join('\n'),
    });
    expect(await answer.json()).toMatchObject({
      understood: 4,
      notUnderstood: 4,
      kinds: expect.arrayContaining([
        { kind: 'position', count: 1 },
        { kind: 'Mic-E', count: 1 },
      ]),
      reasons: expect.arrayContaining([{ reason: 'the latitude is off the globe', count: 2 }]),
    });
  });
});
