import { calibrationOf, wilson, type Judged } from './calibration';
import { seeded } from './seeded';

const forecasts = (count: number, random: () => number, truth: (p: number) => number): Judged[] =>
  Array.from({ length: count }, () => {
    const predicted = random();
    return { predicted, happened: random() < truth(predicted) };
  });

describe('the interval of Wilson', () => {
  it('is that of a worked example', () => {
    // 15 of 40 (scipy.stats.binomtest(15, 40).proportion_ci(method='wilson') of SciPy 1.10.1).
    const { low, high } = wilson(15, 40);
    expect(low).toBeCloseTo(0.2422, 3);
    expect(high).toBeCloseTo(0.5297, 3);
    expect(wilson(0, 0)).toEqual({ low: 0, high: 1 });
    expect(wilson(0, 10).low).toBe(0);
    expect(wilson(10, 10).high).toBeCloseTo(1, 12);
  });
});

describe('calibration', () => {
  it('tells an honest forecaster from a boaster, measured against what chance alone shows', () => {
    const random = seeded(17);
    const honest = calibrationOf(
      forecasts(500, random, (p) => p),
      random,
    );
    expect(honest.error).toBeLessThan(honest.errorByChance);
    // About 0.045 for 500 forecasts in ten bins: what chance alone shows, not a bad forecaster.
    expect(honest.errorByChance).toBeGreaterThan(0.04);
    expect(honest.errorByChance).toBeLessThan(0.09);
    const boaster = calibrationOf(
      forecasts(500, random, (p) => p * 0.6),
      random,
    );
    expect(boaster.error).toBeGreaterThan(boaster.errorByChance);
    expect(boaster.brier).toBeGreaterThan(honest.brier);
  });

  it('splits the score of Brier into its three parts, exactly where forecasts are alike within a bin (Murphy 1973)', () => {
    const random = seeded(5);
    // Ten bins, each of one forecast.
    const judged = Array.from({ length: 1000 }, (_, n) => {
      const predicted = (Math.floor(n / 100) + 0.5) / 10;
      return { predicted, happened: random() < predicted ** 2 };
    });
    const { brier, parts, bins, count } = calibrationOf(judged, random);
    expect(count).toBe(1000);
    expect(bins.map((bin) => bin.count)).toEqual(Array<number>(10).fill(100));
    expect(parts.reliability - parts.resolution + parts.uncertainty).toBeCloseTo(brier, 12);
    for (const bin of bins) expect(bin.low <= bin.happened && bin.happened <= bin.high).toBe(true);
  });

  it('gives the error that scikit-learn’s bins of equal counts give, derived anew here', () => {
    const judged = [0.1, 0.2, 0.35, 0.4, 0.55, 0.6, 0.7, 0.8, 0.9, 0.95].map((predicted, n) => ({
      predicted,
      happened: n % 3 !== 0,
    }));
    // One forecast in each of the ten bins: the mean of |predicted − happened|.
    const byHand =
      judged.reduce((sum, { predicted, happened }) => sum + Math.abs(predicted - Number(happened)), 0) / 10;
    expect(calibrationOf(judged, seeded(1)).error).toBeCloseTo(byHand, 12);
  });

  it('says nothing of nothing', () => {
    expect(calibrationOf([], seeded(1))).toMatchObject({ count: 0, bins: [], brier: 0, error: 0, errorByChance: 0 });
    expect(calibrationOf([{ predicted: 0.5, happened: true }], seeded(1)).bins).toHaveLength(1);
  });
});
