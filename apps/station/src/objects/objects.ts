import { ownStation, type GoesOut, type OwnObject, type OwnObjectChange, type Settings } from '@tombolo/contract';
import { encodeOwnThing, nextThingMs, type OwnThing } from '@tombolo/core';
import type { DataSource, EntityManager } from 'typeorm';
import { changedMeanwhile, ProblemError } from '../problem-error';
import { rowsOf, type Queries } from '../store/database';
import { BearerEntity, OwnObjectEntity, type BearerRow } from '../store/entities';
import { noteInAudit } from '../store/audit';
import { appendEvents } from '../store/events';
import { goneOut, type GoneOut } from '../transmissions/gone-out';
import { whyStopped } from '../transmissions/stopped';
import { queueByItself } from '../transmissions/write';

export interface ObjectsContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly wakeOutbox: () => void;
  readonly now: () => number;
}

interface Row {
  readonly id: string;
  readonly thing: OwnThing;
  readonly goesOut: GoesOut;
  readonly live: boolean;
  readonly takenBy: string | null;
  readonly changedAt: Date;
  readonly revision: number;
}

/** What still waits after that is made anew. */
const VALID_MS = 10 * 60_000;
/** Things that are gone are listed so long. */
const SHOWN_MS = 24 * 3_600_000;
const MOST_LIVE = 50;

/** Who reports a name on the map now, other than we; null for nobody. */
async function reportedBy(
  queries: Queries,
  name: string,
  own: string | null,
  after: Date | null,
): Promise<string | null> {
  const [row] = await rowsOf<{ owner: string }>(
    queries,
    `select state->>'owner' as owner from station
     where upper(state->>'name') = upper($1) and state->>'kind' in ('object', 'item') and (state->>'live')::boolean
       and state->>'owner' is distinct from $2 and ($3::timestamptz is null or last_at > $3)
     order by last_at desc limit 1`,
    [name, own, after],
  );
  return row?.owner ?? null;
}

/** Puts a thing on the map, moves or changes it. Of two who change it at once, the second is told. */
export async function keepObject(
  source: DataSource,
  id: string,
  { revision, takeOver, ...written }: OwnObjectChange,
  settings: Settings,
  at: Date,
): Promise<void> {
  const { bearerId, path, everyMin, ...thing } = written;
  await source.transaction(async (manager) => {
    const kept = manager.getRepository(OwnObjectEntity);
    const before = (
      await rowsOf<{ revision: number; live: boolean }>(
        manager,
        'select revision, live from own_object where id = $1 for update',
        [id],
      )
    )[0];
    if ((before?.revision ?? null) !== revision) throw changedMeanwhile();
    const other = await reportedBy(manager, thing.name, ownStation(settings), null);
    if (other !== null && !takeOver)
      throw new ProblemError(
        409,
        'reported',
        `${other} reports that name`,
        `${thing.name} is on the map already, by ${other}. Take it over only when you agreed on that, or give yours another name. Nothing was changed.`,
      );
    if (!before && (await kept.countBy({ live: true })) >= MOST_LIVE)
      throw new ProblemError(
        409,
        'too-many',
        'That is too many',
        `At most ${MOST_LIVE} things can be reported at once.`,
      );
    const sameName = await rowsOf(
      manager,
      `select 1 from own_object where live and id <> $1 and upper(thing->>'name') = upper($2)`,
      [id, thing.name],
    );
    if (sameName.length > 0)
      throw new ProblemError(
        409,
        'same-name',
        'We report that name already',
        `There is a ${thing.name} of ours. Change that one.`,
      );
    await kept.save({
      id,
      thing,
      goesOut: { bearerId, path: [...path], everyMin },
      live: true,
      takenBy: null,
      changedAt: at,
      revision: (before?.revision ?? 0) + 1,
    });
    await noteInAudit(manager, at, before ? 'changed a thing on the map' : 'put a thing on the map', thing.name);
    await tell(manager, id, at);
  });
}

/** Takes a thing off the map: it is said three times that it is gone. */
export async function endObject(source: DataSource, id: string, revision: number, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    const [before] = await rowsOf<{ revision: number; live: boolean; name: string }>(
      manager,
      `select revision, live, thing->>'name' as name from own_object where id = $1 for update`,
      [id],
    );
    if (!before) throw new ProblemError(404, 'no-such-object', 'That thing does not exist', 'It is not one of ours.');
    if (before.revision !== revision || !before.live) throw changedMeanwhile();
    await manager.getRepository(OwnObjectEntity).update({ id }, { live: false, changedAt: at, revision: revision + 1 });
    await noteInAudit(manager, at, 'took a thing off the map', before.name);
    await tell(manager, id, at);
  });
}

const tell = (manager: EntityManager, id: string, at: Date) =>
  appendEvents(manager, [{ type: 'own object', data: { id } }], at);

/** Why a thing does not go out now; null when it does. */
function stoppedBy({ goesOut, takenBy }: Row, bearers: readonly BearerRow[], settings: Settings): string | null {
  if (takenBy !== null) return `${takenBy} reports it now: ours is not sent any more.`;
  return whyStopped(
    bearers.find(({ id }) => id === goesOut.bearerId),
    settings,
  );
}

const rows = async (database: DataSource, since: Date): Promise<Row[]> =>
  await database
    .getRepository(OwnObjectEntity)
    .createQueryBuilder('o')
    .where('o.live or o.changed_at > :since', { since })
    .orderBy('o.changed_at', 'DESC')
    .addOrderBy('o.id')
    .getMany();

/** Things of ours, the last changed first, with those that are gone since yesterday. */
export async function listObjects({ database, settings, now }: ObjectsContext): Promise<OwnObject[]> {
  const all = await rows(database, new Date(now() - SHOWN_MS));
  const bearers = await database.getRepository(BearerEntity).find();
  const sent = await goneOut(
    database,
    'object',
    all.map(({ id }) => id),
  );
  const current = await settings();
  return all.map((row) => {
    const of = sent.find(({ id }) => id === row.id);
    const done = nextThingMs(row.live, row.goesOut.everyMin, of?.times ?? 0, of?.last_at?.getTime() ?? null) === null;
    return {
      id: row.id,
      ...row.thing,
      ...row.goesOut,
      revision: row.revision,
      live: row.live,
      takenBy: row.takenBy,
      changedAt: row.changedAt.toISOString(),
      times: of?.times ?? 0,
      lastAt: of?.last_at?.toISOString() ?? null,
      stopped: done ? null : stoppedBy(row, bearers, current),
    };
  });
}

function isDue({ live, goesOut }: Row, sent: GoneOut | undefined, nowMs: number): boolean {
  const dueMs = nextThingMs(live, goesOut.everyMin, sent?.times ?? 0, sent?.last_at?.getTime() ?? null);
  return !sent?.waits && dueMs !== null && dueMs <= nowMs;
}

/** Queues each thing whose time has come; leaves to others what they took over. */
export async function objectsTurn(context: ObjectsContext): Promise<undefined> {
  const { database, now } = context;
  const settings = await context.settings();
  const own = ownStation(settings);
  const all = await rows(database, new Date(now() - SHOWN_MS));
  if (own === null || all.length === 0) return undefined;
  const bearers = await database.getRepository(BearerEntity).find();
  const sent = await goneOut(
    database,
    'object',
    all.map(({ id }) => id),
  );
  for (const row of all) {
    if (stoppedBy(row, bearers, settings) !== null) continue;
    const of = sent.find(({ id }) => id === row.id);
    if (!isDue(row, of, now())) continue;
    // Heard after ours went out, another one’s report is the later word.
    const by = of?.last_at ? await reportedBy(database, row.thing.name, own, of.last_at) : null;
    if (by !== null) await leaveTo(database, row, by, new Date(now()));
    else await queue(database, row, settings, own, new Date(now()));
  }
  context.wakeOutbox();
  return undefined;
}

async function leaveTo(database: DataSource, { id, thing }: Row, by: string, at: Date): Promise<void> {
  await database.transaction(async (manager) => {
    await manager.query(
      'update own_object set live = false, taken_by = $2, changed_at = $3, revision = revision + 1 where id = $1',
      [id, by, at],
    );
    await noteInAudit(manager, at, `left a thing on the map to ${by}, who reports it`, thing.name);
    await tell(manager, id, at);
  });
}

async function queue(database: DataSource, row: Row, settings: Settings, own: string, at: Date): Promise<void> {
  const { thing, goesOut, live } = row;
  const info = encodeOwnThing(thing, live, at.getTime());
  if (!info.ok) return;
  await database.transaction(async (manager) => {
    // One turn at a time; what was changed meanwhile is looked at in the next one.
    const still = await rowsOf(manager, 'select 1 from own_object where id = $1 and revision = $2 for update', [
      row.id,
      row.revision,
    ]);
    if (still.length === 0) return;
    // Another turn may have queued it, and it may have gone out, since it was found due.
    const [sent] = await goneOut(manager, 'object', [row.id]);
    if (!isDue(row, sent, at.getTime())) return;
    const id = await queueByItself(
      manager,
      {
        role: 'convey',
        bearerId: goesOut.bearerId,
        fromCall: own,
        toCall: 'everybody',
        path: goesOut.path,
        info: info.value,
        policy: { ...settings.retry, tries: 1, until: new Date(at.getTime() + VALID_MS).toISOString() },
        detail: { object: row.id },
      },
      {
        at,
        dueAt: at,
        by: own,
        note: live ? `${thing.name} on the map, for everybody` : `${thing.name} is gone, for everybody`,
      },
    );
    await appendEvents(manager, [{ type: 'transmission', data: { id } }], at);
  });
}
