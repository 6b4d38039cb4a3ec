import { In, type DataSource, type EntityManager } from 'typeorm';
import { ownStation, transmitLocks, type Settings } from '@tombolo/contract';
import { openWith, otherParts } from '../parts/of-item';
import { ProblemError } from '../problem-error';
import { ItemEntity, LegEntity, type ItemRow } from '../store/entities';
import { rowsOf } from '../store/database';
import { addEvidence } from '../store/evidence';
import { appendEvents } from '../store/events';
import { holdItem, releaseHeld, settleItem } from '../transmissions/write';
import { queueLeg } from '../transmissions/queue-leg';
import { noteInAudit } from '../store/audit';

/** Refuses while the transmitter is locked, in the operator's words. */
function ownStationUnlocked(settings: Settings): string {
  const locks = transmitLocks(settings);
  const own = ownStation(settings);
  if (locks.length > 0 || own === null)
    throw new ProblemError(
      409,
      'transmit-locked',
      'The transmitter is locked',
      `${locks.join(' ')} Your text was not queued; answer this in Settings and send again.`,
    );
  return own;
}

async function lockedItem(manager: EntityManager, id: string): Promise<ItemRow> {
  if (!(await holdItem(manager, id))) throw noSuchItem(id);
  return manager.getRepository(ItemEntity).findOneByOrFail({ id });
}

const noSuchItem = (id: string): ProblemError =>
  new ProblemError(404, 'no-such-item', 'That item does not exist', `There is no item ${id}.`);

/** Of items those that are there and lie so, held in one order: two who file the same do not wait for each other for ever. */
async function lockedInOrder(manager: EntityManager, ids: readonly string[], filed?: boolean): Promise<string[]> {
  const rows = await rowsOf<{ id: string }>(
    manager,
    `select id from item where id = any($1::uuid[]) and ($2::boolean is null or (filed_at is not null) = $2) order by id for no key update`,
    [ids, filed ?? null],
  );
  return rows.map(({ id }) => id);
}

/** Tries again from the beginning, as a new leg; the number stays, so that the addressee shows it once. */
export async function retryItem(source: DataSource, id: string, settings: Settings, at: Date): Promise<void> {
  ownStationUnlocked(settings);
  await source.transaction(async (manager) => {
    const item = await lockedItem(manager, id);
    const legs = await manager
      .getRepository(LegEntity)
      .find({ where: { itemId: id, role: 'convey' }, order: { createdAt: 'ASC' } });
    const last = legs.at(-1);
    if (!last || (item.direction !== 'out' && !last.detail?.relay))
      throw new ProblemError(
        409,
        'not-ours',
        'That item did not go out from here',
        'Only own texts can be sent again.',
      );
    if (legs.some((leg) => leg.nextAt !== null))
      throw new ProblemError(
        409,
        'still-trying',
        'It is still being tried',
        'It waits for its next try; nothing was changed.',
      );
    const { bearerId, path, info, detail, policy } = last;
    await queueLeg(
      manager,
      { ...item, sender: last.fromCall, addressee: last.toCall, acknowledgementAsked: last.acknowledgementAsked },
      {
        bearerId,
        path,
        info,
        policy:
          policy.tries > 0
            ? { ...settings.retry, tries: policy.tries === 1 ? 1 : settings.retry.tries }
            : settings.retry,
        detail,
      },
      at,
    );
  });
}

/** Takes an item out of the queue; what was sent before stays on record. */
export async function cancelItem(source: DataSource, id: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    const item = await lockedItem(manager, id);
    const legs = await manager.getRepository(LegEntity).findBy({ itemId: id, role: 'convey' });
    if (item.direction !== 'out' && !legs.some((leg) => leg.detail?.relay))
      throw new ProblemError(409, 'not-ours', 'That item did not go out from here', 'Only own texts can be cancelled.');
    await settleItem(manager, id, false);
    await addEvidence(manager, {
      key: `cancelled:${id}`,
      itemId: id,
      legId: legs.filter((leg) => leg.detail?.relay).at(-1)?.id ?? null,
      kind: 'cancelled',
      at,
      by: item.sender,
    });
    await appendEvents(manager, [{ type: 'item', data: { id } }], at);
  });
}

/** Lets go what a restored backup held: from here on it is due like anything else. */
export async function releaseItem(source: DataSource, id: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    await lockedItem(manager, id);
    await releaseHeld(manager, id);
    await noteInAudit(manager, at, 'released what a restored backup held', id);
    await appendEvents(manager, [{ type: 'item', data: { id } }], at);
  });
}

/** The other parts of its text that were filed together with an item. */
async function filedWith(manager: EntityManager, item: ItemRow): Promise<string[]> {
  const rows = await rowsOf<{ id: string }>(
    manager,
    'select id from item where id = any($1::uuid[]) and filed_at = (select filed_at from item where id = $2)',
    [await otherParts(manager, item), item.id],
  );
  return rows.map(({ id }) => id);
}

export async function fileItem(source: DataSource, id: string, filed: boolean, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    const item = await manager.getRepository(ItemEntity).findOneBy({ id });
    if (!item) throw noSuchItem(id);
    // What lies open of the same text goes with the part that stands for it, and comes back with it.
    const others = filed ? await openWith(manager, [item], at) : await filedWith(manager, item);
    const ids = await lockedInOrder(manager, [id, ...others]);
    await manager.query('update item set filed_at = $2 where id = any($1::uuid[])', [ids, filed ? at : null]);
    await appendEvents(
      manager,
      ids.map((one) => ({ type: 'item', data: { id: one } })),
      at,
    );
  });
}

/** Files or unfiles many items; gives those that changed, so that it can be taken back. */
export async function fileItems(
  source: DataSource,
  ids: readonly string[],
  filed: boolean,
  at: Date,
): Promise<string[]> {
  return source.transaction(async (manager) => {
    const chosen = filed ? await manager.getRepository(ItemEntity).findBy({ id: In([...ids]) }) : [];
    const changed = await lockedInOrder(manager, [...ids, ...(await openWith(manager, chosen, at))], !filed);
    if (changed.length === 0) return [];
    await manager.query('update item set filed_at = $2 where id = any($1::uuid[])', [changed, filed ? at : null]);
    await appendEvents(
      manager,
      changed.map((id) => ({ type: 'item', data: { id } })),
      at,
    );
    return changed;
  });
}
