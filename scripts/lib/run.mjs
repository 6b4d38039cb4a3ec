import { spawn } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { readFileSync } from 'node:fs';
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

/** From here the system takes the ports of outgoing connections (Linux; its usual value where it does not say). */
function firstOfOutgoing() {
  try {
    return Number(readFileSync('/proc/sys/net/ipv4/ip_local_port_range', 'utf8').split(/\s/)[0]) || 32_768;
  } catch {
    return 32_768;
  }
}

const LOWEST = 16_384;
/** Whether a port is free on loopback now. */
export const canListen = (port) =>
  new Promise((resolve) => {
    const server = createServer();
    server.on('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });

/**
 * A port that is free on loopback now, and that no outgoing connection takes before it is listened at: below those, drawn by lot, so that two
 * who ask at the same time hardly draw the same.
 */
export async function freePort() {
  const end = Math.max(firstOfOutgoing(), LOWEST + 1024);
  for (let tries = 0; tries < 100; tries++) {
    const port = randomInt(LOWEST, end);
    if (await canListen(port)) return port;
  }
  throw new Error(`no port between ${LOWEST} and ${end} is free on loopback`);
}

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
