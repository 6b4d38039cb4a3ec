import { ingestMesh } from './ingest';
import type { DataSource } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import type { Heard } from '../../ingest/heard';
import { BearerEntity } from '../../store/entities';
import { storeFailure } from '../../store/failure';
import { parseMeshHeard } from './wire';

/** Stores what a mesh node said, whenever that was: what waited in a spool as well as what comes now. */
export const createMeshStore =
  (context: {
    readonly database: DataSource;
    readonly settings: () => Promise<Settings>;
    readonly now: () => number;
    readonly log: (message: string) => void;
  }) =>
  async (heard: Heard): Promise<void> => {
    const row = await context.database.getRepository(BearerEntity).findOneBy({ id: heard.bearerId ?? '' });
    const parsed = parseMeshHeard(heard.raw);
    if (row?.config.kind !== 'mesh-mqtt' || !parsed.ok)
      return context.log('mesh: a packet of a link that is not there any more was left out');
    const ingestContext = { ...context, bearerId: row.id, config: row.config };
    try {
      await ingestMesh(ingestContext, parsed.value, Buffer.from(heard.raw).toString('utf8'), heard.heardAtMs);
    } catch (error) {
      if (storeFailure(error) !== 'data') throw error;
      context.log(`mesh: a packet could not be stored: ${(error as Error).message}`);
    }
  };
