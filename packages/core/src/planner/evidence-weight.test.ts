import { beliefOf, meanOf } from './beta';
import { believed, FIXED_HALF_LIFE_S, MOST_AN_HOUR, sharedOut, weighed, weightOf } from './evidence-weight';

const HOUR = 3_600_000;
const NOW = 500_000 * HOUR + HOUR / 2;
const hour = (ago: number, heard: number, missed = 0, inferred = 0) => ({
  atMs: NOW - HOUR / 2 - ago * HOUR,
  heard,
  inferred,
  missed,
});

describe('what evidence weighs', () => {
  it('is halved with each half-life, and never more than now', () => {
    expect(weightOf(0, 3600)).toBe(1);
    expect(weightOf(7200, 3600)).toBe(0.25);
    expect(weightOf(-9999, 3600)).toBe(1);
    expect(weighed([hour(4, 4)], NOW, FIXED_HALF_LIFE_S).successes).toBeCloseTo(2, 9);
    // A clock set back: what lies ahead counts as of now.
    expect(weighed([hour(-5, 4)], NOW, FIXED_HALF_LIFE_S).successes).toBe(4);
  });

  it('is capped for each hour, so that a flood raises nobody', () => {
    expect(weighed([hour(0, 10_000)], NOW, FIXED_HALF_LIFE_S).successes).toBeCloseTo(MOST_AN_HOUR, 9);
    const mixed = weighed([hour(0, 3000, 9000)], NOW, FIXED_HALF_LIFE_S);
    expect(mixed.successes + mixed.failures).toBeCloseTo(MOST_AN_HOUR, 9);
    expect(mixed.failures / mixed.successes).toBeCloseTo(3, 9);
    expect(weighed([hour(0, 0, 0, 2)], NOW, FIXED_HALF_LIFE_S).successes).toBe(1);
    expect(weighed([], NOW, FIXED_HALF_LIFE_S)).toEqual({ successes: 0, failures: 0 });
  });

  it('teaches a link of both its ways, of the other one less', () => {
    const prior = beliefOf(0.5, 2);
    const none = { successes: 0, failures: 0 };
    const there = meanOf(believed(prior, { successes: 5, failures: 0 }, none));
    const back = meanOf(believed(prior, none, { successes: 5, failures: 0 }));
    expect(there).toBeGreaterThan(back);
    expect(back).toBeGreaterThan(0.5);
    // However often it is heard, that it hears us is not proved.
    const often = meanOf(believed(prior, none, { successes: 500, failures: 0 }));
    expect(often).toBeLessThan(0.75);
    expect(meanOf(believed(prior, { successes: 1, failures: 4 }, none))).toBeLessThan(0.5);
  });

  it('charges a failure to the weaker way of the two, and no try is lost', () => {
    const shared = sharedOut({ there: beliefOf(0.9, 10), back: beliefOf(0.3, 10) }, 2, 5);
    const { there, back } = shared;
    expect(there.beta).toBeCloseTo(1 + (5 * 0.1) / 0.73, 9);
    expect(back.beta).toBeCloseTo(7 + 5 * (1 - 0.1 / 0.73), 9);
    expect(there.alpha + there.beta - 10).toBeCloseTo(7, 9);
    // What failed on the way there tells nothing of the way back.
    expect(back.alpha + back.beta - 10).toBeLessThan(7);
    const alike = sharedOut({ there: beliefOf(0.5, 4), back: beliefOf(0.5, 4) }, 0, 40);
    expect(meanOf(alike.there) * meanOf(alike.back)).toBeLessThan(0.05);
  });
});
