import type { DataSource } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import { rowsOf, storable, type Queries } from '../../store/database';
import type { Heard } from '../heard';
import { understand } from '../understand';
import type { Stored } from '../store-heard';
import { derive } from './derive';

const PAGE = 2000;

interface ReceptionRow {
  id: string;
  packet_id: string;
  bearer_id: string | null;
  import_id: string | null;
  port: number | null;
  heard_at: Date;
  form: Heard['form'];
  snr_db: number | null;
  rssi_dbm: number | null;
  raw: Buffer;
  kind: string;
  summary: string;
}

/** Asks for a rebuild at the next start. */
export const wantRebuild = (queries: Queries): Promise<unknown> =>
  queries.query('insert into rebuild_wanted values (now())');

/**
 * Makes all that is derived anew from the receptions: stations, trails, weather, telemetry, links, and how packets are summed
 * up. Done at a start when a new version asks for it, or by hand; nothing that was heard is touched.
 */
export async function rebuildIfWanted(
  database: DataSource,
  settings: Settings,
  now: () => number,
  log: (message: string) => void,
): Promise<void> {
  const wanted = await rowsOf(database, 'select 1 from rebuild_wanted limit 1');
  if (wanted.length === 0) return;
  let done = 0;
  await database.transaction(async (manager) => {
    await manager.query('lock table rebuild_wanted in exclusive mode');
    if ((await rowsOf(manager, 'select 1 from rebuild_wanted limit 1')).length === 0) return;
    await manager.query(
      'truncate station, trail_point, weather_reading, telemetry_reading, telemetry_meaning, heard_link',
    );
    const known = new Set<string>();
    let after: { at: Date; id: string } = { at: new Date(0), id: '0' };
    for (;;) {
      const rows = await rowsOf<ReceptionRow>(
        manager,
        `select r.id, r.packet_id, r.bearer_id, r.import_id, r.port, r.heard_at, r.form, r.raw, r.snr_db, r.rssi_dbm, p.kind, p.summary
         from reception r join packet p on p.id = r.packet_id
         where (r.heard_at, r.id) > ($1, $2::bigint) order by r.heard_at, r.id limit ${PAGE}`,
        [after.at, after.id],
      );
      const last = rows.at(-1);
      if (!last) break;
      after = { at: last.heard_at, id: last.id };
      const stored = rows.map((row): Stored => {
        const isNewPacket = !known.has(row.packet_id);
        known.add(row.packet_id);
        return { understood: understand(heardOf(row)), receptionId: row.id, packetId: row.packet_id, isNewPacket };
      });
      await renewSummaries(manager, rows, stored);
      await derive(manager, stored, settings, new Date(now()));
      done += rows.length;
      log(`made anew from ${done} receptions`);
    }
    await manager.query('delete from rebuild_wanted');
  });
}

const heardOf = (row: ReceptionRow) => ({
  bearerId: row.bearer_id,
  importId: row.import_id,
  port: row.port,
  form: row.form,
  raw: row.raw,
  heardAtMs: row.heard_at.getTime(),
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
