import { randomUUID } from 'node:crypto';
import type { DataSource } from 'typeorm';
import { createDatabase, eventually } from '../testing/harness';
import { openDatabase, rowsOf } from './database';
import { appendEvents, eventsAfter } from './events';
import { addEvidence } from './evidence';

let database: Awaited<ReturnType<typeof createDatabase>>;
let source: DataSource;
beforeEach(async () => {
  database = await createDatabase();
  source = await openDatabase(database.url);
});
afterEach(async () => {
  await source.destroy();
  await database.drop();
});

const AT = new Date('2026-11-25T08:00:00.000Z');
async function item(): Promise<string> {
  const id = randomUUID();
  await source.query(
    `insert into item (id, direction, kind, precedence, sender, addressee, body, acknowledgement_asked, created_at)
     values ($1, 'out', 'text', 'routine', 'QT2AR-7', 'QT1NC', 'Hello', false, $2)`,
    [id, AT],
  );
  return id;
}
const changed = (...ids: string[]) => ids.map((id) => ({ type: 'item' as const, data: { id } }));

describe('an event of an item', () => {
  it('names the state that the item is in from then on', async () => {
    const [a, b] = [await item(), await item()];
    await source.transaction((manager) => appendEvents(manager, changed(a, b, a), AT));
    await source.transaction((manager) => appendEvents(manager, changed(a), AT));
    const events = await eventsAfter(source, 0, 10);
    expect(events.map(({ seq, data }) => [seq, data])).toEqual([
      [1, { id: a, revision: 1 }],
      [2, { id: b, revision: 1 }],
      [3, { id: a, revision: 1 }],
      [4, { id: a, revision: 2 }],
    ]);
    expect(await rowsOf(source, 'select revision from item where id = $1', [a])).toEqual([{ revision: '2' }]);
  });

  it('of one that is gone is told all the same', async () => {
    const gone = randomUUID();
    await source.transaction((manager) => appendEvents(manager, changed(gone), AT));
    expect((await eventsAfter(source, 0, 10)).map(({ data }) => data)).toEqual([{ id: gone, revision: 0 }]);
  });

  it('is never waited for in a circle: one holds the item and tells, the other tells of the same item', async () => {
    const id = await item();
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (letGo = resolve));
    const first = source.transaction(async (manager) => {
      await manager.query('select 1 from item where id = $1 for update', [id]);
      await held;
      await appendEvents(manager, changed(id), AT);
    });
    await eventually(
      async () => (await rowsOf(source, `select 1 from pg_locks where mode = 'RowShareLock'`)).length > 0,
    );
    const second = source.transaction((manager) => appendEvents(manager, changed(id), AT));
    // The second waits for what the first holds.
    await eventually(async () => (await rowsOf(source, 'select 1 from pg_locks where not granted')).length > 0);
    letGo();
    await Promise.all([first, second]);
    expect((await eventsAfter(source, 0, 10)).map(({ data }) => data)).toEqual([
      { id, revision: 1 },
      { id, revision: 2 },
    ]);
  });

  it('is never waited for in a circle: two add to the record of the same item, and both tell of it', async () => {
    const id = await item();
    let letGo: () => void = () => undefined;
    const bothAdded = new Promise<void>((resolve) => (letGo = resolve));
    let added = 0;
    const one = (key: string) =>
      source.transaction(async (manager) => {
        await addEvidence(manager, { key, itemId: id, legId: null, kind: 'sent', at: AT });
        if (++added === 2) letGo();
        await bothAdded;
        await appendEvents(manager, changed(id), AT);
      });
    await Promise.all([one('first'), one('second')]);
    expect((await eventsAfter(source, 0, 10)).map(({ data }) => data)).toEqual([
      { id, revision: 1 },
      { id, revision: 2 },
    ]);
  });
});
