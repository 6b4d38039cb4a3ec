import { randomUUID } from 'node:crypto';
import type { Settings } from '@tombolo/contract';
import { decodeInformation, explainPath, octetsOfText, parseMonitorLine } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { sight } from '../ingest/derived/sighting';
import { openDatabase } from '../store/database';
import { addEvidence } from '../store/evidence';
import { readSettings } from '../store/settings';
import { createDatabase, type TestDatabase } from '../testing/harness';
import { createAllStations } from './all-stations';
import { changeStation, listStations } from './stations';

let database: TestDatabase;
let source: DataSource;
let settings: Settings;
beforeAll(async () => {
  database = await createDatabase();
  source = await openDatabase(database.url);
  settings = { ...(await readSettings(source)), position: { latitude: 41.27, longitude: -43.29 } };
});
afterAll(async () => {
  await source.destroy();
  await database.drop();
});

/** Puts a station into its table as the ingest leaves it. */
async function heard(line: string, minute: number): Promise<void> {
  const packet = parseMonitorLine(octetsOfText(line), { escapes: true });
  if (!packet.ok) throw new Error(packet.error.reason);
  const { source: sender, destination, info } = packet.value;
  const read = decodeInformation(info, destination);
  const { state } = sight(null, sender, {
    atMs: Date.UTC(2026, 10, 30, 12, minute),
    path: explainPath(packet.value),
    words: 'heard',
    bearerId: 'radio',
    information: read.ok ? read.value : null,
    source: sender,
    isNewPacket: true,
  });
  await source.query(
    `insert into station values ($1, $2, $3, now()) on conflict (call) do update set state = $2, last_at = $3, changed_at = now()`,
    [sender, JSON.stringify(state), new Date(state.lastAtMs)],
  );
}

/** As if a digipeater had lately repeated a text of ours first-hand. */
async function repeatedBy(call: string): Promise<void> {
  const itemId = randomUUID();
  await source.query(
    `insert into item (id, direction, kind, precedence, sender, addressee, body, acknowledgement_asked, created_at)
     values ($1, 'out', 'text', 'routine', 'QT2AR-7', 'QT1NC', 'Hello', false, now())`,
    [itemId],
  );
  await addEvidence(source, { key: call, itemId, legId: null, kind: 'relayed', at: new Date(), via: [call] });
}

describe('all stations, told again', () => {
  it('are those of the list after every change, each read and worded only when it is another', async () => {
    const all = createAllStations();
    const questions: unknown[][] = [];
    const queries = {
      query: (sql: string, parameters?: unknown[]) => {
        if (sql.includes('s.state')) questions.push(parameters ?? []);
        return source.query(sql, parameters);
      },
    } as DataSource;
    /** What was read of rows for it, by the parameters of the questions. */
    const told = async (under = settings): Promise<unknown[][]> => {
      questions.length = 0;
      expect(JSON.parse(await all(queries, under))).toEqual(await listStations(source, under));
      return [...questions];
    };
    const everything = [[20_000]];
    const only = (...calls: string[]) => [[calls]];

    expect(await told()).toEqual(everything);
    await heard('QT1AA>APRS,QT1DG*:!4116.20N/04317.40W>A', 1);
    await heard('QT1AB>APRS:!4110.20N/04318.40W>B', 2);
    await heard('QT1AC>APRS:>C', 3);
    expect(await told()).toEqual(only('QT1AC', 'QT1AB', 'QT1AA'));
    expect(await told()).toEqual([]);

    // Another place, and another order; a note; that it is muted; that the note goes.
    await heard('QT1AB>APRS:!4111.20N/04318.40W>B', 4);
    expect(await told()).toEqual(only('QT1AB'));
    for (const change of [{ note: 'Has the generator' }, { muted: true }, { note: '', muted: false }]) {
      await changeStation(source, 'QT1AC', change, new Date());
      expect(await told()).toEqual(only('QT1AC'));
    }
    await source.query(`delete from station_note where call = 'QT1AC'`);
    expect(await told()).toEqual(only('QT1AC'));

    // What all rows are told under: where we are, and who repeats us.
    const elsewhere: Settings = { ...settings, position: { latitude: 41.4, longitude: -43.2 } };
    expect(await told(elsewhere)).toEqual(everything);
    expect(await told({ ...settings, position: null })).toEqual(everything);
    expect(await told()).toEqual(everything);
    await repeatedBy('QT1DG');
    expect(await told()).toEqual(everything);
    expect(await all(source, settings)).toContain('"repeatsUs":true');

    // Rows that go, as when everything is made anew, and one that is written within a transaction not yet done.
    await source.query(`delete from station where call = 'QT1AA'`);
    expect(await told()).toEqual([]);
    const runner = source.createQueryRunner();
    await runner.startTransaction();
    await runner.query(
      `update station set state = jsonb_set(state::jsonb, '{comment}', '"later"')::json where call = 'QT1AB'`,
    );
    expect(await told()).toEqual([]);
    await runner.commitTransaction();
    await runner.release();
    expect(await told()).toEqual(only('QT1AB'));
    expect(await all(source, settings)).toContain('later');
  });
});
