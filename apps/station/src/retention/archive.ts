import { createWriteStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { formatCsvRows, hexOfOctets } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt, timeOfId } from '../store/moments';
import { monthAfter, startOf } from './months';

const PAGE = 2000;
const COLUMNS = [
  'Time (UTC)',
  'Bearer',
  'Recording',
  'Port',
  'Frequency (Hz)',
  'Form',
  'SNR (dB)',
  'RSSI (dBm)',
  'Octets (hexadecimal)',
];

interface ArchivedRow {
  id: string;
  bearer_id: string | null;
  import_id: string | null;
  port: number | null;
  frequency_hz: string | null;
  form: string;
  snr_db: number | null;
  rssi_dbm: number | null;
  raw: Buffer;
}

/** All that was heard in a month as rows of a table: every octet of it, and all that bearers told. */
async function* rowsOfMonth(queries: Queries, month: string, counted: (rows: number) => void): AsyncGenerator<string> {
  yield formatCsvRows([COLUMNS]);
  let after = String(BigInt(firstIdAt(startOf(month))) - 1n);
  const end = firstIdAt(startOf(monthAfter(month, 1)));
  for (;;) {
    const rows = await rowsOf<ArchivedRow>(
      queries,
      `select r.id, c.bearer_id, c.import_id, c.port, c.frequency_hz, r.form, r.snr_db, r.rssi_dbm, r.raw
       from reception r join channel c on c.id = r.channel_id where r.id > $1 and r.id < $2 order by r.id limit ${PAGE}`,
      [after, end],
    );
    if (rows.length === 0) return;
    counted(rows.length);
    yield formatCsvRows(
      rows.map((row) => [
        timeOfId(row.id).toISOString(),
        row.bearer_id,
        row.import_id,
        row.port === null ? null : String(row.port),
        row.frequency_hz,
        row.form,
        row.snr_db === null ? null : String(row.snr_db),
        row.rssi_dbm === null ? null : String(row.rssi_dbm),
        hexOfOctets(row.raw),
      ]),
    );
    after = rows.at(-1)!.id;
  }
}

export const archiveName = (month: string): string => `heard-${month}.csv.gz`;

/**
 * Writes what was heard in a month to a file of the archive; it has its name only when it is whole and on the disk. Gives how many
 * receptions it holds.
 */
export async function archiveMonth(queries: Queries, folder: string, month: string): Promise<number> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const name = join(folder, archiveName(month));
  const unfinished = `${name}.unfinished`;
  let count = 0;
  try {
    await pipeline(
      Readable.from(rowsOfMonth(queries, month, (rows) => (count += rows))),
      createGzip(),
      createWriteStream(unfinished, { mode: 0o600 }),
    );
    const file = await open(unfinished, 'r+');
    await file.sync().finally(() => file.close());
    await rename(unfinished, name);
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  }
  return count;
}

/** Files of the archive, the latest month first. */
export async function archivedMonths(folder: string | null): Promise<{ name: string; octets: number }[]> {
  if (folder === null) return [];
  const names = (await readdir(folder).catch(() => [])).filter((name) => /^heard-\d{4}-\d\d\.csv\.gz$/.test(name));
  return Promise.all(
    names
      .sort()
      .reverse()
      .map(async (name) => ({ name, octets: (await stat(join(folder, name))).size })),
  );
}
