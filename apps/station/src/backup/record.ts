import type { DataSource, EntityManager } from 'typeorm';
import { storable } from '../store/database';
import { BackupRunEntity } from '../store/entities';
import { appendEvents } from '../store/events';

/** What is told of a backup, with its event. */
const told = (database: DataSource, id: string, at: Date, change: (manager: EntityManager) => Promise<unknown>) =>
  database.transaction(async (manager) => {
    await change(manager);
    await appendEvents(manager, [{ type: 'backup', data: { id } }], at);
  });

export const backupBegan = (database: DataSource, id: string, at: Date): Promise<void> =>
  told(database, id, at, (manager) => manager.getRepository(BackupRunEntity).insert({ id, startedAt: at }));

/** A backup that was read back, or why there is none. */
export const backupEnded = (
  database: DataSource,
  id: string,
  at: Date,
  end: { readonly octets: number } | { readonly problem: string },
): Promise<void> =>
  told(database, id, at, (manager) =>
    manager.getRepository(BackupRunEntity).update(
      { id },
      {
        finishedAt: at,
        ...('problem' in end
          ? { problem: storable(end.problem).slice(0, 1000) }
          : { octets: String(end.octets), verified: true }),
      },
    ),
  );
