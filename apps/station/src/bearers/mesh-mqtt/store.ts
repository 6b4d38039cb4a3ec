import type { DataSource } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import type { Heard } from '../../ingest/heard';
import { BearerEntity } from '../../store/entities';
import { storeFailure } from '../../store/failure';
import { ingestMesh } from './ingest';
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
    if (!parsed.ok) return context.log(`mesh: a message that waited is not as described: ${parsed.error.reason}`);
    if (row?.config.kind !== 'mesh-mqtt')
      return context.log('mesh: a packet of a link that is not there any more was left out');
    const ingestContext = { ...context, bearerId: row.id, config: row.config };
    try {
      await ingestMesh(ingestContext, parsed.value, heard.heardAtMs);
    } catch (error) {
      if (storeFailure(error) !== 'data') throw error;
      context.log(`mesh: a packet could not be stored: ${(error as Error).message}`);
    }
  };
