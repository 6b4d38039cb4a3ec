import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import WebSocket from 'ws';
import type { LiveEvent, Storing } from '@tombolo/contract';
import { openSpool } from '../ingest/spool';
import type { Heard } from '../ingest/heard';
import type { Station } from '../station';
import { rowsOf } from './database';
import {
  createDatabase,
  eventually,
  itemWhen,
  startModem,
  startTestStation,
  startWithModem,
  apiOf,
  type Api,
  type FakeModem,
  type TestDatabase,
} from '../testing/harness';
import { textTo } from '../testing/written';

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'tombolo-spool-'))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const heard = (n: number, text = `>frame ${n}`): Heard => ({
  bearerId: 'radio',
  importId: null,
  port: 0,
  form: 'line',
  raw: new TextEncoder().encode(`QT1NC>APRS:${text}`),
  heardAtMs: n,
});

describe('the spool', () => {
  it('has its room before it is needed, keeps the order, and finds everything again after a kill', async () => {
    const path = join(folder, 'heard.spool');
    const spool = await openSpool(path, 100_000);
    expect(statSync(path).size).toBe(100_000);
    expect(statSync(path).mode & 0o777).toBe(0o600);
    expect(await spool.append([heard(1), heard(2)])).toBe(2);
    // At the same time: each behind the other, none over the other.
    await Promise.all([spool.append([heard(3), heard(4)]), spool.append([heard(5)])]);
    // Not closed: as if the process had been killed.
    const again = await openSpool(path, 100_000);
    const all = await again.read(0, 100);
    expect(all.heard.map(({ heardAtMs }) => heardAtMs)).toEqual([1, 2, 3, 4, 5]);
    expect(all.heard[0]).toEqual(heard(1));
    const two = await again.read(0, 2);
    expect((await again.read(two.done, 100)).heard.map(({ heardAtMs }) => heardAtMs)).toEqual([3, 4, 5]);
    await spool.close();
    await again.close();
  });

  it('keeps no more than there is room for, and says so; emptied it begins anew, and nothing old comes back', async () => {
    const path = join(folder, 'heard.spool');
    const spool = await openSpool(path, 2000);
    const many = Array.from({ length: 50 }, (_, n) => heard(n));
    const kept = await spool.append(many);
    expect(kept).toBeGreaterThan(5);
    expect(kept).toBeLessThan(50);
    expect(await spool.append(many)).toBe(0);
    const { done } = await spool.read(0, 100);
    const before = spool.filling();
    expect(await spool.empty(done - 1)).toBe(false);
    expect(await spool.empty(done)).toBe(true);
    expect(spool.filling()).not.toBe(before);
    await spool.append([heard(99)]);
    await spool.close();
    // Behind the one record of this filling stand those of the last; their checksums are of another filling.
    const again = await openSpool(path, 2000);
    expect((await again.read(0, 100)).heard.map(({ heardAtMs }) => heardAtMs)).toEqual([99]);
    await again.close();
  });
});

describe('a database that goes away and comes back', () => {
  let database: TestDatabase;
  let modem: FakeModem;
  let station: Station & { api: Api };
  let api: Api;
  beforeEach(async () => {
    database = await createDatabase();
    modem = await startModem();
    station = await startWithModem(
      database.url,
      modem,
      {},
      { spool: { path: join(folder, 'heard.spool'), octets: 1_000_000 } },
    );
    api = station.api;
  });
  afterEach(async () => {
    await station.stop();
    await modem.stop();
    await database.drop();
  });

  const admin = async <T>(work: (client: Client) => Promise<T>): Promise<T> => {
    const client = new Client({ connectionString: database.adminUrl.replace(/\/[^/]*$/, '/postgres') });
    await client.connect();
    try {
      return await work(client);
    } finally {
      await client.end();
    }
  };
  const name = () => new URL(database.url).pathname.slice(1);
  /** Nobody gets in any more, and who is in is thrown out. */
  const takeAway = () =>
    admin(async (client) => {
      await client.query(`alter database ${name()} allow_connections false`);
      await client.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name()]);
    });
  const giveBack = () => admin((client) => client.query(`alter database ${name()} allow_connections true`));
  const connections = async () =>
    admin(async (client) =>
      Number(
        (
          await client.query(
            `select count(*) as n from pg_stat_activity where datname = $1 and application_name ~ 'listener|owner'`,
            [name()],
          )
        ).rows[0].n,
      ),
    );
  const storing = async () => (await api.get<{ storing: Storing }>('/health')).storing;

  it('loses nothing that was heard, tells every console at once, and never makes a page wait for ever', async () => {
    const told: Storing[] = [];
    const console_ = new WebSocket(`${station.url.replace('http', 'ws')}/api/v1/live`);
    console_.on('message', (data) => {
      const event = JSON.parse(String(data)) as LiveEvent;
      if (event.type === 'storing') told.push(event.data as unknown as Storing);
    });
    await eventually(() => told.length === 1);
    expect(told[0]).toMatchObject({ storing: true });

    for (let round = 0; round < 3; round++) {
      await takeAway();
      const away = await eventually(async () => {
        const state = await storing();
        return !state.storing && state;
      });
      expect(away.reason).toBe('the database does not answer');
      await eventually(() => told.at(-1)?.storing === false);
      for (let n = 0; n < 40; n++) modem.hear(`QT1NC>APRS:>round ${round} number ${n}`);
      const asked = performance.now();
      const answer = await api.send('/items');
      expect(answer.status).toBe(503);
      expect(await answer.json()).toMatchObject({ type: 'tombolo:not-storing' });
      expect(performance.now() - asked).toBeLessThan(8000);
      await eventually(async () => (await storing()).waiting >= 40);
      await giveBack();
      await eventually(async () => (await storing()).storing && (await storing()).waiting === 0, 20);
      await eventually(() => told.at(-1)?.storing === true);
    }
    const rows = await rowsOf<{ summary: string }>(
      station.context.database,
      `select summary from packet where source = 'QT1NC'`,
    );
    expect(new Set(rows.map(({ summary }) => summary)).size).toBe(120);
    const receptions = await rowsOf<{ n: number }>(
      station.context.database,
      'select count(*)::int as n from reception',
    );
    expect(receptions[0]!.n).toBe(120);
    expect((await storing()).lost).toBe(0);
    // One that listens and one that owns the bearers, however often they were lost.
    await eventually(async () => (await connections()) === 2);
    console_.terminate();
    // And it sends again.
    const text = textTo('QT4LB-8', 'Back', { askAcknowledgement: false });
    await api.post('/items', text);
    await itemWhen(api, text.id, (item) => item.status.rung === 'sent');
  }, 90_000);

  it('does not forget that everything was held meanwhile', async () => {
    await takeAway();
    await eventually(async () => !(await storing()).storing);
    expect((await api.put('/hold', { held: true })).heldSince).not.toBeNull();
    await giveBack();
    await eventually(async () => (await storing()).storing, 20);
    const text = textTo('QT4LB-8', 'Held', { askAcknowledgement: false });
    await eventually(async () => (await api.post('/items', text)).id !== undefined, 10);
    // On record by now, so that a restart does not let it go either.
    await eventually(
      async () =>
        (await rowsOf(station.context.database, `select 1 from setting where value->>'heldSince' is not null`))
          .length === 1,
      20,
    );
    expect(modem.sent).toEqual([]);
    await api.put('/hold', { held: false });
    await itemWhen(api, text.id, (item) => item.status.rung === 'sent', 20);
  }, 60_000);

  it('is survived by a process that is ended meanwhile: the next one stores what waits', async () => {
    await takeAway();
    await eventually(async () => !(await storing()).storing);
    for (let n = 0; n < 25; n++) modem.hear(`QT1NC>APRS:>waiting ${n}`);
    await eventually(async () => (await storing()).waiting >= 25);
    await station.stop();
    await giveBack();
    station = {
      ...(await startTestStation(database.url, { spool: { path: join(folder, 'heard.spool'), octets: 1_000_000 } })),
      api,
    };
    api = apiOf(station);
    await eventually(async () => {
      const [row] = await rowsOf<{ n: number }>(station.context.database, 'select count(*)::int as n from reception');
      return row!.n === 25;
    });
    // The mark of what was stored goes with the filling.
    await eventually(async () => (await rowsOf(station.context.database, 'select 1 from spool_mark')).length === 0);
  }, 60_000);
});
