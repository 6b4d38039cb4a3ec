import { rateWithoutZeros, burstsOf, carriedShare, leavesAnHour, returnsAnHour, stillThere } from './silence';

describe('a station that is silent', () => {
  it('may be off when it was heard steadily, and tells nothing when it was seldom heard', () => {
    // Once a minute for an hour.
    const habit = { count: 60, overS: 3600 };
    const after = (min: number) => stillThere({ ...habit, silentS: 60 * min });
    expect([after(0), after(1), after(3)]).toEqual([1, 1, 1]);
    expect(after(6)).toBeGreaterThan(0.8);
    expect(after(15)).toBeLessThan(0.3);
    expect(after(30)).toBeLessThan(0.01);
    for (let min = 1; min < 60; min++) expect(after(min)).toBeLessThanOrEqual(after(min - 1));
    expect(stillThere({ count: 4, overS: 3600, silentS: 9e6 })).toBe(1);
    expect(stillThere({ count: 60, overS: 60, silentS: 9e6 })).toBe(1);
    // Every ten minutes, and not for a quarter of an hour.
    expect(stillThere({ count: 12, overS: 7200, silentS: 900 })).toBe(1);
  });

  it('is there when the clock was set back', () => {
    expect(stillThere({ count: 60, overS: 3600, silentS: -500 })).toBe(1);
  });
});

/** Packets of consecutive hours, from one hour on. */
const inHours = (counts: readonly number[], from = 400_000): Map<number, number> =>
  new Map(counts.flatMap((count, n) => (count > 0 ? [[from + n, count] as const] : [])));

describe('how evenly somebody is heard', () => {
  it('is the variance of whole hours over their mean (index of dispersion), up to three', () => {
    // Mean 4, sum of squares 24 over six hours: 24 / 5 / 4.
    expect(burstsOf(inHours([9, 2, 2, 2, 6, 6, 6, 9]))).toBeCloseTo(1.2, 9);
    expect(burstsOf(inHours([1, 20, 1, 1, 30, 1, 1, 1]))).toBe(3);
  });

  it('is less than one by a plan, as far as the hours tell so', () => {
    // Three an hour, of which one in twenty is lost: part hours at either end do not count.
    const plan = (hours: number) =>
      burstsOf(inHours([1, ...Array.from({ length: hours }, (_, n) => (n % 7 === 3 ? 2 : 3)), 1]));
    expect(plan(7)).toBeLessThan(1);
    expect(plan(21)).toBeLessThan(plan(7));
    // What it stands for: as unlikely as that all that were due are lost, each with the chance that is the index.
    const index = (0.05 * 40 + 4) / 44;
    const counts = Array.from({ length: 40 }, (_, n) => 20 + (n % 2 === 0 ? 1 : -1) * Math.sqrt((0.05 * 20 * 39) / 40));
    const bursts = burstsOf(inHours([1, ...counts, 1]));
    for (const due of [1, 2, 5]) expect(Math.exp(-due / bursts)).toBeCloseTo(index ** (due / (1 - index)), 6);
  });

  it('is not told from a few hours, nor from hours that stand alone', () => {
    expect(burstsOf(inHours([]))).toBe(3);
    expect(burstsOf(inHours([3, 3, 3, 3, 3, 3, 3]))).toBe(3);
    expect(burstsOf(inHours(Array.from({ length: 40 }, (_, n) => (n % 2) * 3)))).toBe(3);
  });

  it('makes silence of one with a plan tell sooner', () => {
    // Every 20 min, and not for an hour and a half.
    const silent = { count: 9, overS: 3 * 3600, silentS: 5400 };
    expect(stillThere(silent)).toBeGreaterThan(0.9);
    expect(stillThere({ ...silent, bursts: 1 })).toBeLessThan(0.5);
    expect(stillThere({ ...silent, bursts: 0.5 })).toBeLessThan(0.01);
    // Before one was due nothing is missing, however even the plan.
    expect(stillThere({ ...silent, silentS: 1190, bursts: 0.5 })).toBe(1);
  });
});

describe('how often somebody goes', () => {
  const all = Array.from({ length: 48 }, (_, n) => 400_000 + n);
  const three = (hours: number) => Array<number>(hours).fill(3);

  it('counts silences of some hours after which it came back, for each hour that it was there', () => {
    const came = inHours([...three(10), 0, 0, 0, ...three(10), 0, 0, 0, 0, ...three(8)]);
    expect(leavesAnHour(came, all)).toBeCloseTo(2 / (28 + 12), 9);
    // An hour alone is none, what has not ended yet is none, and where nobody was heard nothing was missed.
    expect(leavesAnHour(inHours([...three(10), 0, ...three(10)]), all)).toBe(0);
    expect(leavesAnHour(inHours(three(10)), all)).toBe(0);
    const deaf = all.filter((hour) => hour < 400_010 || hour > 400_012);
    expect(leavesAnHour(inHours([...three(10), 0, 0, 0, ...three(10)]), deaf)).toBe(0);
    expect(leavesAnHour(new Map(), all)).toBe(0);
  });

  it('tells how soon it comes back, for each hour that it was silent', () => {
    const came = inHours([...three(10), 0, 0, 0, ...three(10), 0, 0, 0, 0, ...three(8)]);
    expect(returnsAnHour(came, all)).toBeCloseTo(2.5 / (7 + 12), 9);
    // Nothing is known of one that never went: within a day.
    expect(returnsAnHour(inHours(three(10)), all)).toBeCloseTo(1 / 24, 9);
    // Every 20 min: back since the last one was due, and not heard yet.
    const gone = { count: 9, overS: 3 * 3600, bursts: 1, silentS: 10 * 3600 };
    expect(stillThere({ ...gone, returnsAnHour: 0.15 })).toBeCloseTo(0.05, 6);
    expect(stillThere(gone)).toBeLessThan(1e-6);
    expect(stillThere({ ...gone, returnsAnHour: 1e9 })).toBeCloseTo(0.5, 6);
  });

  it('makes silence tell more the longer it lasts, and little before something was missed', () => {
    const often = { count: 9, overS: 3 * 3600, bursts: 1, leavesAnHour: 0.2 };
    const after = (min: number) => stillThere({ ...often, silentS: 60 * min });
    // Before one is due it may have left, and nothing tells.
    expect(after(0)).toBe(1);
    expect(after(19)).toBeCloseTo(Math.exp((-0.2 * 19) / 60), 9);
    expect(stillThere({ ...often, leavesAnHour: 0, silentS: 19 * 60 })).toBe(1);
    // So it is where it could not be heard, however long.
    expect(stillThere({ ...often, silentS: 2 * 3600, listenedS: 0 })).toBeCloseTo(Math.exp(-0.4), 9);
    expect(stillThere({ ...often, silentS: 90 * 3600, listenedS: 0 })).toBe(0.5);
    expect(after(25)).toBeGreaterThan(0.7);
    expect(after(60)).toBeLessThan(stillThere({ ...often, leavesAnHour: 0, silentS: 3600 }));
    for (let min = 21; min < 300; min++) expect(after(min)).toBeLessThanOrEqual(after(min - 1));
  });
});

describe('the share of a silence in which somebody would have been heard', () => {
  const HOUR_MS = 3_600_000;
  const first = 400_000;
  // Heard three times an hour over one that is heard six times, up to the last moment of the third hour; silent for four hours.
  const lastMs = (first + 3) * HOUR_MS - 1;
  const silent = { lastMs, nowMs: lastMs + 4 * HOUR_MS, silentS: 4 * 3600 };
  const shareWhen = (carrier: readonly number[], hours: readonly number[] = [3, 3, 3]) =>
    carriedShare({ hours: inHours(hours), carrier: inHours(carrier), ...silent });

  it('is what was heard of the carrier since, of what it sent before', () => {
    expect(shareWhen([6, 6, 6, 6, 6, 6, 6])).toBeCloseTo(1, 6);
    expect(shareWhen([6, 6, 6, 6, 6])).toBeCloseTo(0.5, 6);
    expect(shareWhen([6, 6, 6])).toBe(0);
    // More than before is not more than all of it.
    expect(shareWhen([6, 6, 6, 20, 20, 20, 20])).toBeCloseTo(1, 6);
  });

  it('takes one for there that is heard half as often, hour by hour', () => {
    expect(shareWhen([6, 6, 6, 3, 3, 3, 3])).toBeCloseTo(1, 6);
    // In two hours not at all, however often in the others.
    expect(shareWhen([6, 6, 6, 0, 60, 0, 6])).toBeCloseTo(0.5, 6);
    expect(shareWhen([6, 6, 6, 1, 1, 1, 1])).toBeCloseTo(1 / 3, 6);
  });

  it('counts what the carrier sent in the last hour beyond its share', () => {
    // Silent from a quarter past on, for four hours.
    const quarter = (carrier: readonly number[]) =>
      carriedShare({
        hours: inHours([3, 3, 1]),
        carrier: inHours(carrier),
        lastMs: (first + 2.25) * HOUR_MS,
        nowMs: (first + 6.25) * HOUR_MS,
        silentS: 4 * 3600,
      });
    // Fifteen of the carrier to seven of its own: of the last hour, with one of its own, what is beyond 15/7 came later.
    expect(quarter([6, 6, 3])).toBeCloseTo((3 - 15 / 7) / (0.5 * (15 / 2.25)) / 4, 6);
    // No more than what is left of that hour, nor than what is over of the one that goes on.
    expect(quarter([6, 6, 6])).toBeCloseTo(0.75 / 4, 6);
    expect(quarter([6, 6, 2, 0, 0, 0, 60])).toBeCloseTo(0.25 / 4, 6);
  });

  it('is all of it where nothing is known of the carrier, or nothing was to be expected', () => {
    expect(shareWhen([])).toBe(1);
    expect(shareWhen([0, 0, 0, 6, 6])).toBe(1);
    expect(carriedShare({ hours: inHours([3]), carrier: inHours([3]), lastMs, nowMs: lastMs, silentS: 0 })).toBe(1);
  });
});

describe('how often one is heard while it is there, by the hours in which it was heard at all', () => {
  it('is the rate whose Poisson distribution has that mean without its zeros (scipy 1.17 optimize.brentq)', () => {
    expect(rateWithoutZeros(1.05)).toBeCloseTo(0.09838693, 7);
    expect(rateWithoutZeros(1.4)).toBeCloseTo(0.71541565, 7);
    expect(rateWithoutZeros(2)).toBeCloseTo(1.59362426, 7);
    expect(rateWithoutZeros(3.5)).toBeCloseTo(3.38094666, 7);
  });

  it('is none where it is never heard twice in an hour, or where nothing is known', () => {
    for (const mean of [1, 0.5, 0, -1, NaN]) expect(rateWithoutZeros(mean)).toBe(0);
    expect(rateWithoutZeros(1000)).toBeCloseTo(1000, 6);
  });
});
