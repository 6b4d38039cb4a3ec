import { DEFAULT_RETRY } from '../traffic/retry';
import { expectedS } from './arrival';
import { beliefOf, meanOf } from './beta';
import { afterSilence, answersAtAll, beliefOfDraws, spreadOf, tried, worksAtAll, type TryingFor } from './tried';
import { seeded } from './seeded';

const plan = (more: Partial<TryingFor> = {}): TryingFor => ({
  retry: DEFAULT_RETRY,
  tries: 5,
  overDigipeaters: true,
  queueS: 0,
  airS: 1,
  repeatsS: 1,
  deadlineS: null,
  ...more,
});

describe('a crossing that is tried until it is proved', () => {
  it('comes to what a thousand sendings by chance come to', () => {
    const [p, q] = [0.5, 0.6];
    const { arrives, proven, airS, arrival } = tried(beliefOf(p, 1e8), beliefOf(q, 1e8), plan());
    const random = seeded(21);
    const trials = 20_000;
    const sum = { arrived: 0, proven: 0, tries: 0 };
    for (let n = 0; n < trials; n++) {
      let arrived = false;
      for (let k = 0; k < 5; k++) {
        sum.tries++;
        const here = random() < p;
        arrived ||= here;
        if (!here || random() >= q) continue;
        sum.proven++;
        break;
      }
      if (arrived) sum.arrived++;
    }
    expect(proven!.chance).toBeCloseTo(1 - (1 - p * q) ** 5, 4);
    expect(Math.abs(sum.proven / trials - proven!.chance)).toBeLessThan(0.012);
    expect(Math.abs((2 * sum.tries) / trials - airS)).toBeLessThan(0.06);
    // Tries that were spared because the proof came had arrived anyway.
    expect(Math.abs(sum.arrived / trials - arrives.chance)).toBeLessThan(0.02);
    expect(arrival.chance).toBeCloseTo(arrives.chance, 9);
  });

  it('is proved more seldom than it arrives, and never by what cannot answer', () => {
    const both = tried(beliefOf(0.6, 4), beliefOf(0.5, 4), plan());
    expect(both.proven!.chance).toBeLessThan(both.arrives.chance);
    expect(both.arrives.low).toBeLessThan(both.arrives.chance);
    expect(both.arrives.high).toBeGreaterThan(both.arrives.chance);
    const once = tried(beliefOf(0.6, 4), null, plan());
    expect(once.proven).toBeNull();
    // Without an answer there is one transmission.
    expect(once.arrives.chance).toBeCloseTo(0.6, 2);
    expect(once.airS).toBeCloseTo(2, 9);
  });

  it('of several parts arrives only with all of them', () => {
    const one = tried(beliefOf(0.5, 1e8), beliefOf(0.8, 1e8), plan({ tries: 3 }));
    const three = tried(beliefOf(0.5, 1e8), beliefOf(0.8, 1e8), plan({ tries: 3, parts: 3 }));
    expect(three.arrives.chance).toBeCloseTo(one.arrives.chance ** 3, 6);
    expect(three.proven!.chance).toBeCloseTo(one.proven!.chance ** 3, 6);
  });

  it('begins no try after the deadline, and waits for the channel', () => {
    const whole = tried(beliefOf(0.4, 50), beliefOf(0.9, 50), plan());
    // The second try begins at 35.2 s: 32 s, and by chance up to a fifth more over digipeaters.
    const one = tried(beliefOf(0.4, 50), beliefOf(0.9, 50), plan({ deadlineS: 35 }));
    const two = tried(beliefOf(0.4, 50), beliefOf(0.9, 50), plan({ deadlineS: 36 }));
    expect(one.arrives.chance).toBeCloseTo(0.4, 2);
    expect(two.arrives.chance).toBeGreaterThan(one.arrives.chance + 0.1);
    expect(two.arrives.chance).toBeLessThan(whole.arrives.chance);
    const late = tried(beliefOf(0.4, 50), null, plan({ queueS: 20 }));
    expect(expectedS(late.arrival)).toBeCloseTo(22, 9);
    expect(tried(beliefOf(0.9, 9), null, plan({ deadlineS: -1 })).arrives.chance).toBe(0);
  });
});

describe('how often it is sent', () => {
  const times = (p: number, q: number, more: Partial<TryingFor>) =>
    tried(beliefOf(p, 1e8), beliefOf(q, 1e8), plan({ tries: 8, worthPerS: 0.02, ...more })).times;

  it('is as often as one more is worth its air time', () => {
    // Each try of a known chance is answered as surely as the one before; it takes 2 s, so it must bring 4 of 100.
    expect(times(0.05, 0.9, {})).toBe(8);
    expect(times(0.04, 0.9, {})).toBe(2);
    // Half the air time makes it worth it again.
    expect(times(0.04, 0.9, { repeatsS: 0 })).toBe(8);
    // What answers nothing anyway is soon let be; what costs nothing is tried to the end.
    expect(times(0.7, 0.9, { works: 0.5 })).toBeLessThan(6);
    expect(times(0.7, 0.9, { works: 0.05 })).toBe(2);
    expect(times(0.01, 0.01, { worthPerS: 0 })).toBe(8);
    expect(times(0.01, 0.01, { worthPerS: 0, tries: 5 })).toBe(5);
  });

  it('is at least twice, for once tells nothing, unless there is no time or nothing to wait for', () => {
    expect(times(0.001, 0.5, {})).toBe(2);
    expect(times(0.5, 0.5, { deadlineS: 10 })).toBe(1);
    expect(times(0.5, 0.5, { deadlineS: -1 })).toBe(0);
    expect(tried(beliefOf(0.5, 9), null, plan({ worthPerS: 0.02 })).times).toBe(1);
    expect(times(0.001, 0.5, { least: 5 })).toBe(5);
    expect(times(0.001, 0.5, { least: 5, tries: 3 })).toBe(3);
    expect(times(0.05, 0.9, { least: 5 })).toBe(8);
  });

  it('takes what it foretells and its cost from that many', () => {
    const [p, q] = [0.3, 0.5];
    const few = tried(beliefOf(p, 1e8), beliefOf(q, 1e8), plan({ tries: 8, worthPerS: 0.11 }));
    expect(few.times).toBe(2);
    expect(few.proven!.chance).toBeCloseTo(1 - (1 - p * q) ** 2, 4);
    expect(few.airS).toBeCloseTo(2 * (1 + (1 - p * q)), 4);
  });
});

describe('a way that may not work at all', () => {
  it('is doubted the more the more tries by it nobody answered, and the less the more were', () => {
    const after = (answered: number, unanswered: number) => worksAtAll({ answered, unanswered }, 0.5);
    expect(after(0, 0)).toBeCloseTo(0.9, 12);
    expect(after(1, 0)).toBeCloseTo(0.99, 12);
    // By Bayes: 0.9 · 0.5⁵ against 0.1.
    expect(after(0, 5)).toBeCloseTo(0.9 / 32 / (0.9 / 32 + 0.1), 12);
    expect(after(3, 2)).toBeGreaterThan(0.95);
    // What would hardly have been answered anyway tells little.
    expect(worksAtAll({ answered: 0, unanswered: 5 }, 0.01)).toBeGreaterThan(0.89);
  });

  it('has that share of cases that come to nothing, however often it is tried', () => {
    const sure = tried(beliefOf(0.9, 1e8), beliefOf(0.9, 1e8), plan({ tries: 50, works: 0.8 }));
    expect(sure.arrives).toMatchObject({ chance: expect.closeTo(0.8, 6), low: 0 });
    expect(sure.arrives.high).toBeCloseTo(1, 6);
    expect(sure.proven!.chance).toBeCloseTo(0.8, 6);
    expect(sure.arrival.chance).toBeCloseTo(0.8, 6);
    expect(tried(beliefOf(0.9, 9), null, plan({ works: 0 })).arrives.chance).toBe(0);
  });
});

describe('draws as a belief', () => {
  it('keep mean and spread, and never count for more than a score of tries', () => {
    const random = seeded(3);
    const draws = Array.from({ length: 4000 }, () => random());
    const belief = beliefOfDraws(draws);
    expect(meanOf(belief)).toBeCloseTo(0.5, 1);
    expect(belief.alpha + belief.beta).toBeCloseTo(2, 0);
    const sure = beliefOfDraws(Array<number>(32).fill(0.8));
    expect(sure.alpha + sure.beta).toBeCloseTo(20, 9);
    expect(beliefOfDraws(Array<number>(32).fill(0)).alpha).toBeGreaterThan(0);
    expect(spreadOf([])).toEqual({ chance: 0, low: 0, high: 0 });
  });
});

describe('whether somebody answers at all', () => {
  /** Of 100 tries 60 are answered, for sure. */
  const known = { there: beliefOf(0.75, 1e8), back: beliefOf(0.8, 1e8) };
  const none = { answered: 0, unanswered: 0, crossing: known };
  it('is doubted a little before anything was tried, and not by what could not have been answered', () => {
    expect(answersAtAll([])).toBeCloseTo(0.85, 9);
    expect(answersAtAll([none, none])).toBeCloseTo(0.85, 9);
    // A call that nobody knows may be mistyped; one answer says that it is not.
    expect(answersAtAll([none], true)).toBeCloseTo(0.4, 9);
    expect(answersAtAll([{ ...none, answered: 1 }], true)).toBeGreaterThan(0.9);
    expect(answersAtAll([{ answered: 0, unanswered: 9, crossing: null }])).toBeCloseTo(0.85, 9);
  });

  it('falls with each try that was not answered, more by two paths than by one, and is left by an answer', () => {
    const silent = (unanswered: number) => ({ ...none, unanswered });
    const by = [1, 2, 3, 5].map((tries) => answersAtAll([silent(tries)]));
    expect([...by].sort((a, b) => b - a)).toEqual(by);
    // By Bayes: nine of ten paths work, and of those 0.4³ are silent three times.
    const likely = 0.85 * (0.9 * 0.4 ** 3 + 0.1);
    expect(answersAtAll([silent(3)])).toBeCloseTo(likely / (likely + 0.15), 4);
    // Of one path alone the path may be at fault: a tenth of the doubt is kept for that.
    expect(answersAtAll([silent(1000)])).toBeCloseTo((0.85 * 0.1) / (0.85 * 0.1 + 0.15), 6);
    expect(answersAtAll([silent(5), silent(5)])).toBeLessThan(answersAtAll([silent(10)]));
    const answered = answersAtAll([{ ...none, answered: 1, unanswered: 3 }, silent(3)]);
    expect(answered).toBeGreaterThan(answersAtAll([silent(3), silent(3)]) + 0.2);
    expect(answersAtAll([{ ...none, answered: 3 }])).toBeGreaterThan(0.999);
  });

  it('is a chance however much was answered and however much was not, and the surest learns from silence', () => {
    const sure = { there: beliefOf(0.99, 100), back: beliefOf(0.99, 100) };
    for (const answered of [0, 16, 100, 1000, 1e6])
      for (const unanswered of [0, 8, 250, 1000, 1e6]) {
        const path = { answered, unanswered, crossing: sure };
        const chances = [
          answersAtAll([path, path]),
          afterSilence(answersAtAll([path]), [path]),
          worksAtAll({ answered, unanswered }, 0.99),
        ];
        for (const chance of chances) expect(chance >= 0 && chance <= 1).toBe(true);
        if (unanswered >= 250) for (const chance of chances) expect(chance).toBeLessThan(0.99);
        expect(tried(sure.there, sure.back, plan({ works: chances[2]! })).proven!.chance).toBeLessThanOrEqual(1);
      }
  });

  it('is doubted less where the way itself is hardly known: the same mean may be a way that never works', () => {
    const guessed = { there: beliefOf(0.75, 2), back: beliefOf(0.8, 2) };
    const silent = { answered: 0, unanswered: 12 };
    expect(answersAtAll([{ ...silent, crossing: guessed }])).toBeGreaterThan(
      answersAtAll([{ ...silent, crossing: known }]) + 0.05,
    );
  });
});
