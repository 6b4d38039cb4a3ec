import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
/** Everything that a run leaves behind: caches, bundles and, by default, the data. Deleting it starts afresh. */
export const stateFolder = join(root, '.tombolo');
/** The database and the ports in use; TOMBOLO_DATA puts them elsewhere. */
export const dataFolder = process.env.TOMBOLO_DATA ?? stateFolder;

/** Makes the data folder: its own user's alone, but for the database's user, who has to get through as root. */
export function makeDataFolder() {
  mkdirSync(dataFolder, { recursive: true, mode: process.getuid?.() === 0 ? 0o711 : 0o700 });
}
