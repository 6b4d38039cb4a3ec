import { ownStation, type OwnBulletinChange, type OwnBulletinView, type Settings } from '@tombolo/contract';
import { encodeOwnBulletin } from '@tombolo/core';
import type { DataSource, EntityManager } from 'typeorm';
import { changedMeanwhile, ProblemError } from '../problem-error';
import { noteInAudit } from '../store/audit';
import { rowsOf } from '../store/database';
import { BearerEntity, OwnBulletinEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { goneOut, type GoneOut } from '../transmissions/gone-out';
import { whyStopped } from '../transmissions/stopped';
import { queueByItself } from '../transmissions/write';

export interface BulletinContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly wakeOutbox: () => void;
  readonly now: () => number;
}

type Row = Awaited<ReturnType<typeof rows>>[number];

/** What still waits after that is made anew. */
const VALID_MS = 10 * 60_000;
/** Those that are over are listed so long. */
const SHOWN_MS = 24 * 3_600_000;
const MOST_LIVE = 36;

const rows = (database: DataSource, since: Date) =>
  database
    .getRepository(OwnBulletinEntity)
    .createQueryBuilder('b')
    .where('(b.ended_at is null and b.until > :since) or b.ended_at > :since', { since })
    .orderBy('b.changed_at', 'DESC')
    .addOrderBy('b.id')
    .getMany();

const isLive = ({ endedAt, until }: Row, nowMs: number): boolean => endedAt === null && until.getTime() > nowMs;

const tell = (manager: EntityManager, id: string, at: Date) =>
  appendEvents(manager, [{ type: 'own bulletin', data: { id } }], at);
const nameOf = ({ line, group }: { line: string; group: string }) => `${line}${group === '' ? '' : ` ${group}`}`;

/** Writes a bulletin, or changes it. A line has one of ours at a time. */
export async function keepBulletin(
  source: DataSource,
  id: string,
  { revision, replace, bearerId, path, everyMin, until, ...bulletin }: OwnBulletinChange,
  at: Date,
): Promise<void> {
  if (Date.parse(until) <= at.getTime())
    throw new ProblemError(
      422,
      'over-already',
      'It would be over already',
      `It was to be told until ${until.slice(11, 16)}Z. Nothing was changed; choose a later time.`,
    );
  await source.transaction(async (manager) => {
    await manager.query(`select pg_advisory_xact_lock(hashtext('own bulletins'))`);
    const kept = manager.getRepository(OwnBulletinEntity);
    const before = await kept.findOneBy({ id });
    if ((before?.revision ?? null) !== revision) throw changedMeanwhile();
    const live = await rowsOf<{ id: string; line: string; group: string }>(
      manager,
      `select id, bulletin->>'line' as line, bulletin->>'group' as group from own_bulletin
       where id <> $1 and ended_at is null and until > $2`,
      [id, at],
    );
    const same = live.find(({ line, group }) => line === bulletin.line && group === bulletin.group);
    if (same && !replace)
      throw new ProblemError(
        409,
        'line-used',
        `Line ${nameOf(bulletin)} is used`,
        'Another one of ours is told on that line. Take another line, or put this one in its place. Nothing was changed.',
      );
    if (same) await end(manager, same.id, at);
    else if (live.length >= MOST_LIVE)
      throw new ProblemError(409, 'too-many', 'That is too many', `At most ${MOST_LIVE} can be told at once.`);
    await kept.save({
      id,
      bulletin,
      goesOut: { bearerId, path: [...path], everyMin },
      until: new Date(until),
      endedAt: null,
      changedAt: at,
      revision: (before?.revision ?? 0) + 1,
    });
    // What waits of it says what it said before; a turn that queues it holds the row until then.
    if (before) await dropWaiting(manager, id, at);
    await noteInAudit(manager, at, before ? 'changed a bulletin' : 'wrote a bulletin', nameOf(bulletin));
    await tell(manager, id, at);
  });
}

/** It is told no more, and what of it waits goes out no more. */
async function end(manager: EntityManager, id: string, at: Date): Promise<void> {
  await manager.query('update own_bulletin set ended_at = $2, revision = revision + 1 where id = $1', [id, at]);
  await dropWaiting(manager, id, at);
  await tell(manager, id, at);
}

const dropWaiting = (manager: EntityManager, id: string, at: Date): Promise<unknown> =>
  manager.query(
    `update leg set next_at = null where detail ? 'ownBulletin' and detail->>'ownBulletin' = $1 and next_at is not null
       and (lease_until is null or lease_until < $2)`,
    [id, at],
  );

/** Takes a bulletin back. What others heard they keep: no word on the air takes it from them. */
export async function endBulletin(source: DataSource, id: string, revision: number, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    await manager.query(`select pg_advisory_xact_lock(hashtext('own bulletins'))`);
    const before = await manager.getRepository(OwnBulletinEntity).findOneBy({ id });
    if (!before)
      throw new ProblemError(404, 'no-such-bulletin', 'That bulletin does not exist', 'It is not one of ours.');
    if (before.revision !== revision || before.endedAt !== null) throw changedMeanwhile();
    await end(manager, id, at);
    await noteInAudit(manager, at, 'took a bulletin back', nameOf(before.bulletin));
  });
}

/** Bulletins of ours, the last changed first, with those that are over since yesterday. */
export async function listBulletins({ database, settings, now }: BulletinContext): Promise<OwnBulletinView[]> {
  const all = await rows(database, new Date(now() - SHOWN_MS));
  const bearers = await database.getRepository(BearerEntity).find();
  const sent = await sentOf(database, all);
  const current = await settings();
  return all.map((row) => {
    const of = sent.get(row.id);
    const live = isLive(row, now());
    const { bearerId } = row.goesOut;
    return {
      id: row.id,
      ...row.bulletin,
      ...row.goesOut,
      until: row.until.toISOString(),
      revision: row.revision,
      endedAt: row.endedAt?.toISOString() ?? null,
      live,
      times: of?.times ?? 0,
      lastAt: of?.last_at?.toISOString() ?? null,
      stopped: live
        ? whyStopped(
            bearers.find((one) => one.id === bearerId),
            current,
          )
        : null,
    };
  });
}

const sentOf = async (queries: DataSource | EntityManager, all: readonly Row[]): Promise<Map<string, GoneOut>> =>
  new Map(
    (
      await goneOut(
        queries,
        'bulletin',
        all.map(({ id }) => id),
      )
    ).map((of) => [of.id, of]),
  );

const isDue = (row: Row, sent: GoneOut | undefined, nowMs: number): boolean =>
  isLive(row, nowMs) &&
  !sent?.waits &&
  (!sent?.last_at || sent.last_at.getTime() + row.goesOut.everyMin * 60_000 <= nowMs);

/** Queues each bulletin whose time has come. */
export async function bulletinsTurn(context: BulletinContext): Promise<undefined> {
  const { database, now } = context;
  const settings = await context.settings();
  const own = ownStation(settings);
  const all = (await rows(database, new Date(now()))).filter((row) => isLive(row, now()));
  if (own === null || all.length === 0) return undefined;
  const bearers = await database.getRepository(BearerEntity).find();
  const sent = await sentOf(database, all);
  for (const row of all) {
    const bearer = bearers.find(({ id }) => id === row.goesOut.bearerId);
    if (isDue(row, sent.get(row.id), now()) && whyStopped(bearer, settings) === null)
      await queue(database, row, settings, own, new Date(now()));
  }
  context.wakeOutbox();
  return undefined;
}

async function queue(database: DataSource, row: Row, settings: Settings, own: string, at: Date): Promise<void> {
  const info = encodeOwnBulletin(row.bulletin);
  if (!info.ok) return;
  await database.transaction(async (manager) => {
    // One turn at a time; what was changed meanwhile is looked at in the next one.
    const still = await rowsOf(
      manager,
      'select 1 from own_bulletin where id = $1 and revision = $2 and ended_at is null for update',
      [row.id, row.revision],
    );
    if (still.length === 0 || !isDue(row, (await sentOf(manager, [row])).get(row.id), at.getTime())) return;
    const id = await queueByItself(
      manager,
      {
        role: 'convey',
        bearerId: row.goesOut.bearerId,
        fromCall: own,
        toCall: 'everybody',
        path: row.goesOut.path,
        info: info.value,
        policy: {
          ...settings.retry,
          tries: 1,
          until: new Date(Math.min(at.getTime() + VALID_MS, row.until.getTime())).toISOString(),
        },
        detail: { ownBulletin: row.id },
      },
      { at, dueAt: at, by: own, note: `bulletin ${nameOf(row.bulletin)}, for everybody` },
    );
    await appendEvents(manager, [{ type: 'transmission', data: { id } }], at);
  });
}
