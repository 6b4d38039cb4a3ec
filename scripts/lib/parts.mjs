import { spawn } from 'node:child_process';
import { end } from './run.mjs';

const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 30_000;
/** One that ran this long had begun well: the next failure is a new one. */
const RAN_WELL_MS = 60_000;
/** The line in which the district says that it is ready holds all that the demo begins with. */
const MOST_LINE = 200_000;

/**
 * Keeps programs running: one that ends is started again, after growing waits, for as long as it takes – whoever leans on it in a
 * storm is not there to do it. No part takes another one with it. Each holds the reading end of a pipe of ours, and ends by itself
 * when that breaks.
 */
export function keepParts({ say }) {
  const parts = new Map();
  let stopping = false;

  /** Starts a program and waits for the line in which it says that it is ready. */
  function start(name, command, args, { env = {}, ready, onReady = () => undefined }) {
    const part = { child: null, timer: null, failures: 0 };
    parts.set(name, part);
    return new Promise((resolve, reject) => {
      let first = true;
      const launch = () => {
        part.timer = null;
        const startedAt = Date.now();
        const child = spawn(command, args, {
          env: { ...process.env, TOMBOLO_STDIN: 'held', ...env },
          stdio: ['pipe', 'pipe', 'inherit'],
          // Ctrl-C reaches the start command alone, which ends them in order.
          detached: true,
        });
        part.child = child;
        child.stdin.on('error', () => undefined);
        let line = '';
        child.stdout.on('data', (data) => {
          line = (line + data).slice(-MOST_LINE);
          const found = ready.exec(line);
          if (!found) return;
          line = '';
          onReady(found[1]);
          if (first) resolve(found[1]);
          first = false;
        });
        child.on('error', (error) => say(`${name} could not be started: ${error.message}`));
        child.once('close', (code, signal) => {
          part.child = null;
          if (stopping) return;
          if (first) {
            first = false;
            return reject(new Error(`${name} ended with ${code ?? signal}`));
          }
          part.failures = Date.now() - startedAt > RAN_WELL_MS ? 1 : part.failures + 1;
          const wait = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (part.failures - 1));
          say(`${name} ended (${code ?? signal}); it is started again in ${(wait / 1000).toFixed(1)} s.`);
          part.timer = setTimeout(launch, wait);
        });
      };
      launch();
    });
  }

  return {
    start,
    /** Ends all of them, the last one started first. */
    async stop() {
      stopping = true;
      for (const part of [...parts.values()].reverse()) {
        if (part.timer) clearTimeout(part.timer);
        await end(part.child);
      }
    },
  };
}
