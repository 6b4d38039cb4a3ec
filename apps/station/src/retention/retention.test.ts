import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import Papa from 'papaparse';
import { hexOfOctets, octetsOfText } from '@tombolo/core';
import type { ItemDetail, ItemSummary, KeptView, PacketDetail, PacketSummary } from '@tombolo/contract';
import { ingest } from '../ingest/ingest';
import type { Heard } from '../ingest/heard';
import type { Station } from '../station';
import { rowsOf } from '../store/database';
import {
  apiOf,
  createDatabase,
  eventually,
  openSettings,
  startTestStation,
  type Api,
  type TestDatabase,
} from '../testing/harness';
import { keepMonths } from './retention';
import { monthAfter } from './months';

const NOW = Date.UTC(2026, 10, 26, 12);
let database: TestDatabase;
let station: Station;
let api: Api;
let folder: string;

beforeEach(async () => {
  database = await createDatabase();
  folder = await mkdtemp(join(tmpdir(), 'tombolo-archive-'));
  station = await startTestStation(database.url, { now: () => NOW, archive: join(folder, 'archive') });
  api = apiOf(station);
  await api.patch('/settings', openSettings);
  // The station's own turn of this hour, so that it does not meet those of the tests.
  await eventually(
    async () =>
      (await rowsOf(station.context.database, `select 1 from job where kind = 'months' and ended_at is not null`))
        .length > 0,
  );
});
afterEach(async () => {
  await station.stop();
  await database.drop();
  await rm(folder, { recursive: true, force: true });
});

const heard = (line: string, at: string): Heard => ({
  bearerId: 'radio',
  importId: null,
  port: 0,
  form: 'line',
  raw: octetsOfText(line),
  heardAtMs: Date.parse(at),
  frequencyHz: 145_825_000,
});

/** A year of it: some of every month, and a text to us in March. */
async function fill(): Promise<void> {
  for (const month of ['2026-03', '2026-04', '2026-10'])
    await station.context.database.query('select make_month($1::date)', [`${month}-01`]);
  await ingest(station.context.pipeline, [
    heard('QT1AA-9>APRS:!4112.00N/04324.00W>March', '2026-03-10T10:00:00Z'),
    heard('QT1NC>APRS,QT0TH-3*::QT2AR-7  :Boats are in{01', '2026-03-31T23:59:50Z'),
    heard('QT1NC>APRS::QT2AR-7  :Boats are in{01', '2026-04-01T00:00:05Z'),
    heard('QT1AA-9>APRS:!4112.00N/04324.00W>April', '2026-04-10T10:00:00Z'),
    heard('no packet at all', '2026-04-11T10:00:00Z'),
    heard('QT1AA-9>APRS:!4112.00N/04324.00W>October', '2026-10-10T10:00:00Z'),
    heard('QT1AB>APRS:!4112.00N/04324.00W>Long ago', '2003-01-01T00:00:00Z'),
    heard('QT1AB>APRS:!4112.00N/04324.00W>Far ahead', '2090-01-01T00:00:00Z'),
  ]);
}

const partitions = async (): Promise<string[]> =>
  (
    await rowsOf<{ name: string }>(
      station.context.database,
      `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
       where n.nspname = 'months' and c.relkind = 'r' and c.relname like 'reception%' order by 1`,
    )
  ).map(({ name }) => name);
const packets = async (query = ''): Promise<PacketSummary[]> =>
  (await api.get<{ rows: PacketSummary[] }>(`/packets?limit=100${query}`)).rows;
const turn = () => keepMonths(station.context.retention, new Date(NOW), () => false);

describe('months', () => {
  it.each([
    ['2026-11', 1, '2026-12'],
    ['2026-12', 1, '2027-01'],
    ['2026-01', -1, '2025-12'],
    ['2024-03', -13, '2023-02'],
  ])('%s and %d is %s', (month, by, other) => expect(monthAfter(month, by)).toBe(other));

  it('stay all while nothing else is said, and those ahead are made', async () => {
    await fill();
    expect(await turn()).toBeUndefined();
    expect(await packets()).toHaveLength(6);
    // Beside those of the months in which the database was made.
    expect(await partitions()).toEqual(
      expect.arrayContaining([
        'reception_2026_03',
        'reception_2026_04',
        'reception_2026_10',
        'reception_2026_11',
        'reception_2026_12',
        'reception_2027_01',
        'reception_rest',
      ]),
    );
  });

  it('take in what lay outside when they are made later', async () => {
    await ingest(station.context.pipeline, [heard('QT1AA-9>APRS:!4112.00N/04324.00W>June', '2026-06-10T10:00:00Z')]);
    await station.context.database.query(`select make_month('2026-06-01')`);
    expect(await packets()).toHaveLength(1);
    const [row] = await rowsOf<{ n: number }>(
      station.context.database,
      `select count(*)::int as n from packet where tableoid = (select c.oid from pg_class c where c.relname = 'packet_2026_06')`,
    );
    expect(row!.n).toBe(1);
  });
});

describe('what is older than what is kept', () => {
  it('is archived octet by octet and dropped; what proves something stays, with every hearing of it', async () => {
    await fill();
    const before = await packets();
    await api.patch('/settings', { keepHeardMonths: 2 });
    const view = await api.get<KeptView>('/kept');
    expect(view.months.filter(({ goes }) => goes).map(({ month }) => month)).toEqual(['2026-04', '2026-03']);
    expect(view.archive).toEqual([]);
    expect(await turn()).toBe(
      '2026-03 archived (2 receptions) and dropped; 2026-04 archived (3 receptions) and dropped',
    );

    const left = await packets();
    // The text at the turn of the month, the month that is kept, and what no month covers.
    expect(left.map(({ summary }) => summary)).toEqual(
      before.filter(({ summary }) => /October|Boats|Long ago|Far ahead/.test(summary)).map(({ summary }) => summary),
    );
    const { rows } = await api.get<{ rows: ItemSummary[] }>('/items/open');
    const [item] = rows;
    const detail = await api.get<ItemDetail>(`/items/${item!.id}`);
    const proof = await api.get<PacketDetail>(`/packets/${detail.packetId}`);
    expect(proof.copies.map(({ at }) => at)).toEqual(['2026-03-31T23:59:50.000Z', '2026-04-01T00:00:05.000Z']);
    expect(detail.evidence.every(({ packetId }) => packetId === null || packetId === proof.id)).toBe(true);

    // Read by a general library: each reception with its octets.
    const file = await readFile(join(folder, 'archive', 'heard-2026-04.csv.gz'));
    const { data, errors } = Papa.parse<string[]>(gunzipSync(file).toString('utf8').trim());
    expect(errors).toEqual([]);
    expect(data).toHaveLength(4);
    expect(data[3]).toEqual([
      '2026-04-11T10:00:00.000Z',
      'radio',
      '',
      '0',
      '145825000',
      'line',
      '',
      '',
      hexOfOctets(octetsOfText('no packet at all')),
    ]);
    // Nothing is left to do, and doing it again does nothing.
    expect(await turn()).toBeUndefined();
    expect((await api.get<KeptView>('/kept')).archive!.map(({ name }) => name)).toEqual([
      'heard-2026-04.csv.gz',
      'heard-2026-03.csv.gz',
    ]);
  });

  it('stays when it cannot be archived', async () => {
    await fill();
    await api.patch('/settings', { keepHeardMonths: 2 });
    await writeFile(join(folder, 'archive'), 'a file where the folder should be');
    await expect(turn()).rejects.toThrow(/EEXIST|ENOTDIR/);
    expect(await packets()).toHaveLength(6);
    expect(await readdir(folder)).toEqual(['archive']);
  });

  it('stays when something came to it behind the archive', async () => {
    await fill();
    await expect(station.context.database.query(`select drop_month('2026-04-01', 2)`)).rejects.toThrow(
      '3 receptions of the month are there, and 2 were archived',
    );
    expect(await packets()).toHaveLength(6);
  });

  it('stays without a folder for the archive, and says so', async () => {
    await fill();
    await api.patch('/settings', { keepHeardMonths: 2 });
    const none = { ...station.context.retention, archive: null };
    expect(await keepMonths(none, new Date(NOW), () => false)).toBe(
      '2026-03 stays: there is no folder for the archive',
    );
    expect(await packets()).toHaveLength(6);
  });
});
