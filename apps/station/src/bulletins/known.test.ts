import { ingest } from '../ingest/ingest';
import { rowsOf } from '../store/database';
import { createDatabase, startTestStation, type TestDatabase } from '../testing/harness';

const FROM_MS = Date.UTC(2026, 5, 1, 12);
const SECOND_MS = 1000;
const DAY_MS = 86_400_000;

/** Seconds after noon, who, which line, and what it says. */
type Told = readonly [atS: number, sender: string, line: string, text: string];

const heardOf = ([atS, sender, line, text]: Told) => ({
  bearerId: null,
  importId: null,
  port: null,
  form: 'line' as const,
  raw: Buffer.from(`${sender}>APZTOM::${line.padEnd(9)}:${text}`),
  heardAtMs: FROM_MS + atS * SECOND_MS,
});

/** What is kept of bulletins that come in so many batches: who, what, when last, how often. */
async function kept(batches: readonly (readonly Told[])[], databases: TestDatabase[]): Promise<unknown[]> {
  const database = await createDatabase();
  databases.push(database);
  const station = await startTestStation(database.url);
  try {
    for (const batch of batches) await ingest(station.context.pipeline, batch.map(heardOf));
    return await rowsOf(
      station.context.database,
      `select sender, addressee, body, created_at, last_at, times, refused from item i left join bulletin_heard h on h.item_id = i.id
       order by sender, addressee, body, created_at`,
    );
  } finally {
    await station.stop();
  }
}

describe('bulletins of one batch', () => {
  const databases: TestDatabase[] = [];
  afterAll(() => Promise.all(databases.map((database) => database.drop())));

  it('are kept and counted as they are one by one', async () => {
    const told: Told[] = [
      [0, 'QT1NC', 'BLN1', 'Net at 1900Z'],
      // Within a minute: a copy over another road, counted once.
      [40, 'QT1NC', 'BLN1', 'Net at 1900Z'],
      [50, 'QT1NC', 'BLN2', 'Net at 1900Z'],
      [60, 'QT5WX', 'BLN1', 'Net at 1900Z'],
      [100, 'QT1NC', 'BLN1', 'Net at 1900Z'],
      [150, 'QT1NC', 'BLN1', 'Net at 2000Z'],
      [1300, 'QT1NC', 'BLN1', 'Net at 1900Z'],
      // After more than a day it is another.
      [2 * (DAY_MS / SECOND_MS), 'QT1NC', 'BLN1', 'Net at 1900Z'],
    ];
    const together = await kept([told], databases);
    const oneByOne = await kept(
      told.map((one) => [one]),
      databases,
    );
    expect(together).toEqual(oneByOne);
    expect(together).toContainEqual({
      sender: 'QT1NC',
      addressee: 'BLN1',
      body: 'Net at 1900Z',
      created_at: new Date(FROM_MS),
      last_at: new Date(FROM_MS + 1300 * SECOND_MS),
      times: 3,
      refused: false,
    });
    expect(together).toHaveLength(5);
  });

  it('for which there is no room stand in one row that tells how many, as one by one', async () => {
    const told = Array.from({ length: 60 }, (_, n): Told => [n, 'QT9ZZ', 'BLN1', `Flood ${n % 50}`]);
    const together = await kept([told], databases);
    const oneByOne = await kept(
      told.map((one) => [one]),
      databases,
    );
    const texts = (rows: unknown[]) =>
      (rows as { body: string; refused: boolean }[]).map((row) => [row.body, row.refused]);
    expect(texts(together)).toEqual(texts(oneByOne));
    expect(texts(together).filter(([, refused]) => refused)).toHaveLength(1);
  });
});
