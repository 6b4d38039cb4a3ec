import { join } from 'node:path';

/** The programs of the threads that do heavy things, each a file of its own. */
export interface HeavyFiles {
  readonly check: string;
  readonly rebuild: string;
}

/** Where the build puts them: beside the station. */
export const heavyFilesIn = (folder: string): HeavyFiles => ({
  check: join(folder, 'check-worker.mjs'),
  rebuild: join(folder, 'rebuild-worker.mjs'),
});
