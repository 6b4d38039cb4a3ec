import { airTimeMs, DEFAULT_TIMING } from '@tombolo/core';
import type { BearerView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { BearerEntity } from '../store/entities';
import { canTransmit } from './supervisor';

const LOAD_WINDOW_MS = 10 * 60_000;

/** The cards of Links. The load is what we hear: the air time of the frames received and sent in the last ten minutes. */
export async function bearerViews(source: DataSource, now: number, txDelayMs: number): Promise<BearerView[]> {
  const rows = await source.getRepository(BearerEntity).find({ order: { createdAt: 'ASC' } });
  return Promise.all(
    rows.map(async (row): Promise<BearerView> => {
      const [counts] = await rowsOf<{ queued: string; heard: string; last: Date | null }>(
        source,
        `select (select count(*) from leg where bearer_id = $1 and next_at is not null) as queued,
                (select count(*) from reception where bearer_id = $1 and heard_at > $2) as heard,
                (select max(heard_at) from reception where bearer_id = $1) as last`,
        [row.id, new Date(now - 3600_000)],
      );
      return {
        id: row.id,
        name: row.name,
        config: row.config.kind === 'radio-mail' ? { ...row.config, password: '' } : row.config,
        enabled: row.enabled,
        canTransmit: canTransmit(row.config),
        state: row.state,
        queued: Number(counts?.queued ?? 0),
        lastHeardAt: counts?.last?.toISOString() ?? null,
        heardLastHour: Number(counts?.heard ?? 0),
        load: row.config.kind === 'kiss-tcp' ? await channelLoad(source, row.id, now, txDelayMs) : null,
      };
    }),
  );
}

async function channelLoad(source: DataSource, bearerId: string, now: number, txDelayMs: number): Promise<number> {
  const since = new Date(now - LOAD_WINDOW_MS);
  const frames = await rowsOf<{ raw: Buffer }>(
    source,
    `select raw from reception where bearer_id = $1 and heard_at > $2 and packet_id is not null
     union all
     select a.frame from attempt a join leg l on l.id = a.leg_id where l.bearer_id = $1 and a.intended_at > $2
     limit 5000`,
    [bearerId, since],
  );
  const takenMs = frames.reduce((sum, { raw }) => sum + airTimeMs(raw, { ...DEFAULT_TIMING, txDelayMs }), 0);
  return Math.min(1, takenMs / LOAD_WINDOW_MS);
}
