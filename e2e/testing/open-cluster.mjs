import { execFileSync } from 'node:child_process';
import { chownSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { POSTGRES_BIN, startPostgres } from '../../scripts/lib/postgres.mjs';
import { freePort } from '../../scripts/lib/run.mjs';

/**
 * Makes a cluster as earlier versions did – everybody on this machine gets in without a password, the superuser owns everything – starts
 * it as the present version does, and tells in JSON what became of it. The folder is the argument.
 */
const folder = join(process.argv[2], 'postgres');
const data = join(folder, 'data');
const asOwner = (program, args) =>
  process.getuid() === 0
    ? execFileSync('runuser', ['-u', 'postgres', '--', join(POSTGRES_BIN, program), ...args], {
        cwd: '/',
        stdio: 'ignore',
      })
    : execFileSync(join(POSTGRES_BIN, program), args, { stdio: 'ignore' });
const ask = async (connectionString, sql) => {
  const client = new pg.Client({ connectionString });
  client.on('error', () => undefined);
  try {
    await client.connect();
    return (await client.query(sql)).rows;
  } catch (error) {
    return error.message;
  } finally {
    await client.end().catch(() => undefined);
  }
};

mkdirSync(folder, { recursive: true });
if (process.getuid() === 0) {
  const [uid, gid] = ['-u', '-g'].map((flag) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' })));
  chownSync(folder, uid, gid);
}
asOwner('initdb', ['-D', data, '-U', 'tombolo', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8', '--no-sync']);
const port = await freePort();
const settings = `-c listen_addresses=127.0.0.1 -c port=${port} -c unix_socket_directories=''`;
asOwner('pg_ctl', ['-D', data, '-w', '-l', join(folder, 'postgres.log'), '-o', settings, 'start']);
const open = (database) => `postgres://tombolo@127.0.0.1:${port}/${database}`;
await ask(open('postgres'), 'create database station');
await ask(open('station'), 'create table kept (id serial primary key, text text)');
await ask(open('station'), `insert into kept (text) values ('still here')`);
asOwner('pg_ctl', ['-D', data, '-w', '-m', 'fast', 'stop']);

const cluster = await startPostgres(folder, { durable: false });
try {
  await cluster.createDatabase('station');
  const owner = cluster.url('owner', 'station');
  console.log(
    JSON.stringify({
      withoutPassword: await ask(`postgres://tombolo@127.0.0.1:${cluster.port}/station`, 'select 1'),
      kept: await ask(owner, 'select text from kept'),
      owner: await ask(owner, `select tableowner from pg_tables where tablename = 'kept'`),
      database: await ask(owner, `select pg_get_userbyid(datdba) as owner from pg_database where datname = 'station'`),
      stranger: await ask(cluster.url('app', 'station'), 'select text from kept'),
    }),
  );
} finally {
  await cluster.stop();
}
