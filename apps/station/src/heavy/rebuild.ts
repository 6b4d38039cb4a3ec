import { Worker } from 'node:worker_threads';
import { z } from 'zod';

/** What the thread of a rebuild is given. */
export interface RebuildTask {
  readonly databaseUrl: string;
  /** The station's clock when it began. */
  readonly nowMs: number;
}

/** What it tells. */
export const rebuildTold = z.discriminatedUnion('what', [
  z.object({ what: z.literal('log'), message: z.string() }),
  z.object({ what: z.literal('done'), receptions: z.number().int() }),
  z.object({ what: z.literal('failed'), reason: z.string() }),
]);
export type RebuildTold = z.infer<typeof rebuildTold>;

const LOOK_EVERY_MS = 500;
/** More room for what is young makes it no faster (measured: 48, 96 and 192 MB take the same time of processor), and the station larger. */
const MEMORY = { maxOldGenerationSizeMb: 256, maxYoungGenerationSizeMb: 48 };

/** Makes what is derived anew in a thread of its own: nobody waits for it, and its memory is bounded. Gives from how many receptions. */
export function runRebuild(
  workerFile: string,
  task: RebuildTask,
  { stopping, log }: { readonly stopping: () => boolean; readonly log: (message: string) => void },
): Promise<number> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(workerFile, { workerData: task, resourceLimits: MEMORY });
    const look = setInterval(() => {
      if (stopping()) worker.postMessage('stop');
    }, LOOK_EVERY_MS);
    const end = (settle: () => void) => {
      clearInterval(look);
      settle();
      void worker.terminate();
    };
    worker.on('message', (message: unknown) => {
      const told = rebuildTold.parse(message);
      if (told.what === 'log') log(told.message);
      else if (told.what === 'done') end(() => resolve(told.receptions));
      else end(() => reject(new Error(told.reason)));
    });
    worker.once('error', (error) => end(() => reject(error)));
    worker.once('exit', (code) => end(() => reject(new Error(`the thread of the rebuild ended with ${code}`))));
  });
}
