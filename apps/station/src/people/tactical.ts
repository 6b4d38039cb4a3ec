import { randomUUID } from 'node:crypto';
import { MOST_TACTICAL, MOST_TACTICAL_OVER, type TacticalChange, type TacticalView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, type Queries } from '../store/database';
import { TacticalNameEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { PEOPLE_LOCK } from '../store/locks';

interface Row {
  readonly id: string;
  readonly name: string;
  readonly call: string;
  readonly since: Date;
  readonly until: Date | null;
}
const viewOf = ({ since, until, ...row }: Row): TacticalView => ({
  ...row,
  since: since.toISOString(),
  until: until?.toISOString() ?? null,
});

/** All that hold, and the last of those that are over; the last one given comes first. */
export const listTacticalNames = async (queries: Queries): Promise<TacticalView[]> =>
  (
    await rowsOf<Row>(
      queries,
      `select id, name, call, since, until from tactical_name order by until is not null, since desc, id limit $1`,
      [MOST_TACTICAL + MOST_TACTICAL_OVER],
    )
  ).map(viewOf);

/** Gives a station a name from now on. What was before stays as it was: an old item was sent to whoever had the name then. */
export const giveTacticalName = (source: DataSource, { name, call }: TacticalChange, at: Date): Promise<TacticalView> =>
  source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [PEOPLE_LOCK]);
    const held = await rowsOf<Row>(manager, 'select * from tactical_name where until is null');
    const before = held.find((one) => one.name.toLowerCase() === name.toLowerCase());
    if (before && before.call === call && before.name === name) return viewOf(before);
    if (!before && held.length >= MOST_TACTICAL)
      throw new ProblemError(
        409,
        'list-full',
        'The list is full',
        `At most ${MOST_TACTICAL} tactical names hold at a time.`,
      );
    const names = manager.getRepository(TacticalNameEntity);
    if (before) await names.update({ id: before.id }, { until: at });
    const given = { id: randomUUID(), name, call, since: at, until: null };
    await names.insert(given);
    await appendEvents(manager, [{ type: 'tactical name', data: { id: given.id } }], at);
    return viewOf(given);
  });

/** Ends one. Taken back twice, it ended the first time. */
export const endTacticalName = (source: DataSource, id: string, at: Date): Promise<void> =>
  source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [PEOPLE_LOCK]);
    const names = manager.getRepository(TacticalNameEntity);
    const known = await names.findOneBy({ id });
    if (!known)
      throw new ProblemError(404, 'no-such-name', 'That name does not exist', 'No tactical name has that identifier.');
    if (known.until !== null) return;
    await names.update({ id }, { until: at });
    await appendEvents(manager, [{ type: 'tactical name', data: { id } }], at);
  });
