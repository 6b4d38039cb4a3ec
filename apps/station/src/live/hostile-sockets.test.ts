import { connect, type Socket } from 'node:net';
import WebSocket from 'ws';
import type { Station } from '../station';
import { apiOf, createDatabase, eventually, startTestStation, type Api, type TestDatabase } from '../testing/harness';
import { MOST_CONSOLES } from './feed';
import { mailTo, meshText, messageTo, textTo } from '../testing/written';

let database: TestDatabase;
let station: Station;
let api: Api;
let port: number;
const uncaught: unknown[] = [];
const onUncaught = (error: unknown) => uncaught.push(error);

beforeAll(async () => {
  process.on('uncaughtException', onUncaught).on('unhandledRejection', onUncaught);
  database = await createDatabase();
  station = await startTestStation(database.url);
  api = apiOf(station);
  port = Number(new URL(station.url).port);
});
afterAll(async () => {
  await station.stop();
  await database.drop();
  process.off('uncaughtException', onUncaught).off('unhandledRejection', onUncaught);
});
afterEach(async () => {
  expect(await api.get('/health')).toMatchObject({ name: 'tombolo' });
  expect(uncaught).toEqual([]);
});

/** Says octets to the station and gives what came back until it closes, or until it is reset. */
const say = (octets: string | Buffer, { reset = false } = {}) =>
  new Promise<string>((resolve) => {
    const socket: Socket = connect(port, '127.0.0.1', () => {
      socket.write(octets);
      if (reset) setImmediate(() => socket.resetAndDestroy());
    });
    let answer = '';
    socket.on('data', (data) => (answer += data.toString('latin1')));
    socket.on('error', () => undefined);
    socket.on('close', () => resolve(answer));
    socket.setTimeout(3000, () => socket.destroy());
  });
const upgrade = (path: string, headers: Record<string, string> = {}) =>
  [
    `GET ${path} HTTP/1.1`,
    ...Object.entries({
      Host: `127.0.0.1:${port}`,
      Upgrade: 'websocket',
      Connection: 'Upgrade',
      'Sec-WebSocket-Key': 'dGhlIHNhbXBsZSBub25jZQ==',
      'Sec-WebSocket-Version': '13',
      ...headers,
    }).map(([name, value]) => `${name}: ${value}`),
    '',
    '',
  ].join('\r\n');

describe('the live feed', () => {
  it.each([
    '//',
    '///',
    '//evil.example/api/v1/live',
    'http://',
    '/api/v1/live?after=%',
    '/api/v1/live?after=-1',
    '\\',
    '*',
    '/api/v1/live?after=9e99',
  ])('is not harmed by an upgrade to %s, however it is reset', async (path) => {
    expect(await say(upgrade(path))).not.toContain('101');
    for (let n = 0; n < 5; n++) await say(upgrade(path), { reset: true });
  });

  it('is not harmed by a broken frame sent with the upgrade, by none, and by a reset in between', async () => {
    const good = upgrade('/api/v1/live');
    for (const frame of [
      Buffer.from([0xff, 0xff, 0xff, 0xff]),
      Buffer.from([0x81, 0x00]),
      Buffer.from([0x81, 0xff, 0x7f, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff]),
      Buffer.from([0x88, 0x80, 0, 0, 0, 0]),
      Buffer.alloc(5000, 0xc1),
    ]) {
      await say(Buffer.concat([Buffer.from(good), frame]));
      await say(Buffer.concat([Buffer.from(good), frame]), { reset: true });
    }
    await say(good, { reset: true });
  }, 60_000);

  it('is closed to other sites, also where the browser alone says so', async () => {
    const open = (headers: Record<string, string>) =>
      new Promise<string>((resolve) => {
        const socket = new WebSocket(`ws://127.0.0.1:${port}/api/v1/live`, { headers });
        socket.once('open', () => (socket.close(), resolve('open')));
        socket.once('error', (error) => resolve(error.message));
      });
    expect(await open({})).toBe('open');
    expect(await open({ 'sec-fetch-site': 'same-origin' })).toBe('open');
    for (const site of ['cross-site', 'same-site', 'cross-site, same-origin', ''])
      expect(await open({ 'sec-fetch-site': site })).toContain('403');
    for (const site of ['cross-site', 'same-site']) {
      const answer = await api.send('/settings', { headers: { 'sec-fetch-site': site } });
      expect(answer.status).toBe(403);
    }
    expect((await api.send('/settings', { headers: { 'sec-fetch-site': 'none' } })).status).toBe(200);
  });

  it('names its own address alone in the content policy', async () => {
    const policy = (await api.send('/health')).headers.get('content-security-policy')!;
    expect(/connect-src ([^;]*)/.exec(policy)![1]).toBe(`'self' ws://127.0.0.1:${port}`);
    expect(policy).toContain("frame-ancestors 'none'");
    // A name that is none of this machine does not get there.
    expect(
      await say(`GET /api/v1/health HTTP/1.1\r\nHost: localhost;ws://evil.example\r\nConnection: close\r\n\r\n`),
    ).toContain('403');
  });

  it('bounds its consoles, cuts off those that never read, and answers meanwhile', async () => {
    const sockets = Array.from(
      { length: MOST_CONSOLES + 10 },
      () => new WebSocket(`ws://127.0.0.1:${port}/api/v1/live`),
    );
    let refused = 0;
    for (const socket of sockets) socket.on('error', () => refused++);
    await eventually(
      () =>
        refused === 10 && sockets.filter(({ readyState }) => readyState === WebSocket.OPEN).length === MOST_CONSOLES,
    );
    for (const socket of sockets) (socket as unknown as { _socket?: Socket })._socket?.pause();
    const large = 'x'.repeat(20_000);
    let slowest = 0;
    for (let n = 0; n < 150; n++) {
      await station.context.database.transaction(async (manager) => {
        await manager.query('update event_head set seq = seq + 1');
        await manager.query(`insert into event (seq, type, at, data) select seq, 'rule', now(), $1 from event_head`, [
          JSON.stringify({ large }),
        ]);
        await manager.query(`select pg_notify('tombolo_event', '')`);
      });
      const asked = performance.now();
      await api.get('/health');
      slowest = Math.max(slowest, performance.now() - asked);
    }
    // Half a gigabyte would wait for them otherwise: each holds at most a megabyte and what the kernel took.
    expect(process.memoryUsage().external).toBeLessThan(300 * 1024 * 1024);
    expect(slowest).toBeLessThan(1000);
    for (const socket of sockets) socket.terminate();
    await eventually(async () => {
      const late = new WebSocket(`ws://127.0.0.1:${port}/api/v1/live`);
      return new Promise<boolean>((resolve) => {
        late.once('open', () => (late.close(), resolve(true)));
        late.once('error', () => resolve(false));
      });
    });
  }, 60_000);
});

describe('HTTP', () => {
  it.each([
    ['half a request', 'GET'],
    ['another version', 'GET / HTTP/9.9\r\n\r\n'],
    ['control characters', '\u0000\u0001\u0002\r\n\r\n'],
    ['a head without end', `GET /api/v1/health HTTP/1.1\r\n${'X: y\r\n'.repeat(5000)}\r\n`],
    ['a negative length', `POST /api/v1/items HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: -1\r\n\r\n`],
    ['a broken chunk', `POST /api/v1/items HTTP/1.1\r\nHost: 127.0.0.1\r\nTransfer-Encoding: chunked\r\n\r\nZZ\r\n`],
  ])('is not harmed by %s', async (_name, octets) => {
    await say(octets);
    await say(octets, { reset: true });
  });

  it('lets few uploads in at once, and the rest answers meanwhile', async () => {
    const begun: Socket[] = [];
    const head = `POST /api/v1/imports?name=x&format=pcap HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/octet-stream\r\nContent-Length: 100000\r\n\r\n`;
    const answers = Array.from({ length: 20 }, () => {
      const socket = connect(port, '127.0.0.1', () => socket.write(head));
      begun.push(socket);
      let answer = '';
      socket.on('data', (data) => (answer += data.toString('latin1')));
      socket.on('error', () => undefined);
      return () => answer;
    });
    await eventually(() => answers.filter((answer) => answer().includes('503')).length === 18);
    const asked = performance.now();
    expect((await api.send('/items')).status).toBe(200);
    expect(performance.now() - asked).toBeLessThan(2000);
    for (const socket of begun) socket.destroy();
    // The two that were cut end as such, and can be taken off the list.
    const rows = await eventually(async () => {
      const runs = await api.get<{ id: string; finishedAt: string | null; problem: string | null }[]>('/imports');
      return runs.length === 2 && runs.every(({ finishedAt }) => finishedAt !== null) && runs;
    });
    for (const { id, problem } of rows) {
      expect(problem).toContain('the import stopped');
      expect((await api.send(`/imports/${id}`, { method: 'DELETE' })).status).toBe(204);
    }
    expect(await api.get('/imports')).toEqual([]);
  });

  it('answers what is absurd with what is wrong with it, never with a failure of its own', async () => {
    const nul = '%00';
    const far = '9999999999999999999';
    const uuid = '00000000-0000-4000-8000-000000000000';
    for (const path of [
      `/items?text=${nul}`,
      `/items?before=${far}:${uuid}`,
      `/items?before=1e99:x`,
      `/items?before=8640000000000000:${uuid}`,
      `/items?before=8640000000000001:${uuid}`,
      `/items?before=1:${'-'.repeat(36)}`,
      `/transmissions?before=8640000000000001:${uuid}`,
      `/items?before=${nul}`,
      `/packets?text=${nul}`,
      `/packets?station=${nul}&kind=${nul}`,
      `/packets?before=${far}:${far}`,
      `/packets?before=${far}`,
      `/packets?before=-9223372036854775809`,
      `/packets?before=-9223372036854775808&bearerId=radio`,
      `/packets?from=+275760-09-13T00:00:00Z`,
      `/packets?from=0000-01-01T00:00:00Z&to=9999-12-31T23:59:59Z`,
      `/packets/${far}`,
      `/failures?before=${far}:${far}`,
      `/stations/${nul}`,
      `/trails?hours=${far}`,
      `/readings?kind=weather&hours=1e300`,
      `/offers?bearerId=${nul}`,
      `/sessions?bearerId=${nul}`,
      `/events?after=${far}`,
      `/exports/log.csv?from=0000-01-01T00:00:00Z`,
      `/exports/stations.gpx?call=${nul}&hours=1`,
      `/exports/heard.txt?text=${nul}`,
      `/alarms/${far}/seen`,
      `/maps/${uuid}/content`,
      `/imports/${uuid}`,
      `/bearers/${nul}`,
      `/attachments/${uuid}`,
    ]) {
      const { status } = await api.send(path);
      expect({ path, ok: status < 500 }).toEqual({ path, ok: true });
    }
    const post = async (path: string, body: unknown, method = 'POST') =>
      (
        await api.send(path, {
          method,
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        })
      ).status;
    const settings = { call: 'QT2AR', licenceConfirmed: true, antennaConfirmed: true };
    await api.patch('/settings', settings);
    for (const [path, body, method] of [
      ['/settings', { statusText: '\u0000' }, 'PATCH'],
      ['/settings', { position: { latitude: 1e999, longitude: 0 } }, 'PATCH'],
      [`/people/${uuid}`, { name: '\u0000', licensed: false, addresses: [{ sort: 'call', address: 'QT1NC' }] }, 'PUT'],
      ['/bearers', { name: 'a\u0000b', config: { kind: 'line-feed', host: 'x', port: 1 } }],
      ['/items', messageTo('A@B', 'x', 'y', { bearerId: '\u0000' })],
      ['/items', mailTo('a@b.example', { subject: '\u0000', body: '\u0000' })],
      ['/items', meshText(null, 'x', { channel: '\u0000' })],
      ['/items', { ...meshText(null, 'x'), addressee: { is: 'person', name: '\u0000' } }],
      ['/rules', { id: uuid, name: '\u0000' }],
      ['/watches', { id: uuid, call: '\u0000', quantity: '\u0000', threshold: {} }],
      ['/sessions', { bearerId: '\u0000' }],
      [`/stations/QT1NC`, { note: '\u0000' }, 'PATCH'],
      ['/items', textTo('A', 'x', { bearerId: '\u0000' })],
      [
        `/items/${uuid}/relays`,
        { id: uuid, bearerId: '\u0000', to: '\u0000', person: null, text: 'x', released: true },
      ],
      ['/hold', { held: 'perhaps' }, 'PUT'],
      ['/backups', { passphrase: 'short' }],
    ] as const)
      expect({ path, body, ok: (await post(path, body, method)) < 500 }).toEqual({ path, body, ok: true });
  });
});
