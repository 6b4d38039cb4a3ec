import { join } from 'node:path';
import { stateFolder } from './places.mjs';
import { startPostgres } from './postgres.mjs';

/** The cluster of the tests: fast, not durable, apart from the one of the start command. */
export const startTestCluster = () => startPostgres(join(stateFolder, 'test-postgres'), { durable: false });
