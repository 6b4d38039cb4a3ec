import { rmSync } from 'node:fs';
import { newDataFolder, startProgram } from './testing/rig';

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

      const empty = await startProgram(folder, ['--empty']);
      expect(await get(empty.url, '/bearers')).toEqual([]);
      expect(await get(empty.url, '/simulation')).toBeNull();
      expect(await get(empty.url, '/settings')).toMatchObject({ call: '' });
      expect(empty.pidOf('district.mjs')).toBeUndefined();
      expect(await empty.interrupt()).toBe(0);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }, 240_000);
});
