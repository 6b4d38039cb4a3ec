import { once } from 'node:events';
import { createServer, type AddressInfo } from 'node:net';
import { Client } from 'pg';
import { createDatabase, eventually, startTestStation } from './testing/harness';

describe('a station that cannot begin', () => {
  it('holds no connection of what had begun already, and begins when it can', async () => {
    const database = await createDatabase();
    const taken = createServer().listen(0, '127.0.0.1');
    await once(taken, 'listening');
    const { port } = taken.address() as AddressInfo;
    const watcher = new Client({ connectionString: database.adminUrl });
    await watcher.connect();
    try {
      await expect(startTestStation(database.url, { port })).rejects.toThrow(/EADDRINUSE/);
      await eventually(async () => {
        const { rows } = await watcher.query(
          `select 1 from pg_stat_activity where datname = current_database() and application_name like 'tombolo %'`,
        );
        return rows.length === 0;
      });
      await new Promise((resolve) => taken.close(resolve));
      const station = await startTestStation(database.url, { port });
      expect(station.url).toBe(`http://127.0.0.1:${port}`);
      await Promise.all([station.stop(), station.stop()]);
      await station.stop();
    } finally {
      taken.close();
      await watcher.end();
      await database.drop();
    }
  });
});
