import { parentPort, workerData } from 'node:worker_threads';
import { rebuildIfWanted } from '../ingest/derived/rebuild';
import { openDatabase } from '../store/database';
import { readSettings } from '../store/settings';
import type { RebuildTask, RebuildTold } from './rebuild';

/** A rebuild, in a thread of its own: a long log stalls nobody else. */
const port = parentPort!;

async function rebuild({ databaseUrl, nowMs }: RebuildTask): Promise<void> {
  const tell = (told: RebuildTold) => port.postMessage(told);
  let stopped = false;
  port.on('message', () => (stopped = true));
  try {
    const database = await openDatabase(databaseUrl, 'work');
    try {
      const receptions = await rebuildIfWanted({
        database,
        settings: () => readSettings(database),
        now: () => nowMs,
        log: (message) => tell({ what: 'log', message }),
        stopping: () => stopped,
      });
      tell({ what: 'done', receptions });
    } finally {
      await database.destroy();
    }
  } catch (error) {
    tell({ what: 'failed', reason: (error as Error).message });
  }
}

void rebuild(workerData as RebuildTask);
