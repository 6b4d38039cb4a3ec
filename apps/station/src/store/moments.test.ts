import fc from 'fast-check';
import { rowsOf } from './database';
import { firstIdAt, idAt, lastIdAt, msOfId, receptionsOf, timeOfId } from './moments';
import { createDatabase, startTestStation } from '../testing/harness';

const anyTime = fc.integer({ min: -2_208_988_800_000, max: 4_294_967_295_999 });

describe('an identifier that carries its time', () => {
  it('gives it back, to the millisecond, for every time a recording can have', () => {
    fc.assert(
      fc.property(anyTime, fc.bigInt({ min: 0n, max: 2n ** 63n - 1n }), (ms, n) => {
        expect(msOfId(idAt(ms, n))).toBe(ms);
        expect(timeOfId(idAt(ms, n)).getTime()).toBe(ms);
      }),
    );
  });

  it('sorts by time first, and lies between the first and the last of its time', () => {
    fc.assert(
      fc.property(anyTime, anyTime, fc.bigInt({ min: 0n, max: 2n ** 40n }), (a, b, n) => {
        if (a < b) expect(BigInt(idAt(a, n)) < BigInt(idAt(b, 0n))).toBe(true);
        expect(BigInt(firstIdAt(a)) <= BigInt(idAt(a, n)) && BigInt(idAt(a, n)) <= BigInt(lastIdAt(a))).toBe(true);
      }),
    );
  });

  it('fits 64 bits for absurd times as well', () => {
    for (const ms of [-8.64e15, 8.64e15, 2 ** 42, -(2 ** 42)]) {
      const id = BigInt(idAt(ms, 5n));
      expect(BigInt.asIntN(64, id)).toBe(id);
    }
  });

  it('bounds the hearings of packets by the window of copies', () => {
    const [first, last] = receptionsOf([idAt(100_000, 1n), idAt(500_000, 2n)]);
    expect([msOfId(first), msOfId(last)]).toEqual([70_000, 530_000]);
    const [from, to] = receptionsOf([]);
    expect(BigInt(from) > BigInt(to)).toBe(true);
  });

  it('is the same in the database', async () => {
    const database = await createDatabase();
    const station = await startTestStation(database.url);
    try {
      for (const ms of [0, 1_764_000_000_123, 1_067_000_000_999, 3_800_000_000_001, -1]) {
        const [row] = await rowsOf<{ id: string; at: Date }>(
          station.context.database,
          'select id_at($1, 2097155) as id, time_of($2) as at',
          [new Date(ms), idAt(ms, 3n)],
        );
        expect(row).toEqual({ id: idAt(ms, 2_097_155n), at: new Date(ms) });
      }
    } finally {
      await station.stop();
      await database.drop();
    }
  });
});
