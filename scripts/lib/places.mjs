import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
/** Everything that a run leaves behind: caches, bundles and, by default, the data. Deleting it starts afresh. */
export const stateFolder = join(root, '.tombolo');
/** The database and the ports in use; TOMBOLO_DATA puts them elsewhere. */
export const dataFolder = process.env.TOMBOLO_DATA ?? stateFolder;
