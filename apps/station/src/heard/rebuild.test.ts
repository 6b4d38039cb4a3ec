import { octetsOfText } from '@tombolo/core';
import { ingest } from '../ingest/ingest';
import type { Heard } from '../ingest/heard';
import { rebuildIfWanted, wantRebuild, type RebuildContext } from '../ingest/derived/rebuild';
import type { Station } from '../station';
import { rowsOf } from '../store/database';
import { createDatabase, openSettings, startTestStation, apiOf, type TestDatabase } from '../testing/harness';

const NOW = Date.now();
let database: TestDatabase;
let station: Station;

beforeEach(async () => {
  database = await createDatabase();
  // Its clock stands, so that its own turn does not come.
  station = await startTestStation(database.url, { now: () => NOW });
  await apiOf(station).patch('/settings', openSettings);
});
afterEach(async () => {
  await station.stop();
  await database.drop();
});

const heard = (n: number, atMs: number): Heard => ({
  bearerId: 'radio',
  importId: null,
  port: 0,
  form: 'line',
  raw: octetsOfText(
    n % 4 === 3
      ? `QT1WX>APRS:_1009${String(10 + (n % 13))}00c220s004g005t0${60 + (n % 30)}r000p000P000h50b09900w`
      : `QT1A${'ABC'[n % 3]}-9>APRS,QT0TH-3*:!41${String(10 + (n % 40))}.00N/04324.00W>Number ${n}`,
  ),
  heardAtMs: atMs,
});
const hear = (from: number, to: number, atMs: (n: number) => number) =>
  ingest(
    station.context.pipeline,
    Array.from({ length: to - from }, (_, i) => heard(from + i, atMs(from + i))),
  );

/** All that is derived, whoever made it. */
const derived = async () => {
  const { database: source } = station.context;
  return {
    stations: (await rowsOf<{ state: object }>(source, 'select state from station order by call')).map(
      ({ state }) => state,
    ),
    trails: await rowsOf(source, 'select call, packet_id, latitude, fault from trail_point order by call, packet_id'),
    weather: await rowsOf(source, 'select call, packet_id, weather from weather_reading order by call, packet_id'),
    links: await rowsOf(
      source,
      'select from_call, by_call, count, certain_count, first_at, last_at, hours from heard_link order by 1, 2',
    ),
  };
};
const context = (more: Partial<RebuildContext> = {}): RebuildContext => ({
  database: station.context.database,
  settings: station.context.settings,
  now: Date.now,
  log: () => undefined,
  sizes: { page: 4, chunk: 8 },
  ...more,
});

describe('a rebuild', () => {
  // It is asked before each chunk of two pages and before each page.
  it.each([
    ['between two chunks', 3, 8],
    ['between two pages', 2, 4],
  ])('stopped %s goes on from there, and takes in what was heard meanwhile, late ones too', async (_, asked, made) => {
    const minute = (n: number) => NOW - 3_600_000 + n * 60_000;
    await hear(0, 30, minute);
    await wantRebuild(station.context.database);
    let times = 0;
    expect(await rebuildIfWanted(context({ stopping: () => times++ >= asked }))).toBe(made);
    // Meanwhile: the newest, and one from a file, of a time that was gone through already.
    await hear(30, 40, minute);
    await hear(40, 42, (n) => NOW - 7_200_000 + n * 1000);
    // Nothing of it shows yet, and what was known before stays and grows.
    const live = await derived();
    expect(live.stations).toHaveLength(5);
    expect(live.links).toContainEqual(
      expect.objectContaining({
        from_call: 'QT1AB-9',
        first_at: new Date(NOW - 7_200_000 + 40_000),
        last_at: new Date(minute(37)),
      }),
    );
    expect(await rebuildIfWanted(context())).toBeGreaterThanOrEqual(34 - 12);
    expect(await derived()).toEqual(live);
    // All is as if it had never been otherwise: nothing is left to do, and what comes next is derived at once.
    expect(
      await rowsOf(station.context.database, 'select 1 from remake union all select 1 from rebuild_wanted'),
    ).toEqual([]);
    expect(await rebuildIfWanted(context())).toBe(0);
    await hear(42, 44, minute);
    const counts = (state: { stations: object[] }) =>
      (state.stations as { packets: number }[]).reduce((sum, { packets }) => sum + packets, 0);
    expect(counts(await derived())).toBe(counts(live) + 2);
  });

  it('is done by one of two that try', async () => {
    await hear(0, 20, (n) => NOW - n * 60_000);
    await wantRebuild(station.context.database);
    const done = await Promise.all([rebuildIfWanted(context()), rebuildIfWanted(context())]);
    expect(done.filter((count) => count > 0)).toHaveLength(1);
  });
});
