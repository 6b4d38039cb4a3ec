import {
  across,
  arrivalOf,
  AT_ONCE,
  chanceBy,
  dominates,
  expectedS,
  NEVER,
  ninetyS,
  SHARES,
  type Moment,
} from './arrival';
import { seeded } from './seeded';

const meanS = (moments: readonly Moment[]) => {
  const chance = moments.reduce((sum, moment) => sum + moment.chance, 0);
  return moments.reduce((sum, moment) => sum + moment.chance * moment.atS, 0) / chance;
};
const randomMoments = (random: () => number): Moment[] => {
  const moments = Array.from({ length: 1 + Math.floor(random() * 40) }, () => ({
    atS: Math.round(random() * 1000),
    chance: random(),
  }));
  const most = moments.reduce((sum, { chance }) => sum + chance, 0) / (0.05 + 0.95 * random());
  return moments.map(({ atS, chance }) => ({ atS, chance: chance / most }));
};

describe('when something arrives', () => {
  it('keeps chance and expected time of any moments, in sixteen ascending shares', () => {
    const random = seeded(1);
    for (let n = 0; n < 500; n++) {
      const moments = randomMoments(random);
      const arrival = arrivalOf(moments);
      expect(arrival.atS).toHaveLength(SHARES);
      expect(arrival.atS.every((at, i) => i === 0 || at >= arrival.atS[i - 1]! - 1e-9)).toBe(true);
      expect(arrival.chance).toBeCloseTo(
        moments.reduce((sum, { chance }) => sum + chance, 0),
        9,
      );
      expect(expectedS(arrival)).toBeCloseTo(meanS(moments), 6);
      // What arrived by any time is told within one share.
      const byS = random() * 1000;
      const exact = moments.reduce((sum, { atS, chance }) => sum + (atS <= byS ? chance : 0), 0);
      expect(Math.abs(chanceBy(arrival, byS) - exact)).toBeLessThanOrEqual(arrival.chance / SHARES + 1e-9);
    }
  });

  it('multiplies chances and adds expected times over two crossings', () => {
    const random = seeded(2);
    for (let n = 0; n < 100; n++) {
      const [a, b] = [arrivalOf(randomMoments(random)), arrivalOf(randomMoments(random))];
      const both = across(a, b);
      expect(both.chance).toBeCloseTo(a.chance * b.chance, 9);
      expect(expectedS(both)).toBeCloseTo(expectedS(a)! + expectedS(b)!, 6);
    }
    expect(across(AT_ONCE, NEVER)).toEqual(NEVER);
  });

  it('waits for a window, and does not arrive after the last one', () => {
    // Open in the first minute of every ten, twice.
    const opensAt = (atS: number) => {
      const next = atS % 600 < 60 ? atS : Math.ceil(atS / 600) * 600;
      return next > 660 ? null : next;
    };
    const soon = arrivalOf([{ atS: 30, chance: 0.5 }]);
    const later = arrivalOf([
      { atS: 100, chance: 0.25 },
      { atS: 700, chance: 0.25 },
    ]);
    const takes = arrivalOf([{ atS: 20, chance: 1 }]);
    expect(across(soon, takes, opensAt)).toMatchObject({ chance: 0.5 });
    expect(expectedS(across(soon, takes, opensAt))).toBeCloseTo(50, 9);
    const after = across(later, takes, opensAt);
    expect(after.chance).toBeCloseTo(0.25, 9);
    expect(expectedS(after)).toBeCloseTo(620, 9);
  });

  it('tells what beats what at every moment', () => {
    const early = arrivalOf([{ atS: 10, chance: 0.5 }]);
    const late = arrivalOf([{ atS: 100, chance: 0.5 }]);
    const sureLate = arrivalOf([{ atS: 100, chance: 0.9 }]);
    expect([dominates(early, late), dominates(late, early)]).toEqual([true, false]);
    expect([dominates(early, sureLate), dominates(sureLate, early)]).toEqual([false, false]);
    expect(dominates(sureLate, late)).toBe(true);
    // Same mean, another spread: neither.
    const spread = arrivalOf([
      { atS: 50, chance: 0.25 },
      { atS: 150, chance: 0.25 },
    ]);
    expect([dominates(late, spread), dominates(spread, late)]).toEqual([false, false]);
    expect([dominates(late, early, 0, 90), dominates(early, sureLate, 0.4)]).toEqual([true, true]);
    expect(ninetyS(spread)).toBeCloseTo(150, 9);
    expect([expectedS(NEVER), ninetyS(NEVER), chanceBy(NEVER, Infinity)]).toEqual([null, null, 0]);
  });

  it('agrees with a comparison moment by moment on random pairs', () => {
    const random = seeded(3);
    let beaten = 0;
    const wrong: number[] = [];
    for (let n = 0; n < 2000; n++) {
      const a = arrivalOf(randomMoments(random));
      const shift = random() < 0.5 ? { chance: a.chance * random(), atS: a.atS.map((at) => at + random() * 40) } : null;
      const b = shift ? { ...shift, atS: [...shift.atS].sort((x, y) => x - y) } : arrivalOf(randomMoments(random));
      const times = [...a.atS, ...b.atS];
      const everywhere = times.every((at) => chanceBy(a, at + 1e-9) >= chanceBy(b, at) - 1e-12);
      if (everywhere) beaten++;
      if (dominates(a, b) !== everywhere) wrong.push(n);
    }
    expect(wrong).toEqual([]);
    expect(beaten).toBeGreaterThan(500);
  });
});
