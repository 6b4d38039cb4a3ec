import { Worker } from 'node:worker_threads';
import type { Verdict } from './checks';

export type Task =
  | { readonly kind: 'geojson'; readonly octets: Uint8Array }
  | { readonly kind: 'pmtiles'; readonly octets: Uint8Array; readonly fileOctets: number };

const WITHIN_MS = 60_000;
const MOST_MEMORY_MB = 768;

/** Runs a check in a thread of its own, within bounds of time and memory; one that breaks them is refused. */
export function runHeavy(workerFile: string, task: Task): Promise<Verdict> {
  return new Promise((resolve) => {
    const worker = new Worker(workerFile, {
      workerData: task,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
    });
    const done = (verdict: Verdict) => {
      clearTimeout(late);
      resolve(verdict);
      void worker.terminate();
    };
    const late = setTimeout(() => done(`It could not be checked within ${WITHIN_MS / 1000} s.`), WITHIN_MS);
    worker.once('message', done);
    worker.once('error', (error) => done(`It could not be checked: ${error.message.slice(0, 200)}`));
    worker.once('exit', (code) => done(`It could not be checked: the check ended with ${code}.`));
  });
}
