import { AIR_WINDOW_MS, mostInWindowMs, spentInWindowMs, type DutyRule } from '@tombolo/core';
import {
  bearerKind,
  type BearerConfig,
  type BearerState,
  type BearerView,
  type KeptSecrets,
  type Settings,
} from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { BearerEntity } from '../store/entities';
import { BEARER_LOCK } from '../store/locks';
import { firstIdAt, timeOfId } from '../store/moments';
import { spentOn } from '../transmissions/account';
import { dutySpent } from '../transmissions/duty';
import { waitingFor } from '../transmissions/write';
import type { Bearer, Tuned } from '../transmissions/bearer';
import { adapterOf } from './registry';

const LOAD_WINDOW_MS = 10 * 60_000;

/** A configuration as others may see it: what opens a mailbox or a channel leaves the station by a deliberate action only. */
export const withoutSecrets = (config: BearerConfig): BearerConfig =>
  bearerKind(config.kind).secrets?.hide(config) ?? config;

/** A changed configuration of the same kind with the secrets that stay. */
export const withKeptSecrets = (before: BearerConfig, after: BearerConfig): KeptSecrets =>
  bearerKind(after.kind).secrets?.keep(before, after) ?? { config: after, replaced: [], unknown: [] };

export interface ViewContext {
  readonly now: number;
  readonly settings: Settings;
  readonly running: readonly { readonly id: string; readonly bearer: Bearer }[];
}

/** The cards of Bearers. The load is what we hear: the air time of the frames received and sent in the last ten minutes. */
export async function bearerViews(source: DataSource, context: ViewContext): Promise<BearerView[]> {
  const { now, settings } = context;
  const rows = await source.getRepository(BearerEntity).find({ order: { createdAt: 'ASC' } });
  const here = new Set(context.running.map(({ id }) => id));
  const elsewhere = rows.some(({ id }) => !here.has(id)) ? await runBySomebody(source) : new Set<string>();
  return Promise.all(
    rows.map(async (row): Promise<BearerView> => {
      const [counts] = await rowsOf<{ heard: string; last: string | null }>(
        source,
        `select count(h.n) as heard, max(l.id) as last from channel c
         cross join lateral (select r.id from reception r where r.channel_id = c.id order by r.id desc limit 1) l
         left join lateral (select 1 as n from reception r where r.channel_id = c.id and r.id > $2) h on true
         where c.bearer_id = $1`,
        [row.id, firstIdAt(now - 3600_000)],
      );
      const adapter = adapterOf(row.config);
      const tuned = adapter.tuned?.(row.config) ?? null;
      const bearer = context.running.find(({ id }) => id === row.id)?.bearer;
      return {
        id: row.id,
        name: row.name,
        config: withoutSecrets(row.config),
        enabled: row.enabled,
        state: here.has(row.id) || elsewhere.has(row.id) ? row.state : unowned(row.state),
        queued: (await waitingFor(source, row.id)) + (bearer?.waiting?.() ?? 0),
        lastHeardAt: counts?.last ? timeOfId(counts.last).toISOString() : null,
        heardLastHour: Number(counts?.heard ?? 0),
        tuned: tuned && { frequencyHz: tuned.frequencyHz, before: await tunedBefore(source, row.id, tuned) },
        load: await channelLoad(source, { id: row.id, tuned, bearer }, now, adapter.frameMs?.(row.config) ?? null),
        duty: bearer?.duty ? await dutyOf(source, row.id, bearer.duty, now) : null,
        automatic: bearer?.air ? await automaticOf(source, row.id, bearer, settings, now) : null,
      };
    }),
  );
}

/** Bearers that some process of the station owns at this moment, by the locks that the database knows of. */
async function runBySomebody(source: DataSource): Promise<ReadonlySet<string>> {
  const rows = await rowsOf<{ id: string }>(
    source,
    `select b.id from bearer b join pg_locks l
       on l.locktype = 'advisory' and l.granted and l.classid::bigint = $1 and l.objid::bigint = (hashtext(b.id)::bigint & 4294967295)
     where l.database = (select oid from pg_database where datname = current_database())`,
    [BEARER_LOCK],
  );
  return new Set(rows.map(({ id }) => id));
}

/** What a process wrote down that is gone: the equipment may be there, but nobody listens to it. */
const unowned = (state: BearerState): BearerState =>
  state.link === 'up' || state.link === 'connecting'
    ? { ...state, link: 'down', reason: 'No process of the station runs it at this moment.', nextTryAt: null }
    : state;

async function dutyOf(source: DataSource, id: string, rule: DutyRule, now: number): Promise<BearerView['duty']> {
  const spent = await dutySpent(source, id, rule.subBand, now);
  return {
    subBand: rule.subBand,
    usedMs: Math.round(spentInWindowMs(spent, now)),
    mostMs: mostInWindowMs(rule),
    words: rule.words,
  };
}

async function automaticOf(
  source: DataSource,
  id: string,
  bearer: Bearer,
  settings: Settings,
  now: number,
): Promise<BearerView['automatic']> {
  const spent = await spentOn(source, bearer.air!.channel(), now);
  const [row] = await rowsOf<{ n: number }>(
    source,
    `select count(*)::int as n from evidence where kind = 'left out' and bearer = $1 and at > $2`,
    [id, new Date(now - 24 * 3600_000)],
  );
  return {
    spentMs: Math.round(spent.filter(({ atMs }) => now - atMs < AIR_WINDOW_MS).reduce((sum, { ms }) => sum + ms, 0)),
    mostMs: settings.automaticAirS * 1000,
    leftOut: (row?.n ?? 0) + (bearer.leftOut?.() ?? 0),
  };
}

/** Other frequencies that something was heard or sent on by a bearer, the last used first. */
async function tunedBefore(source: DataSource, bearerId: string, { frequencyHz }: Tuned): Promise<number[]> {
  const rows = await rowsOf<{ hz: string }>(
    source,
    `select frequency_hz as hz from channel where bearer_id = $1 and frequency_hz is distinct from $2 and frequency_hz is not null
     group by 1 order by max(id) desc limit 4`,
    [bearerId, frequencyHz],
  );
  return rows.map(({ hz }) => Number(hz));
}

/** Of the channel that it is tuned to now: what another port heard, or this one before it was retuned, is the load of another. */
async function channelLoad(
  source: DataSource,
  { id, tuned, bearer }: { readonly id: string; readonly tuned: Tuned | null; readonly bearer: Bearer | undefined },
  now: number,
  frameMs: ((frame: Uint8Array) => number) | null,
): Promise<number | null> {
  if (!frameMs) return null;
  const sinceMs = now - LOAD_WINDOW_MS;
  const frames = await rowsOf<{ raw: Buffer }>(
    source,
    `with here as (select id from channel where bearer_id = $1 and port is not distinct from $4 and frequency_hz is not distinct from $5)
     select r.raw from reception r where r.channel_id in (select id from here) and r.id > $2 and r.packet_id is not null
     union all
     select a.frame from attempt a where a.channel_id in (select id from here) and a.intended_at > $3
     limit 5000`,
    [id, firstIdAt(sinceMs), new Date(sinceMs), tuned?.port ?? null, tuned?.frequencyHz ?? null],
  );
  // Frames of our own connections are no attempts: the process that runs the bearer knows of them.
  const ofConnectionsMs = bearer?.unrecordedMs?.(sinceMs) ?? 0;
  const takenMs = frames.reduce((sum, { raw }) => sum + frameMs(raw), ofConnectionsMs);
  return Math.min(1, takenMs / LOAD_WINDOW_MS);
}
