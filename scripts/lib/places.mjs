import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
/** Everything that a run leaves behind: database, caches, bundles. Deleting it starts afresh. */
export const stateFolder = join(root, '.tombolo');
