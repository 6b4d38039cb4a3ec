import { seeded } from '../planner/seeded';
import { antennaFactor, type HeardAgainst } from './antenna-factor';
import { chanceOfMargin } from './link-budget';

const rows = (...all: [marginDb: number, heard: number, missed: number][]): HeardAgainst[] =>
  all.map(([marginDb, heard, missed]) => ({ marginDb, heard, missed }));

describe('the antenna factor', () => {
  it('is the one of greatest penalised likelihood (scipy 1.17 optimize.minimize_scalar over the same)', () => {
    const fit = antennaFactor(rows([20, 18, 0], [12, 15, 1], [8, 10, 4], [3, 6, 9], [-4, 1, 8], [-10, 0, 6]))!;
    expect(fit.db).toBeCloseTo(-3.859613, 5);
    expect(fit.lowDb).toBeCloseTo(-8.646791, 5);
    expect(fit.highDb).toBeCloseTo(0.927565, 5);
  });

  it('finds what was put in, within its interval about nine times of ten', () => {
    const random = seeded(12);
    let inside = 0;
    const trials = 200;
    for (let trial = 0; trial < trials; trial++) {
      // Drawn as the fit supposes it: ten decibels of scatter about nothing.
      const real = 10 * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
      const stations = Array.from({ length: 12 }, () => {
        const marginDb = -15 + 35 * random();
        const heard = Array.from({ length: 2 }, () => random() < chanceOfMargin(marginDb + real)).filter(
          Boolean,
        ).length;
        return { marginDb, heard, missed: 2 - heard };
      });
      const { lowDb, highDb } = antennaFactor(stations)!;
      if (lowDb <= real && real <= highDb) inside++;
    }
    expect(inside / trials).toBeGreaterThan(0.84);
    expect(inside / trials).toBeLessThan(0.96);
  });

  it('counts nobody who shouts for more, stays finite, and is none of nothing', () => {
    const some = antennaFactor(rows([0, 20, 0], [5, 3, 3]))!;
    const shouted = antennaFactor(rows([0, 20_000, 0], [5, 3, 3]))!;
    expect(shouted.db).toBeCloseTo(some.db, 6);
    const never = antennaFactor(rows([30, 0, 1e6]))!;
    expect(never.db).toBeGreaterThan(-80);
    expect(never.db).toBeLessThan(-30);
    expect(antennaFactor([])).toBeNull();
    expect(antennaFactor(rows([10, 0, 0], [Number.NaN, 5, 5]))).toBeNull();
  });
});
