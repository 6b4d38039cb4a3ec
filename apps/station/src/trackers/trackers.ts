import {
  carriageOf,
  sendsPackets,
  trackerComment,
  type Settings,
  type TrackerChange,
  type TrackerFeed,
  type TrackerReport,
  type TrackersNow,
} from '@tombolo/contract';
import { bearingBetween } from '@tombolo/core';
import { randomUUID } from 'node:crypto';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf } from '../store/database';
import { BearerEntity, TrackerEntity, TrackerFeedEntity } from '../store/entities';
import { appendEvents, type NewEvent } from '../store/events';
import { TRACKER_CALLS } from '../ingest/derived/emergencies';
import { askFeed, readFeed } from './feed';

export interface TrackersContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly now: () => number;
}

/** Older, it is where somebody was: it goes on the air no more. */
const STALE_MS = 30 * 60_000;
/** One that moved so far is told anew, at most so often; one that calls for help at once. */
const MOVED_KM = 0.2;
const EVERY_MIN = 10;
const LEAST_MS = 5 * 60_000;

/** A unit that nobody named or bridged is forgotten so long after it told of itself last. */
const FORGOTTEN_MS = 24 * 60 * 60_000;
/** So many that nobody named are kept, the latest: a feed may invent as many as it likes. */
const MOST_UNNAMED = 1000;

const NEW: Omit<TrackerChange, 'name'> = { symbol: '/[', showBattery: false, bridged: false };
const nameOf = (unit: string): string =>
  unit
    .replace(/^mesh /, '')
    .toUpperCase()
    .replace(/[^!-~]/g, '')
    .slice(0, 9) || 'TRACKER';
const isStale = ({ at }: Pick<TrackerReport, 'at'>, nowMs: number): boolean => nowMs - Date.parse(at) > STALE_MS;

/** Asks the feed when its time has come, and does what follows from what it says. */
export async function trackersTurn(context: TrackersContext): Promise<undefined> {
  const { database, now } = context;
  const feed = (await context.settings()).trackerFeed;
  const at = new Date(now());
  if (feed) await askTheFeed(context, feed, at);
  await database.transaction(async (manager) => {
    const events: NewEvent[] = [];
    for (const report of await nodesWithAPlace(manager)) events.push(...(await keepReport(manager, report, at)));
    if (events.length > 0) await appendEvents(manager, events, at);
  });
  await forget(context);
  await bridge(context);
  return undefined;
}

/** Forgets units that only the feed ever spoke of: not what somebody named or put on the air, nor what calls for help. */
async function forget({ database, now }: TrackersContext): Promise<void> {
  const asNew = (unit: string) => JSON.stringify({ name: nameOf(unit), ...NEW });
  const unnamed = (await database.getRepository(TrackerEntity).find())
    .filter(({ unit, shown, report }) => !report.emergency && JSON.stringify(inOrder(shown)) === asNew(unit))
    .sort((a, b) => Date.parse(b.report.at) - Date.parse(a.report.at));
  const gone = unnamed.filter(({ report }, n) => n >= MOST_UNNAMED || Date.parse(report.at) < now() - FORGOTTEN_MS);
  if (gone.length === 0) return;
  await database.transaction(async (manager) => {
    // As it was looked at: one that was named or told of itself meanwhile stays.
    await manager.query(
      `delete from tracker t using unnest($1::text[], $2::timestamptz[]) as g (unit, changed_at)
       where t.unit = g.unit and date_trunc('milliseconds', t.changed_at) = g.changed_at and not (t.report->>'emergency')::boolean
         and not exists (select 1 from own_object o where o.id = t.object_id)`,
      [gone.map(({ unit }) => unit), gone.map(({ changedAt }) => changedAt)],
    );
    await appendEvents(manager, [{ type: 'tracker', data: {} }], new Date(now()));
  });
}
const inOrder = ({ name, symbol, showBattery, bridged }: TrackerChange) => ({ name, symbol, showBattery, bridged });

/** Nodes of the mesh that told where they are: trackers as well, of their own sort. */
async function nodesWithAPlace(manager: EntityManager): Promise<TrackerReport[]> {
  const rows = await rowsOf<{ call: string; latitude: number; longitude: number; at_ms: number }>(
    manager,
    `select s.call, (s.state->>'latitude')::float8 as latitude, (s.state->>'longitude')::float8 as longitude,
       (s.state->>'positionAtMs')::float8 as at_ms
     from station s left join tracker t on t.unit = 'mesh ' || s.call
     where s.state->>'kind' = 'node' and s.state->>'latitude' is not null and s.state->>'positionAtMs' is not null
       and (t.unit is null or (t.report->>'at')::timestamptz < to_timestamp((s.state->>'positionAtMs')::float8 / 1000) - interval '1 second')
     limit 200`,
    [],
  );
  return rows.map(({ call, latitude, longitude, at_ms }) => ({
    unit: `mesh ${call}`,
    latitude,
    longitude,
    at: new Date(at_ms).toISOString(),
    batteryPercent: null,
    emergency: false,
  }));
}

async function askTheFeed({ database, now }: TrackersContext, feed: TrackerFeed, at: Date): Promise<void> {
  // One process asks; the others see that it did.
  const due = await rowsOf(
    database,
    `insert into tracker_feed (url, asked_at) values ($1, $2)
     on conflict (url) do update set asked_at = excluded.asked_at where tracker_feed.asked_at <= $3 returning url`,
    [feed.url, at, new Date(now() - feed.everyS * 1000)],
  );
  if (due.length === 0) return;
  const text = await askFeed(feed.url);
  const read = text.ok ? readFeed(text.value, now()) : text;
  const fault = read.ok ? read.value.faults.join('; ').slice(0, 1000) || null : read.error.reason;
  await database.transaction(async (manager) => {
    await manager.query('update tracker_feed set fault = $2 where url = $1', [feed.url, fault]);
    const events: NewEvent[] = [{ type: 'tracker', data: {} }];
    if (read.ok) for (const report of read.value.reports) events.push(...(await keepReport(manager, report, at)));
    await appendEvents(manager, events, at);
  });
}

/** Keeps what a unit says, unless it says it again or goes back in time; a call for help is an alarm like any other. */
async function keepReport(manager: EntityManager, report: TrackerReport, at: Date): Promise<NewEvent[]> {
  const units = manager.getRepository(TrackerEntity);
  const before = await units.findOneBy({ unit: report.unit });
  if (before && Date.parse(before.report.at) >= Date.parse(report.at)) return [];
  // What would be forgotten at once is not taken up.
  if (!before && !report.emergency && Date.parse(report.at) < at.getTime() - FORGOTTEN_MS) return [];
  if (before) await units.update({ unit: report.unit }, { report });
  else {
    // Whoever else looks at the same moment has told of it already.
    const taken = await rowsOf(
      manager,
      `insert into tracker (unit, shown, report, object_id, changed_at) values ($1, $2, $3, $4, $5)
       on conflict do nothing returning unit`,
      [report.unit, JSON.stringify({ name: nameOf(report.unit), ...NEW }), JSON.stringify(report), randomUUID(), at],
    );
    if (taken.length === 0) return [];
  }
  const name = before?.shown.name ?? nameOf(report.unit);
  return [{ type: 'tracker', data: {} }, ...(await judge(manager, report, name, at))];
}

/** Raises an alarm when a unit calls for help, and ends its own when it says otherwise: never one that a station of that name raised. */
async function judge(manager: EntityManager, report: TrackerReport, name: string, at: Date): Promise<NewEvent[]> {
  const words = `${TRACKER_CALLS}${report.unit}, by its feed`;
  const open = await rowsOf<{ id: string }>(
    manager,
    `select id from alarm where kind = 'emergency' and ended_at is null and words = $1 for update`,
    [words],
  );
  if (report.emergency === open.length > 0) return [];
  if (report.emergency)
    await manager.query(`insert into alarm (call, words, at, kind, drill) values ($1, $2, $3, 'emergency', false)`, [
      name,
      words,
      at,
    ]);
  else
    await manager.query('update alarm set ended_at = $2 where id = any($1::bigint[])', [open.map(({ id }) => id), at]);
  return [{ type: 'alarm', data: { call: name } }];
}

interface Bridged {
  readonly unit: string;
  readonly shown: TrackerChange;
  readonly report: TrackerReport;
  readonly object_id: string;
  readonly thing: {
    readonly latitude: number;
    readonly longitude: number;
    readonly name: string;
    readonly symbol: string;
  } | null;
  readonly live: boolean | null;
  readonly taken_by: string | null;
  readonly object_changed_at: Date | null;
  /** Of the thing as it was looked at: whoever was quicker has done it. */
  readonly revision: number | null;
}

/** Puts bridged units on the map as objects of ours, moves them there, and takes off what is stale or no longer bridged. */
async function bridge({ database, now }: TrackersContext): Promise<void> {
  const all = await rowsOf<Bridged>(
    database,
    `select t.unit, t.shown, t.report, t.object_id, o.thing, o.live, o.taken_by, o.changed_at as object_changed_at, o.revision
     from tracker t left join own_object o on o.id = t.object_id
     where (t.shown->>'bridged')::boolean or o.live`,
    [],
  );
  const modem = (await database.getRepository(BearerEntity).find({ order: { createdAt: 'ASC' } })).find(
    ({ enabled, config }) => enabled && sendsPackets(config),
  );
  const carriage = modem && carriageOf(modem.config);
  for (const one of all) {
    const goes = one.shown.bridged && !isStale(one.report, now());
    if (!goes) {
      if (one.live) await write(database, one, { live: false }, new Date(now()));
      continue;
    }
    if (!modem || carriage?.what !== 'packets' || !isDue(one, now())) continue;
    await write(
      database,
      one,
      { live: true, goesOut: { bearerId: modem.id, path: [...carriage.path], everyMin: EVERY_MIN } },
      new Date(now()),
    );
  }
}

function isDue({ thing, live, taken_by, object_changed_at, shown, report }: Bridged, nowMs: number): boolean {
  if (!thing || !object_changed_at) return true;
  // Somebody else reports that name: it is left to them until it is named anew.
  if (taken_by !== null && thing.name === shown.name) return false;
  if (!live || thing.name !== shown.name || thing.symbol !== shown.symbol) return true;
  const movedKm = bearingBetween(thing, report).distanceKm;
  return movedKm >= MOVED_KM && (report.emergency || nowMs - object_changed_at.getTime() >= LEAST_MS);
}

async function write(
  database: DataSource,
  { unit, shown, report, object_id, revision }: Bridged,
  to: { readonly live: false } | { readonly live: true; readonly goesOut: object },
  at: Date,
): Promise<void> {
  await database.transaction(async (manager) => {
    if (!to.live)
      await manager.query(
        'update own_object set live = false, changed_at = $2, revision = revision + 1 where id = $1 and revision = $3 and live',
        [object_id, at, revision],
      );
    else {
      const taken = await rowsOf(
        manager,
        `select 1 from own_object where live and id <> $1 and upper(thing->>'name') = upper($2)`,
        [object_id, shown.name],
      );
      if (taken.length > 0) return;
      const { latitude, longitude } = report;
      const comment = report.emergency
        ? `EMERGENCY ${trackerComment({ ...report, ...shown, unit }).slice(0, 33)}`
        : trackerComment({ ...report, ...shown, unit });
      await manager.query(
        revision === null
          ? `insert into own_object (id, thing, goes_out, live, taken_by, changed_at, revision)
             values ($1, $2, $3, true, null, $4, coalesce($5, 0) + 1) on conflict do nothing`
          : `update own_object set thing = $2, goes_out = $3, live = true, taken_by = null, changed_at = $4, revision = revision + 1
             where id = $1 and revision = $5`,
        [
          object_id,
          JSON.stringify({ form: 'object', name: shown.name, latitude, longitude, symbol: shown.symbol, comment }),
          JSON.stringify(to.goesOut),
          at,
          revision,
        ],
      );
    }
    await appendEvents(manager, [{ type: 'own object', data: { id: object_id } }], at);
  });
}

/** The units, and how the feed does. */
export async function trackersState({ database, settings, now }: TrackersContext): Promise<TrackersNow> {
  const feed = (await settings()).trackerFeed;
  const asked = feed && (await database.getRepository(TrackerFeedEntity).findOneBy({ url: feed.url }));
  const rows = await database.getRepository(TrackerEntity).find({ order: { unit: 'ASC' } });
  return {
    feed,
    askedAt: asked?.askedAt.toISOString() ?? null,
    fault: asked?.fault ?? null,
    units: rows.map(({ unit, shown, report }) => ({ ...report, ...shown, unit, stale: isStale(report, now()) })),
  };
}

/** Names a unit, and says whether it goes on the air. */
export async function changeTracker(source: DataSource, unit: string, shown: TrackerChange, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    const changed = await manager.getRepository(TrackerEntity).update({ unit }, { shown, changedAt: at });
    if (changed.affected === 0)
      throw new ProblemError(404, 'no-such-tracker', 'That unit is not known', `The feed has not told of ${unit}.`);
    await appendEvents(manager, [{ type: 'tracker', data: {} }], at);
  });
}
