import { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { createDatabase, eventually, type TestDatabase } from '../testing/harness';
import { lastDueMs, type JobKind } from './job';
import { createJobs, type Jobs } from './jobs';
import { claim, putDown, pruneJobs, renew } from './occurrences';

let database: TestDatabase;
let source: DataSource;
let other: DataSource;
const started: Jobs[] = [];

beforeEach(async () => {
  database = await createDatabase();
  [source, other] = (await Promise.all(
    [0, 1].map(() => new DataSource({ type: 'postgres', url: database.url }).initialize()),
  )) as [DataSource, DataSource];
});
afterEach(async () => {
  await Promise.all(started.splice(0).map((jobs) => jobs.stop()));
  await source.destroy();
  await other.destroy();
  await database.drop();
});

const HOUR = 3_600_000;
const T = Date.UTC(2026, 0, 5, 12);
const kind = (more: Partial<JobKind> = {}): JobKind => ({
  name: 'count',
  everyMs: HOUR,
  missed: 'recorded',
  run: async () => undefined,
  ...more,
});
const failures: unknown[] = [];
const start = (on: DataSource, owner: string, kinds: JobKind[], now: () => number): Jobs => {
  const jobs = createJobs({
    database: on,
    owner,
    kinds,
    now,
    ready: () => true,
    failed: (error) => failures.push(error),
    log: () => undefined,
  });
  started.push(jobs);
  jobs.start();
  return jobs;
};
const rows = () =>
  rowsOf<{ due_at: Date; state: string; tries: number; outcome: string | null; owner: string | null }>(
    source,
    'select * from job order by due_at',
  );

describe('an occurrence', () => {
  it('is due on the round of its interval', () => {
    expect(lastDueMs(HOUR, T)).toBe(T);
    expect(lastDueMs(HOUR, T + HOUR - 1)).toBe(T);
  });

  it('is done once by two processes, and by the clock that they are given', async () => {
    let clock = T;
    const done: string[] = [];
    const counting = (who: string) =>
      kind({ run: async ({ dueAt }) => void done.push(`${dueAt.toISOString()} ${who}`) });
    start(source, 'a', [counting('a')], () => clock);
    start(other, 'b', [counting('b')], () => clock);
    for (let hour = 0; hour < 4; hour++) {
      clock = T + hour * HOUR;
      await eventually(async () => (await rows()).filter(({ state }) => state === 'done').length > hour);
    }
    expect(done.map((line) => line.slice(11, 13))).toEqual(['12', '13', '14', '15']);
    expect((await rows()).map(({ tries }) => tries)).toEqual([1, 1, 1, 1]);
  });

  it('that nobody was there for is done late when it is the last, and marked as missed when it is not', async () => {
    await putDown(source, kind(), T);
    await putDown(source, kind(), T + 3.5 * HOUR);
    expect((await rows()).map(({ due_at, state }) => [due_at.toISOString().slice(11, 16), state])).toEqual([
      ['12:00', 'missed'],
      ['13:00', 'missed'],
      ['14:00', 'missed'],
      ['15:00', 'waiting'],
    ]);
    // Where a missed one means nothing, it is no record either.
    await putDown(source, kind({ name: 'often', everyMs: 5000, missed: 'forgotten' }), T);
    await putDown(source, kind({ name: 'often', everyMs: 5000, missed: 'forgotten' }), T + HOUR);
    expect((await rowsOf(source, `select 1 from job where kind = 'often'`)).length).toBe(2);
  });

  it('of a process that was killed is taken over, and the killed one ends nothing any more', async () => {
    await putDown(source, kind(), T);
    const first = await claim(source, 'count', 'killed', new Date(T));
    expect(first).toEqual({ dueAt: new Date(T), tries: 1 });
    expect(await claim(other, 'count', 'heir', new Date(T))).toBeNull();
    expect(await renew(source, 'count', new Date(T), 'killed')).toBe(true);
    await source.query(`update job set lease_until = now() - interval '1 s'`);
    expect(await claim(other, 'count', 'heir', new Date(T))).toEqual({ dueAt: new Date(T), tries: 2 });
    expect(await renew(source, 'count', new Date(T), 'killed')).toBe(false);
  });

  it('that fails is on record with its reason, and the next one is done', async () => {
    let clock = T;
    let failing = true;
    start(
      source,
      'a',
      [kind({ run: async () => (failing ? Promise.reject(new Error('no room')) : 'made room') })],
      () => clock,
    );
    await eventually(async () => (await rows())[0]?.state === 'failed');
    failing = false;
    clock += HOUR;
    await eventually(async () => (await rows())[1]?.state === 'done');
    expect((await rows()).map(({ outcome }) => outcome)).toEqual(['no room', 'made room']);
    // It says nothing about whether the database stores.
    expect(failures).toEqual([]);
  });

  it('is had at once by whoever asks for one', async () => {
    let done = 0;
    const jobs = start(source, 'a', [kind({ run: async () => void done++ })], () => T + 17);
    await eventually(() => done === 1);
    jobs.hurry('count');
    await eventually(() => done === 2);
  });

  it('does not rest after the clock was set back, where a missed one means nothing', async () => {
    const often = kind({ name: 'often', everyMs: 5000, missed: 'forgotten' });
    await putDown(source, often, T + HOUR);
    await putDown(source, often, T);
    expect((await rows()).map(({ due_at }) => due_at.getTime())).toEqual([T]);
  });

  it('is forgotten after a while', async () => {
    await source.query(
      `insert into job (kind, due_at, state) values ('often', $1, 'done'), ('often', $2, 'done'), ('often', $1, 'waiting') on conflict do nothing`,
      [new Date(T - 2 * HOUR), new Date(T)],
    );
    await source.query(`insert into job (kind, due_at, state) values ('count', $1, 'done')`, [new Date(T - 2 * HOUR)]);
    await pruneJobs(source, [kind(), kind({ name: 'often', everyMs: 5000 })], new Date(T));
    expect(
      (await rowsOf<{ kind: string }>(source, 'select kind from job order by due_at')).map((row) => row.kind),
    ).toEqual(['count', 'often']);
  });
});
