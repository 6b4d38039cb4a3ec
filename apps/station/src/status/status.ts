import { locksOf, ownStation, type Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { ownStatus } from '../ingest/own/answer-query';
import { rowsOf } from '../store/database';
import { BearerEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { queueByItself } from '../transmissions/write';

export interface StatusContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly wakeOutbox: () => void;
  readonly now: () => number;
}

const VALID_MS = 5 * 60_000;

/** Queues our status, with the frequency that we listen on, when the plan says so. Gives why it could not, in words. */
export async function statusTurn({
  database,
  wakeOutbox,
  now,
  ...context
}: StatusContext): Promise<string | undefined> {
  const settings = await context.settings();
  const plan = settings.statusPlan;
  const own = ownStation(settings);
  // A status would say that no help is needed any more.
  if (!plan || own === null || settings.emergency || settings.heldSince !== null) return undefined;
  const info = ownStatus(settings);
  const bearer = await database.getRepository(BearerEntity).findOneBy({ id: plan.bearerId });
  if (!info || !bearer?.enabled || bearer.state.link !== 'up' || locksOf(bearer.config.kind, settings).length > 0)
    return undefined;
  const at = new Date(now());
  const id = await database.transaction(async (manager) => {
    await manager.query('select 1 from bearer where id = $1 for update', [plan.bearerId]);
    const [last] = await rowsOf<{ created_at: Date }>(
      manager,
      `select created_at from leg where item_id is null and detail ? 'status' order by created_at desc limit 1`,
      [],
    );
    if (last && at.getTime() - last.created_at.getTime() < plan.everyMin * 60_000) return null;
    const made = await queueByItself(
      manager,
      {
        role: 'convey',
        bearerId: plan.bearerId,
        fromCall: own,
        toCall: 'everybody',
        path: plan.path,
        info,
        policy: { ...settings.retry, tries: 1, until: new Date(at.getTime() + VALID_MS).toISOString() },
        detail: { status: true },
      },
      { at, dueAt: at, by: own, note: 'our status, for everybody, by its plan' },
    );
    await appendEvents(manager, [{ type: 'transmission', data: { id: made } }], at);
    return made;
  });
  if (id !== null) wakeOutbox();
  return undefined;
}
