import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { holdFolder } from './instance.mjs';
import { dataFolder, makeDataFolder } from './places.mjs';
import { startPostgres } from './postgres.mjs';

/** The databases that the start command makes: with the demo district, and without. */
export const DATABASES = { demo: 'demo', empty: 'station' };

/**
 * The database of this data folder for a command beside the start command: the one that runs, or one that is started for the time of the
 * work. `alone` refuses while an instance runs.
 */
export async function withDatabase({ alone }, work) {
  makeDataFolder();
  if (!existsSync(join(dataFolder, 'secrets.json')) && !alone)
    throw new Error('There is no data here yet: start the program once.');
  const hold = await holdFolder(dataFolder, () => ({ url: null }));
  if (!hold.held && alone)
    throw new Error(
      `Tombolo runs with these data${hold.other.url ? ` at ${hold.other.url}` : ''}. Stop it first; nothing was changed.`,
    );
  const ports = existsSync(join(dataFolder, 'ports.json'))
    ? JSON.parse(readFileSync(join(dataFolder, 'ports.json'), 'utf8'))
    : {};
  const cluster = await startPostgres(join(dataFolder, 'postgres'), { durable: true, port: ports.database });
  try {
    return await work(cluster);
  } finally {
    if (hold.held) {
      await cluster.stop();
      await hold.free();
    }
  }
}

/** In numbers that people read. */
export const told = ({ station, createdAt, items, packets, maps, waiting }) =>
  `  station ${station || 'without a call'}, made ${createdAt.slice(0, 16).replace('T', ' ')}Z
  ${items} items, ${packets} packets, ${maps} maps, ${waiting} waiting to go out`;
