import {
  AIR_WINDOW_MS,
  airTimeMs,
  DEFAULT_TIMING,
  meshAirTimeMs,
  mostInWindowMs,
  spentInWindowMs,
  type DutyRule,
} from '@tombolo/core';
import type { BearerConfig, BearerView, Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { BearerEntity } from '../store/entities';
import { firstIdAt, timeOfId } from '../store/moments';
import { spentOn } from '../transmissions/account';
import { dutySpent } from '../transmissions/duty';
import { waitingFor } from '../transmissions/write';
import type { Bearer } from '../transmissions/bearer';
import { canTransmit } from './supervisor';

const LOAD_WINDOW_MS = 10 * 60_000;

/** A configuration as others may see it: what opens a mailbox or a channel leaves the station by a deliberate action only. */
export function withoutSecrets(config: BearerConfig): BearerConfig {
  if (config.kind === 'radio-mail') return { ...config, password: '' };
  if (config.kind !== 'mesh-mqtt') return config;
  return {
    ...config,
    channels: config.channels.map(({ name, key }) => ({ name, key: null, kept: key !== null })),
  };
}

/**
 * A changed configuration with the secrets that stay: an empty password, a channel whose key is kept. Gives the channels whose key would be
 * replaced by another one, and those whose key is said to stay although there is none.
 */
export function withKeptSecrets(
  before: BearerConfig,
  after: BearerConfig,
): { readonly config: BearerConfig; readonly replaced: readonly string[]; readonly unknown: readonly string[] } {
  if (before.kind === 'radio-mail' && after.kind === 'radio-mail')
    return {
      config: after.password === '' ? { ...after, password: before.password } : after,
      replaced: [],
      unknown: [],
    };
  if (before.kind !== 'mesh-mqtt' || after.kind !== 'mesh-mqtt') return { config: after, replaced: [], unknown: [] };
  const had = new Map(before.channels.map((channel) => [nameKey(channel.name), channel.key]));
  const channels = after.channels.map(({ name, key, kept }) => ({
    name,
    key: kept ? (had.get(nameKey(name)) ?? null) : key,
    kept: false,
  }));
  const replaced = channels.filter(({ name, key }) => had.has(nameKey(name)) && had.get(nameKey(name)) !== key);
  // A key that is said to stay where there is none would open a channel that is taken for private.
  const unknown = after.channels.filter(({ name, kept }) => kept && had.get(nameKey(name)) == null);
  return {
    config: { ...after, channels },
    replaced: replaced.map(({ name }) => name),
    unknown: unknown.map(({ name }) => name),
  };
}

/** Names that look the same to a reader are the same. */
const nameKey = (name: string): string => name.normalize('NFKC').trim().toLowerCase();

export interface ViewContext {
  readonly now: number;
  readonly settings: Settings;
  readonly running: readonly { readonly id: string; readonly bearer: Bearer }[];
}

/** The cards of Links. The load is what we hear: the air time of the frames received and sent in the last ten minutes. */
export async function bearerViews(source: DataSource, context: ViewContext): Promise<BearerView[]> {
  const { now, settings } = context;
  const rows = await source.getRepository(BearerEntity).find({ order: { createdAt: 'ASC' } });
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
      const bearer = context.running.find(({ id }) => id === row.id)?.bearer;
      return {
        id: row.id,
        name: row.name,
        config: withoutSecrets(row.config),
        enabled: row.enabled,
        canTransmit: canTransmit(row.config),
        state: row.state,
        queued: (await waitingFor(source, row.id)) + (bearer?.waiting?.() ?? 0),
        lastHeardAt: counts?.last ? timeOfId(counts.last).toISOString() : null,
        heardLastHour: Number(counts?.heard ?? 0),
        load: await channelLoad(source, row.id, now, frameTime(row.config, settings)),
        duty: bearer?.duty ? await dutyOf(source, row.id, bearer.duty, now) : null,
        automatic: bearer?.air ? await automaticOf(source, row.id, bearer, settings, now) : null,
      };
    }),
  );
}

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

/** How long a frame holds the channel of a bearer; null for those without a channel of their own. */
function frameTime(config: BearerConfig, { txDelayMs }: Settings): ((frame: Uint8Array) => number) | null {
  if (canTransmit(config)) return (frame) => airTimeMs(frame, { ...DEFAULT_TIMING, txDelayMs });
  const radio = config.kind === 'mesh-mqtt' ? config.radio : null;
  return radio && ((frame) => meshAirTimeMs(frame.length, radio));
}

async function channelLoad(
  source: DataSource,
  bearerId: string,
  now: number,
  frameMs: ((frame: Uint8Array) => number) | null,
): Promise<number | null> {
  if (!frameMs) return null;
  const sinceMs = now - LOAD_WINDOW_MS;
  const frames = await rowsOf<{ raw: Buffer }>(
    source,
    `select r.raw from reception r join channel c on c.id = r.channel_id
     where c.bearer_id = $1 and r.id > $2 and r.packet_id is not null
     union all
     select a.frame from attempt a join leg l on l.id = a.leg_id where l.bearer_id = $1 and a.intended_at > $3
     limit 5000`,
    [bearerId, firstIdAt(sinceMs), new Date(sinceMs)],
  );
  const takenMs = frames.reduce((sum, { raw }) => sum + frameMs(raw), 0);
  return Math.min(1, takenMs / LOAD_WINDOW_MS);
}
