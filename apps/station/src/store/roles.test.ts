import { meshConfig } from '../testing/mesh-node';
import { Client } from 'pg';
import { createDatabase, startModem, startWithModem, type TestDatabase } from '../testing/harness';
import { APPEND_ONLY } from './migrate';

let database: TestDatabase;
beforeAll(async () => {
  database = await createDatabase();
});
afterAll(() => database.drop());

const as = async <T>(url: string, work: (client: Client) => Promise<T>): Promise<T> => {
  const client = new Client({ connectionString: url });
  client.on('error', () => undefined);
  try {
    await client.connect();
    return await work(client);
  } finally {
    await client.end();
  }
};

describe('the database', () => {
  it('lets nobody in without a password, and shows passwords to nobody', async () => {
    for (const role of ['tombolo', 'tombolo_owner', 'tombolo_app', 'tombolo_backup']) {
      const url = new URL(database.url);
      url.username = role;
      url.password = '';
      await expect(as(url.href, (client) => client.query('select 1'))).rejects.toThrow(/password/i);
      url.password = 'guess';
      await expect(as(url.href, (client) => client.query('select 1'))).rejects.toThrow(
        'password authentication failed',
      );
    }
    await as(database.adminUrl, async (client) => {
      const { rows } = await client.query<{ rolname: string; rolsuper: boolean; rolpassword: string }>(
        `select rolname, rolsuper, rolpassword from pg_authid where rolname like 'tombolo%' order by 1`,
      );
      expect(rows.map(({ rolname, rolsuper }) => [rolname, rolsuper])).toEqual([
        ['tombolo', true],
        ['tombolo_app', false],
        ['tombolo_backup', false],
        ['tombolo_owner', false],
      ]);
      for (const { rolpassword } of rows) expect(rolpassword).toMatch(/^SCRAM-SHA-256\$/);
      const { rows: rules } = await client.query<{ auth_method: string }>(
        'select distinct auth_method from pg_hba_file_rules',
      );
      expect(rules).toEqual([{ auth_method: 'scram-sha-256' }]);
    });
  });

  it.each(APPEND_ONLY)('lets the station only add to “%s”', async (table) => {
    await as(database.url, async (client) => {
      for (const statement of [
        `delete from ${table}`,
        `truncate ${table}`,
        `drop table ${table}`,
        `alter table ${table} disable trigger all`,
      ])
        await expect(client.query(statement)).rejects.toMatchObject({ code: '42501' });
      const { rows } = await client.query<{ column_name: string }>(
        'select column_name from information_schema.columns where table_name = $1',
        [table],
      );
      for (const { column_name } of rows) {
        if (table === 'alarm' && ['seen_at', 'taken_by', 'ended_at'].includes(column_name)) continue;
        await expect(client.query(`update ${table} set ${column_name} = ${column_name}`)).rejects.toMatchObject({
          code: '42501',
        });
      }
    });
  });

  it('gives the station no rights of the owner', async () => {
    await as(database.url, async (client) => {
      for (const statement of [
        'create table other (id int)',
        'create role other',
        'create database other',
        `insert into migrations (timestamp, name) values (1, 'x')`,
        'set role tombolo_owner',
        'set role tombolo',
        `copy setting to program 'true'`,
      ])
        await expect(client.query(statement)).rejects.toMatchObject({ code: '42501' });
    });
  });
});

describe('keys and passwords', () => {
  it('leave the station through no list; an invitation is shown when it is asked for, and that is on record', async () => {
    const modem = await startModem();
    const station = await startWithModem(database.url, modem);
    const { api } = station;
    try {
      const key = Buffer.alloc(32, 7).toString('base64');
      const mesh = await api.post('/bearers', {
        name: 'Mesh',
        config: meshConfig(1, '01D1-0002', {
          channels: [
            { name: 'Relief', key, kept: false },
            { name: 'Open', key: null, kept: false },
          ],
        }),
      });
      const mail = await api.post('/bearers', {
        name: 'Mail',
        config: {
          kind: 'radio-mail',
          over: 'radio',
          call: 'QT1RM-12',
          address: 'a@b.example',
          user: 'a',
          password: 'open sesame',
        },
      });
      const secrets = [key, key.replace(/=$/, '').replaceAll('+', '-').replaceAll('/', '_'), 'open sesame'];
      for (const path of ['/bearers', '/events?after=0', '/settings', '/items', '/exports/log.csv', '/health']) {
        const text = await (await api.send(path)).text();
        for (const secret of secrets) expect(text).not.toContain(secret);
      }
      for (const answer of [mesh, mail])
        for (const secret of secrets) expect(JSON.stringify(answer)).not.toContain(secret);
      // Given back as it was shown, the key and the password stay.
      await api.patch(`/bearers/${mesh.id}`, { config: { ...mesh.config, hopLimit: 5 } });
      await api.patch(`/bearers/${mail.id}`, { config: mail.config });
      const { line } = await api.post(`/bearers/${mesh.id}/invitations`, { channel: 'Relief' });
      expect(line).toContain(secrets[1]);
      const stored = await station.context.database.query(`select config from bearer where id = $1`, [mail.id]);
      expect(stored[0].config.password).toBe('open sesame');
      expect(await station.context.database.query('select what, detail from audit')).toEqual([
        { what: 'showed the invitation to a channel', detail: `${mesh.id}: Relief` },
      ]);
      // A key is never replaced in passing, under a name that looks the same either.
      const other = Buffer.alloc(32, 9).toString('base64');
      for (const name of ['Relief', ' relief', 'Ｒelief']) {
        const answer = await api.patch(`/bearers/${mesh.id}`, {
          config: { ...mesh.config, channels: [{ name, key: other }] },
        });
        expect(answer).toMatchObject({ status: 409, title: 'That would replace a key' });
      }
      // Nor does a channel become open because its key was said to stay under another name.
      const renamed = { ...mesh.config, channels: [{ name: 'Relief two', key: null, kept: true }] };
      expect(await api.patch(`/bearers/${mesh.id}`, { config: renamed })).toMatchObject({ status: 422 });
      expect((await api.post(`/bearers/${mesh.id}/invitations`, { channel: 'Relief' })).line).toBe(line);
    } finally {
      await station.stop();
      await modem.stop();
    }
  });
});
