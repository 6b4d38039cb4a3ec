import { createReadStream, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { randomBytes, randomUUID } from 'node:crypto';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { Client } from 'pg';
import type { BackupView, ItemDetail } from '@tombolo/contract';
import { openDatabase } from '../store/database';
import { bringUpToDate } from '../store/migrate';
import { createDatabase, eventually, itemWhen, startModem, startWithModem } from '../testing/harness';
import { textTo } from '../testing/written';
import { makeBackup, verifyBackup } from './make';
import { restoreBackup } from './restore';
import { createBackupRuns } from './runs';
import { seal, unseal } from './seal';

const PROGRAMS = '/usr/lib/postgresql/15/bin';
const PASSPHRASE = 'correct horse battery';
let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'tombolo-backup-'))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const all = async (pieces: AsyncIterable<Buffer>) => {
  const parts: Buffer[] = [];
  for await (const piece of pieces) parts.push(piece);
  return Buffer.concat(parts);
};
const sealed = (octets: Buffer) => all(seal(PASSPHRASE, Readable.from([octets]) as AsyncIterable<Buffer>));
const opened = (octets: Buffer, passphrase = PASSPHRASE) => all(unseal(passphrase, Readable.from([octets])));

describe('the seal of a backup', () => {
  it.each([0, 1, 262_143, 262_144, 262_145, 900_000])(
    'gives back %i octets as they were',
    async (length) => {
      const octets = randomBytes(length);
      expect((await opened(await sealed(octets))).equals(octets)).toBe(true);
    },
    30_000,
  );

  it('tells another passphrase, a cut, a changed, an exchanged and an added octet from the whole', async () => {
    const one = await sealed(randomBytes(600_000));
    await expect(opened(one, 'another passphrase')).rejects.toThrow('The passphrase does not fit');
    await expect(opened(one.subarray(0, -1))).rejects.toThrow(/cut off/);
    // Cut between two pieces: what is there is whole, and yet not all.
    const head = one.indexOf(0x0a) + 1;
    const first = 4 + one.readUInt32BE(head);
    await expect(opened(one.subarray(0, head + first))).rejects.toThrow('cut off');
    const changed = Buffer.from(one);
    changed[400_000]! ^= 1;
    await expect(opened(changed)).rejects.toThrow('damaged in the middle');
    const second = one.subarray(head + first, head + 2 * first);
    const swapped = Buffer.concat([
      one.subarray(0, head),
      second,
      one.subarray(head, head + first),
      one.subarray(head + 2 * first),
    ]);
    await expect(opened(swapped)).rejects.toThrow(/damaged|passphrase/);
    await expect(opened(Buffer.concat([one, Buffer.from('x')]))).rejects.toThrow('Something follows');
    await expect(opened(Buffer.from('PK\u0003\u0004 something else\n'))).rejects.toThrow('no backup');
    const greedy = one.toString('latin1').replace('"n":65536', '"n":1073741824');
    await expect(opened(Buffer.from(greedy, 'latin1'))).rejects.toThrow('no backup that this version can read');
  }, 60_000);
});

describe('a backup', () => {
  it('brings everything back, and sends nothing until the operator says so', async () => {
    const database = await createDatabase();
    const modem = await startModem();
    const station = await startWithModem(
      database.url,
      modem,
      {},
      { backup: { url: database.backupUrl, programs: PROGRAMS } },
    );
    const fresh = await createDatabase({ empty: true });
    const target = { url: database.backupUrl, programs: PROGRAMS };
    const file = join(folder, 'one.tombolo');
    try {
      modem.hear('QT1NC>APRS::QT2AR-7  :Hello{1');
      modem.hear('QT0TH-3>APRS:!4114.55N/04327.36W#Digipeater');
      await eventually(() => modem.sent.length === 1);
      const gone = textTo('QT4LB-8', 'Gone', { askAcknowledgement: false });
      await station.api.post('/items', gone);
      await itemWhen(station.api, gone.id, (item) => item.status.rung === 'sent');
      await station.api.put('/hold', { held: true });
      const waiting = textTo('QT4LB-8', 'Waiting');
      await station.api.post('/items', waiting);
      await station.api.put('/hold', { held: false });
      await station.api.patch('/bearers/radio', { enabled: false });
      const number = (await station.api.get<ItemDetail>(`/items/${waiting.id}`)).number!;
      // All that goes out by itself is on when it is saved.
      const out = { bearerId: 'radio', path: [], everyMin: 5 };
      await station.api.patch('/settings', {
        position: { latitude: 41.2, longitude: -43.2 },
        statusText: 'Net',
        statusPlan: out,
        repeating: { bearerId: 'radio', holdBackS: 0, airS: 30 },
        beacon: { scheme: { by: 'time', everyS: 30 }, bearerId: 'radio', path: [] },
      });
      const thing = { form: 'object', name: 'AID', latitude: 41.2, longitude: -43.2, symbol: '/+', comment: '' };
      await station.api.put(`/own-objects/${randomUUID()}`, { ...thing, ...out, revision: null });
      await station.api.post('/emergency', { drill: true, words: '' });

      const made = await makeBackup(target, file, PASSPHRASE, { version: 'test', now: new Date() });
      expect(made.manifest).toMatchObject({ station: 'QT2AR-7', items: 3, packets: 2, waiting: 1 });
      expect(statSync(file).mode & 0o777).toBe(0o600);
      expect(readFileSync(file).includes('Waiting')).toBe(false);

      // What is not what was saved is not called verified.
      const damaged = join(folder, 'damaged.tombolo');
      const octets = readFileSync(file);
      octets[octets.length - 100]! ^= 1;
      writeFileSync(damaged, octets);
      await expect(verifyBackup(target, damaged, PASSPHRASE)).rejects.toThrow(/damaged/);

      const owner = { url: fresh.ownerUrl, programs: PROGRAMS };
      await restoreBackup(owner, PASSPHRASE, createReadStream(file), new Date());
      await bringUpToDate(fresh.ownerUrl);
      const again = await startModem();
      const copy = await startWithModem(fresh.url, again, {
        retry: { firstS: 1, factor: 1, capS: 1, tries: 3, jitter: 0 },
      });
      try {
        await copy.api.patch('/bearers/radio', { enabled: true });
        expect(await copy.api.get('/settings')).toMatchObject({
          beacon: null,
          statusPlan: null,
          repeating: null,
          emergency: null,
          statusText: 'Net',
        });
        expect(await copy.api.get('/own-objects')).toEqual([]);
        const held = await itemWhen(copy.api, waiting.id, (item) => item.legs[0]!.held !== null);
        expect(held.legs[0]!.held).toContain('restored from the backup of');
        expect((await copy.api.get<ItemDetail>(`/items/${gone.id}`)).status.rung).toBe('sent');
        // A new text does not take the number of one that may have gone out since.
        const fresh_ = textTo('QT4LB-8', 'New');
        const sent = await copy.api.post<ItemDetail>('/items', fresh_);
        expect(sent.number).not.toBe(number);
        await itemWhen(copy.api, fresh_.id, (item) => item.status.rung === 'sent');
        expect(
          again.sent.map((frame) => Buffer.from(frame).toString('latin1')).some((text) => text.includes('Waiting')),
        ).toBe(false);
        await copy.api.post(`/items/${waiting.id}/actions`, { action: 'release' });
        await itemWhen(copy.api, waiting.id, (item) => item.status.rung === 'sent', 20);
        const said = again.sent.map((frame) => Buffer.from(frame).toString('latin1'));
        expect(said.filter((text) => /AID|EMERGENCY|>Net|=4112/.test(text))).toEqual([]);
      } finally {
        await copy.stop();
        await again.stop();
      }
    } finally {
      await station.stop();
      await modem.stop();
      await database.drop();
      await fresh.drop();
    }
  }, 90_000);

  it('that ends while its row is read was not cut off', async () => {
    const database = await createDatabase();
    const source = await openDatabase(database.url);
    const inProgress = async () => {
      const rows = await source.query<unknown[]>('select 1 from backup_run where finished_at is null');
      return rows.length > 0;
    };
    let meanwhile = () => Promise.resolve<unknown>(undefined);
    // The answer is on its way to the station while the backup ends.
    const slow = new Proxy(source, {
      get: (target, name) =>
        name === 'query'
          ? async (sql: string, parameters?: unknown[]) => {
              const rows: unknown = await target.query(sql, parameters);
              if (sql.startsWith('select * from backup_run')) await meanwhile();
              return rows;
            }
          : (Reflect.get(target, name) as unknown),
    });
    const nobody = createServer();
    const calls = new Set<Socket>();
    nobody.on('connection', (call) => calls.add(call.on('error', () => undefined)));
    await new Promise<void>((listening) => nobody.listen(0, '127.0.0.1', listening));
    const { port } = nobody.address() as AddressInfo;
    try {
      const runs = createBackupRuns({
        // A database that takes the call and never answers, until it hangs up.
        access: { url: `postgresql://nobody@127.0.0.1:${port}/nothing`, programs: PROGRAMS },
        database: slow,
        version: 'test',
        now: Date.now,
        log: () => undefined,
      });
      const called = new Promise<Socket>((take) => nobody.once('connection', take));
      const id = await runs.begin(PASSPHRASE);
      const call = await called;
      meanwhile = async () => {
        call.destroy();
        await eventually(async () => !(await inProgress()));
        // The one that makes it has heard of its end, too.
        await eventually(async () => (await runs.begin('')) !== null);
      };
      expect(await runs.list()).toMatchObject([{ id, finishedAt: null, problem: null }]);
      meanwhile = () => Promise.resolve(undefined);
      const after = (await runs.list()).find((run) => run.id === id);
      expect(after).toMatchObject({ finishedAt: expect.any(String), problem: expect.any(String) });
      expect(after!.problem).not.toContain('cut off');
    } finally {
      // The second one has called, or calls yet.
      nobody.on('connection', (call) => call.destroy());
      for (const call of calls) call.destroy();
      await new Promise((closed) => nobody.close(closed));
      await source.destroy();
      await database.drop();
    }
  }, 60_000);

  it('is made by a button, verified, and saved; one at a time', async () => {
    const database = await createDatabase();
    const modem = await startModem();
    const station = await startWithModem(
      database.url,
      modem,
      {},
      { backup: { url: database.backupUrl, programs: PROGRAMS } },
    );
    const { api } = station;
    try {
      expect(await api.post('/backups', { passphrase: 'short' })).toMatchObject({ status: 422 });
      const begun = await api.post<BackupView>('/backups', { passphrase: PASSPHRASE });
      expect(begun).toMatchObject({ finishedAt: null, verified: false });
      expect(await api.post('/backups', { passphrase: PASSPHRASE })).toMatchObject({ status: 409 });
      const made = await eventually(async () => {
        const [run] = await api.get<BackupView[]>('/backups');
        return run!.finishedAt !== null && run;
      }, 40);
      expect(made).toMatchObject({ verified: true, problem: null, ready: true });
      const saved = Buffer.from(await (await api.send(`/backups/${begun.id}/file`)).arrayBuffer());
      expect(saved.length).toBe(made.octets);
      const file = join(folder, 'button.tombolo');
      writeFileSync(file, saved);
      await verifyBackup({ url: database.backupUrl, programs: PROGRAMS }, file, PASSPHRASE);
      // Nothing of the trials is left behind.
      const client = new Client({ connectionString: database.adminUrl });
      await client.connect();
      const { rows } = await client.query(`select datname from pg_database where datname like 'tombolo_scratch%'`);
      await client.end();
      expect(rows).toEqual([]);
    } finally {
      await station.stop();
      await modem.stop();
      await database.drop();
    }
  }, 90_000);
});
