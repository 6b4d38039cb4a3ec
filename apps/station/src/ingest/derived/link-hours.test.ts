import type { Station } from '../../station';
import { createDatabase, startTestStation, type TestDatabase } from '../../testing/harness';

let database: TestDatabase;
let station: Station;

beforeAll(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url);
});

afterAll(async () => {
  await station?.stop();
  await database?.drop();
});

type Hours = Record<string, [number, number, number]>;

const merged = async (a: Hours, b: Hours): Promise<Hours> => {
  const [row] = await station.context.database.query('select merged_hours($1, $2) as hours', [
    JSON.stringify(a),
    JSON.stringify(b),
  ]);
  return row.hours;
};

/** All at once, by what is asked of it: sums of each hour, two days back from the newest. */
function expected(parts: readonly Hours[]): Hours {
  const sums: Hours = {};
  for (const [hour, [heard, inferred, missed]] of parts.flatMap((part) => Object.entries(part))) {
    const before = sums[hour] ?? [0, 0, 0];
    sums[hour] = [before[0] + heard, before[1] + inferred, before[2] + missed];
  }
  const newest = Math.max(...Object.keys(sums).map(Number));
  return Object.fromEntries(Object.entries(sums).filter(([hour]) => Number(hour) > newest - 48));
}

test('hours of a link are the same in whatever order batches come', async () => {
  // A fixed sequence (numbers of a linear congruence), so that a failure can be repeated.
  let state = 7;
  const next = (below: number) => (state = (state * 16807) % 2147483647) % below;
  for (let round = 0; round < 40; round++) {
    const parts = Array.from({ length: 4 }, (): Hours => {
      const from = 490_000 + next(80);
      return Object.fromEntries(
        Array.from({ length: 1 + next(3) }, (_, i) => [String(from + i), [next(5), next(5), next(5)]]),
      );
    });
    let forward: Hours = {};
    for (const part of parts) forward = await merged(forward, part);
    let backward: Hours = {};
    for (const part of [...parts].reverse()) backward = await merged(backward, part);
    expect([forward, backward]).toEqual([expected(parts), expected(parts)]);
  }
});
