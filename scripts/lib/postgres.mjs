import { chownSync, existsSync, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { freePort, run } from './run.mjs';

const BIN = '/usr/lib/postgresql/15/bin';
const isRoot = process.getuid?.() === 0;

/** PostgreSQL refuses to run as root: as root its own user does the work. */
const asOwner = (program, args) =>
  isRoot
    ? run('runuser', ['-u', 'postgres', '--', join(BIN, program), ...args], { cwd: '/' })
    : run(join(BIN, program), args);

/** A data folder's parents must let its owner through; where they do not, another place is taken. */
function usableFolder(wanted) {
  if (!isRoot) return wanted;
  for (let folder = dirname(wanted); folder !== '/'; folder = dirname(folder))
    if (existsSync(folder) && (statSync(folder).mode & 0o001) === 0) {
      const name = createHash('sha256').update(wanted).digest('hex').slice(0, 12);
      return join('/var/lib/postgresql', `tombolo-${name}`);
    }
  return wanted;
}

/**
 * Initialises (once) and starts a cluster on loopback. Returns its address and how to stop it.
 * `durable: false` is for tests: no fsync.
 */
export async function startPostgres(wantedFolder, { durable }) {
  const folder = usableFolder(wantedFolder);
  const data = join(folder, 'data');
  mkdirSync(folder, { recursive: true, mode: 0o755 });
  if (isRoot) {
    const [uid, gid] = ['-u', '-g'].map((flag) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' })));
    chownSync(folder, uid, gid);
  }
  if (!existsSync(join(data, 'PG_VERSION')))
    await asOwner('initdb', [
      '-D',
      data,
      '-U',
      'tombolo',
      '-A',
      'trust',
      '-E',
      'UTF8',
      '--locale=C.UTF-8',
      ...(durable ? [] : ['--no-sync']),
    ]);

  const running = runningPort(data);
  const port = running ?? (await freePort());
  if (running === null) {
    rmSync(join(data, 'postmaster.pid'), { force: true });
    const settings = [
      '-c',
      'listen_addresses=127.0.0.1',
      '-c',
      `port=${port}`,
      '-c',
      "unix_socket_directories=''",
      '-c',
      'timezone=UTC',
      '-c',
      'max_connections=200',
    ];
    if (!durable) settings.push('-c', 'fsync=off', '-c', 'full_page_writes=off', '-c', 'synchronous_commit=off');
    await asOwner('pg_ctl', [
      '-D',
      data,
      '-w',
      '-t',
      '60',
      '-l',
      join(folder, 'postgres.log'),
      '-o',
      settings.join(' '),
      'start',
    ]);
  }
  return {
    port,
    url: (database) => `postgres://tombolo@127.0.0.1:${port}/${database}`,
    stop: () => asOwner('pg_ctl', ['-D', data, '-w', '-m', 'fast', 'stop']).catch(() => undefined),
    createDatabase: async (name) => {
      const exists = await asOwner('psql', [
        '-h',
        '127.0.0.1',
        '-p',
        String(port),
        '-U',
        'tombolo',
        '-d',
        'postgres',
        '-tAc',
        `select 1 from pg_database where datname='${name}'`,
      ]);
      if (exists.trim() === '1') return;
      await asOwner('createdb', ['-h', '127.0.0.1', '-p', String(port), '-U', 'tombolo', name]);
    },
  };
}

/** The port of a cluster that is still running here, from its pid file. */
function runningPort(data) {
  const file = join(data, 'postmaster.pid');
  if (!existsSync(file)) return null;
  const [pid, , , port] = readFileSync(file, 'utf8').split('\n');
  try {
    process.kill(Number(pid), 0);
    if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(data)) return null;
    return Number(port);
  } catch {
    return null;
  }
}
