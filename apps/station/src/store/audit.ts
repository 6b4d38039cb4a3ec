import type { DataSource, EntityManager } from 'typeorm';
import { AuditEntity } from './entities';

/** Notes what somebody did to the station itself; never changed or removed. */
export const noteInAudit = async (
  store: DataSource | EntityManager,
  at: Date,
  what: string,
  detail: string | null = null,
): Promise<void> => {
  await store.getRepository(AuditEntity).insert({ at, byWhom: 'the operator', what, detail });
};
