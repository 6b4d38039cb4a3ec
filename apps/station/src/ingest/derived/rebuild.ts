import { setImmediate } from 'node:timers/promises';
import type { DataSource, EntityManager } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import { channelsByIds, type Channel } from '../../store/channels';
import { createInTurn } from '../../in-turn';
import { rowsOf, storable, type Queries } from '../../store/database';
import { INGEST_LOCK, REMAKE_LOCK } from '../../store/locks';
import { msOfId } from '../../store/moments';
import type { Heard } from '../heard';
import { understand } from '../understand';
import type { Stored } from '../store-heard';
import { createDerivation, type Derivation } from './derive';

const PAGE = 2000;
/** So much is folded before it is written: a station that is heard often is written once for all of it. */
const CHUNK = 500_000;
const FOLDED_AT_ONCE = 100;
const SAY_EVERY = 100_000;

interface ReceptionRow {
  id: string;
  packet_id: string;
  opens: boolean;
  channel_id: number;
  form: Heard['form'];
  snr_db: number | null;
  rssi_dbm: number | null;
  raw: Buffer;
  kind: string;
  summary: string;
}

const SELECT = `
  select r.id, r.packet_id, r.opens, r.form, r.raw, r.snr_db, r.rssi_dbm, r.channel_id, p.kind, p.summary
  from reception r join packet p on p.id = r.packet_id`;

/** A page as one row: the octets behind one another, and of each reception the rest with how many octets are its own. */
interface PageRow {
  readonly octets: Buffer;
  readonly told: readonly (readonly [
    id: string,
    packetId: string,
    opens: boolean,
    channelId: number,
    form: Heard['form'],
    octets: number,
    snrDb: number | null,
    rssiDbm: number | null,
    kind: string,
    summary: string,
  ])[];
}

/** One row in place of thousands: the driver reads them field by field, and octets as digits. */
const pageAfter = (size: number) => `
  select coalesce(string_agg(x.raw, ''::bytea order by x.id), ''::bytea) as octets,
    coalesce(json_agg(json_build_array(x.id::text, x.packet_id::text, x.opens, x.channel_id, x.form, octet_length(x.raw), x.snr_db, x.rssi_dbm, x.kind, x.summary) order by x.id), '[]') as told
  from (${SELECT} where r.id > $1 and not exists (select 1 from remake_tail t where t.reception_id = r.id)
    order by r.id limit ${size}) x`;

function rowsOfPage({ octets, told }: PageRow): ReceptionRow[] {
  let from = 0;
  return told.map(([id, packet_id, opens, channel_id, form, length, snr_db, rssi_dbm, kind, summary]) => {
    const raw = octets.subarray(from, from + length);
    from += length;
    return { id, packet_id, opens, channel_id, form, snr_db, rssi_dbm, raw, kind, summary };
  });
}

/** What stays known from one chunk to the next: nobody else writes to the twins, and a channel never changes. */
interface Work {
  readonly derivation: Derivation;
  readonly channels: Map<number, Channel>;
}

/** Asks for a rebuild. */
export const wantRebuild = (queries: Queries): Promise<unknown> =>
  queries.query('insert into rebuild_wanted values (now())');

export interface RebuildContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly now: () => number;
  readonly log: (message: string) => void;
  /** How much is read and written at a time; smaller in tests. */
  readonly sizes?: { readonly page: number; readonly chunk: number };
  /** True when the process should stop: what was done so far is kept, and somebody goes on from there. */
  readonly stopping?: () => boolean;
}

/**
 * Makes all that is derived anew from the receptions: stations, trails, weather, telemetry, links, and how packets are summed up. The
 * station serves meanwhile: twins of the tables are filled page by page in a schema of their own, what is heard meanwhile follows in the
 * order in which it came, and in the end the twins take the place of the tables. A process that is killed loses one chunk.
 */
export async function rebuildIfWanted(context: RebuildContext): Promise<number> {
  const { database, log, stopping = () => false } = context;
  if (!(await rebuildWanted(database))) return 0;
  // Held by a connection of its own as long as it lasts: one rebuild at a time.
  const runner = database.createQueryRunner();
  try {
    const [lock] = await rowsOf<{ got: boolean }>(runner, 'select pg_try_advisory_lock($1) as got', [REMAKE_LOCK]);
    if (!lock?.got) return 0;
    try {
      await begin(context);
      const work: Work = { derivation: createDerivation(await context.settings()), channels: new Map() };
      let done = 0;
      for (;;) {
        if (stopping()) return done;
        const rows = await chunk(context, work);
        if (rows === 'finished') break;
        done += rows;
        if (Math.floor(done / SAY_EVERY) > Math.floor((done - rows) / SAY_EVERY))
          log(`made anew from ${done} receptions`);
      }
      return done;
    } finally {
      await runner.query('select pg_advisory_unlock($1)', [REMAKE_LOCK]).catch(() => undefined);
    }
  } finally {
    await runner.release();
  }
}

/** Whether one was asked for, or was cut off. */
export const rebuildWanted = async (queries: Queries): Promise<boolean> =>
  (await rowsOf(queries, 'select 1 from rebuild_wanted union all select 1 from remake limit 1')).length > 0;

/** Begins, or goes on where a process was killed. */
async function begin({ database, now }: RebuildContext): Promise<void> {
  await database.transaction(async (manager) => {
    // With the lock of the ingest, so that every reception is either there already or put down for later.
    await manager.query('select pg_advisory_xact_lock($1)', [INGEST_LOCK]);
    if ((await rowsOf(manager, 'select 1 from remake')).length > 0) return;
    await manager.query('delete from rebuild_wanted');
    await manager.query('delete from remake_tail');
    await manager.query('select begin_remake()');
    await manager.query('insert into remake (began_at) values ($1)', [new Date(now())]);
  });
}

/** One chunk further: read page by page, written at once, so that a busy station is written once and not with every page. */
async function chunk(context: RebuildContext, work: Work): Promise<number | 'finished'> {
  const { derivation } = work;
  const { database, sizes = { page: PAGE, chunk: CHUNK }, stopping = () => false } = context;
  return database.transaction(async (manager) => {
    const [remake] = await rowsOf<{ done_id: string; caught_up: boolean }>(
      manager,
      'select done_id, caught_up from remake for update',
    );
    if (!remake) return 'finished';
    // The twins stand in front of the tables that they will replace.
    await manager.query('set local search_path = remade, public');
    if (remake.caught_up) return tail(context, manager, work);
    let after = remake.done_id;
    let done = 0;
    let caughtUp = false;
    const next = () => {
      const page = rowsOf<PageRow>(database, pageAfter(sizes.page), [after]);
      // Awaited when its turn comes; what fails before that says so itself.
      page.catch(() => undefined);
      return page;
    };
    // The next page is read, and what the last one added is written, while this one is folded.
    const twins = oneAtATime(manager);
    let coming = next();
    let pouring: Promise<void> = Promise.resolve();
    while (done < sizes.chunk && !caughtUp && !stopping()) {
      const rows = rowsOfPage((await coming)[0]!);
      after = rows.at(-1)?.id ?? after;
      done += rows.length;
      caughtUp = rows.length < sizes.page;
      if (!caughtUp && done < sizes.chunk) coming = next();
      await fold(twins, rows, work);
      await pouring;
      pouring = derivation.pour(twins);
      // Awaited at the next page or below; what fails before that says so itself.
      pouring.catch(() => undefined);
    }
    await pouring;
    await derivation.write(manager, new Date(context.now()));
    await manager.query('update remake set done_id = $1, done = done + $2, caught_up = $3 where id = 1', [
      after,
      done,
      caughtUp,
    ]);
    return done;
  });
}

/** What was heard since it began, in the order in which it came; when little is left, the ingest waits until it is done. */
async function tail(context: RebuildContext, manager: EntityManager, work: Work): Promise<number | 'finished'> {
  const { page } = context.sizes ?? { page: PAGE };
  const next = () =>
    rowsOf<ReceptionRow & { n: string }>(
      manager,
      `select t.n, x.* from (select * from remake_tail order by n limit ${page}) t
       left join lateral (${SELECT} where r.id = t.reception_id) x on true order by t.n`,
    );
  let rows = await next();
  const last = rows.length < page;
  if (last) {
    await manager.query('select pg_advisory_xact_lock($1)', [INGEST_LOCK]);
    rows = await next();
  }
  // What was not understood has no packet and changes nothing.
  await fold(
    manager,
    rows.filter(({ packet_id }) => packet_id !== null),
    work,
  );
  await work.derivation.write(manager, new Date(context.now()));
  await manager.query('delete from remake_tail where n <= $1', [rows.at(-1)?.n ?? '0']);
  if (!last || rows.length === page) return rows.length;
  await manager.query('set local search_path = public');
  await manager.query('select finish_remake()');
  await manager.query('delete from remake');
  return 'finished';
}

/** Statements of two that work at once on one connection: a connection takes one after the other. */
function oneAtATime(queries: Queries): Queries {
  const inTurn = createInTurn();
  return { query: (sql, parameters) => inTurn(() => queries.query(sql, parameters)) };
}

/** A few at a time: what is understood of one is garbage before the next ones are read, and is never carried along. */
async function fold(queries: Queries, rows: readonly ReceptionRow[], work: Work): Promise<void> {
  await learnChannels(queries, rows, work.channels);
  for (let from = 0; from < rows.length; from += FOLDED_AT_ONCE) {
    await foldSome(queries, rows.slice(from, from + FOLDED_AT_ONCE), work);
    // Meanwhile what is read and written goes on.
    await setImmediate();
  }
}

async function foldSome(
  queries: Queries,
  rows: readonly ReceptionRow[],
  { derivation, channels }: Work,
): Promise<void> {
  const stored = rows.map((row): Stored => ({
    understood: understand(heardOf(row, channels.get(row.channel_id)!)),
    receptionId: row.id,
    packetId: row.packet_id,
    isNewPacket: row.opens,
  }));
  await renewSummaries(queries, rows, stored);
  await derivation.add(queries, stored);
}

async function learnChannels(
  queries: Queries,
  rows: readonly ReceptionRow[],
  channels: Map<number, Channel>,
): Promise<void> {
  const unknown = new Set(rows.map((row) => row.channel_id).filter((id) => !channels.has(id)));
  if (unknown.size === 0) return;
  for (const [id, channel] of await channelsByIds(queries, [...unknown])) channels.set(id, channel);
}

const heardOf = (row: ReceptionRow, { bearerId, importId, port }: Channel): Heard => ({
  bearerId,
  importId,
  port,
  form: row.form,
  raw: row.raw,
  heardAtMs: msOfId(row.id),
  signal: { snrDb: row.snr_db, rssiDbm: row.rssi_dbm },
});

/** Packets that an older version understood less of. */
async function renewSummaries(
  queries: Queries,
  rows: readonly ReceptionRow[],
  stored: readonly Stored[],
): Promise<void> {
  const changed = stored.filter(({ understood, isNewPacket }, i) => {
    const { kind, summary } = rows[i]!;
    return isNewPacket && (understood.kind !== kind || storable(understood.summary) !== summary);
  });
  if (changed.length === 0) return;
  await queries.query(
    `update packet p set kind = n.kind, summary = n.summary from unnest($1::bigint[], $2::text[], $3::text[]) as n (id, kind, summary)
     where p.id = n.id`,
    [
      changed.map((row) => row.packetId),
      changed.map((row) => row.understood.kind),
      changed.map((row) => storable(row.understood.summary)),
    ],
  );
}
