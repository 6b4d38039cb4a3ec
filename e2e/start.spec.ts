import { execFile } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { newDataFolder, ROOT, startProgram, until } from './testing/rig';

interface Row {
  readonly id: string;
}
const get = async <T = Row[]>(url: string, path: string): Promise<T> =>
  (await fetch(`${url}/api/v1${path}`)).json() as Promise<T>;

describe('the start command', () => {
  it('loads the district once, keeps the data, ends cleanly, and can start empty', async () => {
    const folder = newDataFolder();
    try {
      const first = await startProgram(folder);
      const bearers = await get(first.url, '/bearers');
      expect(bearers).toHaveLength(5);
      expect((await get(first.url, '/stations')).length).toBeGreaterThan(6);
      expect((await get(first.url, '/imports'))[0]).toMatchObject({ name: 'Six hours before', problem: null });
      const page = await fetch(first.url);
      expect(page.headers.get('content-security-policy')).toContain("default-src 'self'");
      expect(await page.text()).toContain('<title>Tombolo</title>');
      const items = (await get<{ rows: Row[] }>(first.url, '/items?limit=500')).rows.length;
      expect(items).toBeGreaterThan(3);
      expect(await first.interrupt()).toBe(0);
      await expect(fetch(first.url)).rejects.toThrow();

      const second = await startProgram(folder);
      expect(second.url).toBe(first.url);
      expect((await get(second.url, '/bearers')).map((bearer) => bearer.id)).toEqual(
        bearers.map((bearer) => bearer.id),
      );
      expect((await get<{ rows: Row[] }>(second.url, '/items?limit=500')).rows.length).toBeGreaterThanOrEqual(items);
      expect(await get(second.url, '/imports')).toHaveLength(1);
      expect(await second.interrupt()).toBe(0);

      // Somebody else has its port by now: it starts all the same, and says where.
      const port = Number(new URL(second.url).port);
      const other = createServer().listen(port, '127.0.0.1');
      await once(other, 'listening');
      const empty = await startProgram(folder, ['--empty']);
      other.close();
      expect(new URL(empty.url).port).not.toBe(String(port));
      expect(empty.output()).toContain(`Port ${port} is taken by another program: the pages are at `);
      expect(await get(empty.url, '/bearers')).toEqual([]);
      expect(await get(empty.url, '/simulation')).toBeNull();
      expect(await get(empty.url, '/settings')).toMatchObject({ call: '' });
      expect(empty.pidOf('district.mjs')).toBeUndefined();
      expect(await empty.interrupt()).toBe(0);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }, 240_000);

  /** A command beside the start command, on the same data; gives what it said. */
  const command = async (folder: string, script: string, args: string[] = []) => {
    const env = { ...process.env, TOMBOLO_DATA: folder, TOMBOLO_PASSPHRASE: 'correct horse battery' };
    const ran = promisify(execFile)(process.execPath, [join(ROOT, 'scripts', script), ...args], { env });
    return ran.then(
      ({ stdout, stderr }) => ({ code: 0, said: stdout + stderr }),
      (error: { code: number; stdout: string; stderr: string }) => ({
        code: error.code,
        said: error.stdout + error.stderr,
      }),
    );
  };
  const runs = (pid: number) => {
    try {
      process.kill(pid, 0);
      return !/^State:\s+Z/m.test(readFileSync(`/proc/${pid}/status`, 'utf8'));
    } catch {
      return false;
    }
  };
  const postmaster = (folder: string) =>
    Number(readFileSync(join(folder, 'postgres/data/postmaster.pid'), 'utf8').split('\n')[0]);

  it('leaves a running instance alone, mends what dies, and ends everything however it is itself ended', async () => {
    const folder = newDataFolder();
    try {
      const first = await startProgram(folder, ['--empty']);
      const parts = (['station.mjs', 'keep-database.mjs'] as const).map((part) => first.pidOf(part)!);
      const again = await command(folder, 'start.mjs', ['--empty']);
      expect(again.code).toBe(0);
      expect(again.said).toContain(`Tombolo runs already: ${first.url}`);
      expect(again.said).toContain('Nothing was changed.');
      expect(parts.every(runs)).toBe(true);

      // The secrets and the room for what is heard belong to their owner alone.
      for (const name of ['secrets.json', 'ports.json', 'heard-station.spool'])
        expect(statSync(join(folder, name)).mode & 0o777).toBe(0o600);
      expect(statSync(join(folder, 'postgres')).mode & 0o777).toBe(0o700);

      // The database dies: it is started again, and the same station goes on.
      const database = postmaster(folder);
      process.kill(database, 'SIGKILL');
      await until(() => first.output().includes('The database runs again.'));
      await until(async () => (await fetch(`${first.url}/api/v1/items`)).ok);
      expect(postmaster(folder)).not.toBe(database);
      expect(runs(parts[0]!)).toBe(true);

      // The station dies: the database does not.
      const present = postmaster(folder);
      process.kill(parts[0]!, 'SIGKILL');
      await until(async () => (await fetch(`${first.url}/api/v1/health`).catch(() => ({ ok: false }))).ok);
      expect(postmaster(folder)).toBe(present);

      // A hang-up ends it in order, as Ctrl-C does.
      const station = first.pidOf('station.mjs')!;
      await first.end('SIGHUP');
      expect([station, present].some(runs)).toBe(false);
      expect(existsSync(join(folder, 'postgres/data/postmaster.pid'))).toBe(false);

      // Killed itself, its parts notice, each by itself, and the database is ended in order behind them.
      const second = await startProgram(folder, ['--empty']);
      expect(second.url).toBe(first.url);
      const pids = [second.pidOf('station.mjs')!, second.pidOf('keep-database.mjs')!, postmaster(folder)];
      await second.end('SIGKILL');
      await until(() => pids.every((pid) => !runs(pid)));
      expect(existsSync(join(folder, 'postgres/data/postmaster.pid'))).toBe(false);
      const third = await startProgram(folder, ['--empty']);
      expect(await third.interrupt()).toBe(0);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }, 240_000);

  it('backs up while it runs, and restores when it is stopped, keeping what was there before', async () => {
    const folder = newDataFolder();
    try {
      const file = join(folder, 'all.tombolo');
      const first = await startProgram(folder, ['--empty']);
      const change = (url: string, statusText: string) =>
        fetch(`${url}/api/v1/settings`, {
          method: 'PATCH',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ call: 'QT2AR', statusText }),
        });
      await change(first.url, 'As it was saved');
      const made = await command(folder, 'backup.mjs', [file, '--empty']);
      expect(made).toMatchObject({ code: 0, said: expect.stringContaining('verified') });
      expect(made.said).toContain('station QT2AR-7');
      expect((await command(folder, 'backup.mjs', [file, '--empty'])).said).toContain('is there already');
      await change(first.url, 'Changed since');
      const refused = await command(folder, 'restore.mjs', [file, '--empty', '--yes']);
      expect(refused).toMatchObject({ code: 1, said: expect.stringContaining('Stop it first') });
      expect(await first.interrupt()).toBe(0);

      // Without a yes nothing happens, but what is in it is told.
      const asked = await command(folder, 'restore.mjs', [file, '--empty']);
      expect(asked).toMatchObject({ code: 1, said: expect.stringContaining('In this backup:') });
      const restored = await command(folder, 'restore.mjs', [file, '--empty', '--yes']);
      expect(restored).toMatchObject({ code: 0, said: expect.stringContaining('station_before_') });
      const second = await startProgram(folder, ['--empty']);
      expect(await get(second.url, '/settings')).toMatchObject({ statusText: 'As it was saved' });
      expect(await second.interrupt()).toBe(0);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }, 240_000);

  it('shuts the door of a database of an earlier version, and keeps what is in it', async () => {
    const folder = newDataFolder();
    try {
      const { stdout } = await promisify(execFile)(process.execPath, [
        join(ROOT, 'e2e/testing/open-cluster.mjs'),
        folder,
      ]);
      expect(JSON.parse(stdout)).toEqual({
        withoutPassword: expect.stringMatching(/password/),
        kept: [{ text: 'still here' }],
        owner: [{ tableowner: 'tombolo_owner' }],
        database: [{ owner: 'tombolo_owner' }],
        stranger: 'permission denied for table kept',
      });
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }, 120_000);
});
