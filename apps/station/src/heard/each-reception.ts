import { COPY_WINDOW_MS } from '@tombolo/core';
import type { HeardFilter } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt, lastIdAt } from '../store/moments';
import { channelsOfFilter, packetConditions } from './filter';
import type { KeptReception } from './statements';

/** A reception as exports need it. */
export interface ExportedReception extends KeptReception {
  readonly id: string;
  readonly kind: string;
  readonly bearer_id: string | null;
  readonly port: number | null;
  readonly snr_db: number | null;
  readonly rssi_dbm: number | null;
}

const EXPORT_PAGE = 1000;

/** Receptions of a filter in order of time, a page at a time, so that an export needs little memory. */
export async function* eachReception(queries: Queries, filter: HeardFilter): AsyncGenerator<ExportedReception> {
  const channels = await channelsOfFilter(queries, filter);
  let after: string | null = null;
  for (;;) {
    const parameters: unknown[] = [];
    const conditions = ['true', ...packetConditions(filter, parameters)];
    if (channels !== null) conditions.push(`r.channel_id = any($${parameters.push(channels)}::int[])`);
    // A copy may be heard a little outside the times that are asked of its packet.
    if (filter.from)
      conditions.push(`r.id >= $${parameters.push(firstIdAt(Date.parse(filter.from) - COPY_WINDOW_MS))}::bigint`);
    if (filter.to)
      conditions.push(`r.id <= $${parameters.push(lastIdAt(Date.parse(filter.to) + COPY_WINDOW_MS))}::bigint`);
    if (after !== null) conditions.push(`r.id > $${parameters.push(after)}::bigint`);
    const rows: ExportedReception[] = await rowsOf(
      queries,
      `select r.id, r.raw, r.form, r.snr_db, r.rssi_dbm, c.bearer_id, c.import_id, c.port, p.kind
       from reception r join packet p on p.id = r.packet_id join channel c on c.id = r.channel_id
       where ${conditions.join(' and ')} order by r.id limit ${EXPORT_PAGE}`,
      parameters,
    );
    yield* rows;
    const last = rows.at(-1);
    if (rows.length < EXPORT_PAGE || !last) return;
    after = last.id;
  }
}
