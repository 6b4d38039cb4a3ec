import { mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BackupPlanView } from '@tombolo/contract';
import type { Station } from '../station';
import { apiOf, createDatabase, eventually, startTestStation, type Api, type TestDatabase } from '../testing/harness';
import { backupTurn } from './plan';
import { verifyBackup } from './make';

const PROGRAMS = '/usr/lib/postgresql/15/bin';
const PASSPHRASE = 'correct horse battery';
const NOW = Date.UTC(2026, 10, 26, 12);
const DAY_MS = 86_400_000;
let database: TestDatabase;
let station: Station;
let api: Api;
let folder: string;

beforeEach(async () => {
  database = await createDatabase();
  folder = mkdtempSync(join(tmpdir(), 'tombolo-backups-'));
  station = await startTestStation(database.url, {
    now: () => NOW,
    backup: { url: database.backupUrl, programs: PROGRAMS },
    backupFolder: join(folder, 'backups'),
  });
  api = apiOf(station);
});
afterEach(async () => {
  await station.stop();
  await database.drop();
  rmSync(folder, { recursive: true, force: true });
});

const plan = () => api.get<BackupPlanView>('/backup-plan');
const change = (more: object) => api.put('/backup-plan', { everyDays: 1, kept: 2, passphrase: null, ...more });
const backups = () => readdirSync(join(folder, 'backups')).filter((name) => name.endsWith('.backup'));

describe('backups by the clock', () => {
  it('are made at once when they are asked for, verified, and old ones go only behind a new one', async () => {
    expect(await change({})).toMatchObject({ status: 422, title: 'A passphrase is missing' });
    expect(await change({ passphrase: 'short' })).toMatchObject({ status: 422 });
    expect(await plan()).toMatchObject({ everyDays: null, passphraseSet: false, possible: true, lastGoodAt: null });

    expect(await change({ passphrase: PASSPHRASE })).toMatchObject({ everyDays: 1, kept: 2, passphraseSet: true });
    await eventually(async () => (await plan()).lastGoodAt !== null, 30);
    const name = 'tombolo-2026-11-26.backup';
    expect((await plan()).files.map((file) => file.name)).toEqual([name]);
    await verifyBackup({ url: database.backupUrl, programs: PROGRAMS }, join(folder, 'backups', name), PASSPHRASE);
    // For its owner alone, outside the database, and in no answer.
    expect(statSync(join(folder, 'backups', 'passphrase')).mode & 0o777).toBe(0o600);
    expect(JSON.stringify([await plan(), await api.get('/settings')])).not.toContain(PASSPHRASE);

    // The same occurrence again, after a kill, makes no second one.
    const { backupPlan } = station.context;
    expect(await backupTurn(backupPlan, new Date(NOW))).toBeUndefined();
    for (const day of [1, 2])
      expect(await backupTurn(backupPlan, new Date(NOW + day * DAY_MS))).toContain('made and verified');
    expect(backups()).toEqual(['tombolo-2026-11-27.backup', 'tombolo-2026-11-28.backup']);

    // One that cannot be made is told, and nothing goes for it.
    writeFileSync(join(folder, 'backups', 'passphrase'), '');
    await expect(backupTurn(backupPlan, new Date(NOW + 3 * DAY_MS))).rejects.toThrow('no passphrase was set');
    expect(backups()).toHaveLength(2);

    // Every week: not on the next day.
    await change({ everyDays: 7, passphrase: PASSPHRASE });
    expect(await backupTurn(backupPlan, new Date(NOW + 3 * DAY_MS))).toBeUndefined();
    await change({ everyDays: null });
    expect(await backupTurn(backupPlan, new Date(NOW + 30 * DAY_MS))).toBeUndefined();
  }, 60_000);
});
