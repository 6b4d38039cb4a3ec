import { spawn } from 'node:child_process';
import { createServer } from 'node:net';

/** Runs a command to its end; rejects with its last output when it fails. */
export function run(command, args, { quiet = true, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: quiet ? ['ignore', 'pipe', 'pipe'] : 'inherit', ...options });
    let output = '';
    const keep = (data) => (output = (output + data).slice(-20_000));
    child.stdout?.on('data', keep);
    child.stderr?.on('data', keep);
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve(output) : reject(new Error(`${command} ${args.join(' ')} ended with ${code}\n${output}`)),
    );
  });
}

/** A port that is free on loopback now. */
export const freePort = () =>
  new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });

/** Asks until it is true, at most `seconds`. */
export async function until(ask, seconds, what) {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    if (await ask().catch(() => false)) return;
    if (Date.now() > end) throw new Error(`${what} did not happen within ${seconds} s`);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

/** Ends a child by its id and waits for it; harder after ten seconds. */
export function end(child) {
  if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    const harder = setTimeout(() => child.kill('SIGKILL'), 10_000);
    child.once('exit', () => {
      clearTimeout(harder);
      resolve();
    });
    child.kill('SIGTERM');
  });
}
