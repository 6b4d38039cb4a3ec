import fc from 'fast-check';
import { AIR_WINDOW_MS, airTimeLeft, fitsAirBudget, type Spent } from './air-budget';

const budget = { windowMs: AIR_WINDOW_MS, channelMs: 30_000, stationMs: 6_000 };

describe('the budget of automatic air time', () => {
  it('counts what was spent in the window, for the channel and for the station asking', () => {
    const spent: Spent[] = [
      { atMs: 0, ms: 4000, askedBy: 'QT1NC' },
      { atMs: 1000, ms: 5000, askedBy: 'QT6CL' },
    ];
    expect(airTimeLeft(spent, budget, 'QT1NC', 2000)).toEqual({ channelMs: 21_000, stationMs: 2_000 });
    expect(airTimeLeft(spent, budget, 'QT9SA', 2000)).toEqual({ channelMs: 21_000, stationMs: 6_000 });
    expect(fitsAirBudget(spent, budget, { ms: 2001, askedBy: 'QT1NC' }, 2000)).toBe(false);
    expect(airTimeLeft(spent, budget, 'QT1NC', AIR_WINDOW_MS)).toEqual({ channelMs: 25_000, stationMs: 6_000 });
  });

  it('never lets more than the budget out in any window, whatever is asked', () => {
    const asking = fc.array(
      fc.record({
        waitMs: fc.integer({ min: 0, max: 30_000 }),
        ms: fc.integer({ min: 1, max: 3000 }),
        by: fc.integer({ min: 0, max: 4 }),
      }),
      { maxLength: 400 },
    );
    fc.assert(
      fc.property(asking, (asked) => {
        const spent: Spent[] = [];
        let now = 0;
        for (const { waitMs, ms, by } of asked) {
          now += waitMs;
          const wanted = { ms, askedBy: `QT${by}X` };
          if (fitsAirBudget(spent, budget, wanted, now)) spent.push({ atMs: now, ...wanted });
        }
        for (const { atMs } of spent) {
          const inside = spent.filter((one) => one.atMs >= atMs && one.atMs < atMs + budget.windowMs);
          expect(inside.reduce((sum, { ms }) => sum + ms, 0)).toBeLessThanOrEqual(budget.channelMs);
          for (const station of new Set(inside.map(({ askedBy }) => askedBy)))
            expect(
              inside.filter(({ askedBy }) => askedBy === station).reduce((sum, { ms }) => sum + ms, 0),
            ).toBeLessThanOrEqual(budget.stationMs);
        }
      }),
      { numRuns: 60 },
    );
  });
});
