import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { PassThrough, type Readable } from 'node:stream';
import { ANSWER_WITHIN_S } from './access';

/** Where PostgreSQL's own programs are, and which database they work on; the password goes by the environment, not the command line. */
export interface Target {
  readonly url: string;
  readonly programs: string;
}

export function environmentOf(url: string): NodeJS.ProcessEnv {
  const { hostname, port, username, password, pathname } = new URL(url);
  return {
    PATH: process.env.PATH,
    PGHOST: hostname,
    PGPORT: port,
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
    PGCONNECT_TIMEOUT: String(ANSWER_WITHIN_S),
  };
}

export interface Running {
  readonly child: ChildProcess;
  /** What it writes, kept for whoever reads it later than it ends. */
  readonly output: Readable;
  /** Rejects with what it said when it fails. */
  readonly done: Promise<void>;
}

export function runProgram({ url, programs }: Target, name: 'pg_dump' | 'pg_restore', args: string[]): Running {
  const child = spawn(join(programs, name), args, { env: environmentOf(url), stdio: ['pipe', 'pipe', 'pipe'] });
  let said = '';
  child.stderr.on('data', (data: Buffer) => (said = (said + data.toString('utf8')).slice(-2000)));
  child.stdin.on('error', () => undefined);
  const done = new Promise<void>((resolve, reject) => {
    child.once('error', reject);
    child.once('close', (code) => (code === 0 ? resolve() : reject(new Error(`${name} ended with ${code}: ${said}`))));
  });
  done.catch(() => undefined);
  // At once: what nobody reads when a process ends is thrown away.
  return { child, output: child.stdout.pipe(new PassThrough()), done };
}
