import { betaBelow, betaParts, betaQuantile, beliefOf, chanceWithin, logGamma, meanOf, rememberedOf } from './beta';
import { seeded } from './seeded';

// α, β; the quantiles of 5, 50 and 95 %; the shares below 0.1, 0.5 and 0.9: scipy.stats.beta.ppf and .cdf of SciPy 1.10.1.
const SCIPY = [
  [0.5, 0.5, [0.0061558297, 0.5, 0.9938441703], [0.2048327647, 0.5, 0.7951672353]],
  [1, 1, [0.05, 0.5, 0.95], [0.1, 0.5, 0.9]],
  [2, 5, [0.0628498917, 0.2644499833, 0.5818034093], [0.114265, 0.890625, 0.999945]],
  [30.5, 1.2, [0.89563419, 0.9713986676, 0.9969606055], [0, 1.2493868e-9, 0.0576072151]],
  [0.02, 3.98, [0, 0, 0.0130228626], [0.9847764147, 0.9994466308, 0.9999994078]],
  [120, 80, [0.5425779147, 0.6003339823, 0.656282051], [0, 0.0022275156, 1]],
] as const;

describe('what is believed of a chance', () => {
  it.each(SCIPY)('has the quantiles and shares of scipy for Beta(%p, %p)', (alpha, beta, quantiles, shares) => {
    const belief = { alpha, beta };
    [0.05, 0.5, 0.95].forEach((share, n) => expect(betaQuantile(belief, share)).toBeCloseTo(quantiles[n]!, 7));
    [0.1, 0.5, 0.9].forEach((x, n) => expect(betaBelow(belief, x)).toBeCloseTo(shares[n]!, 9));
  });

  it('knows the gamma function (scipy.special.gammaln)', () => {
    const known = [2.252712651734206, 0.5723649429247, 0.6931471805599453, 13.940625219403763, 857.9336698258575];
    [0.1, 0.5, 3, 10.5, 200].forEach((x, n) => expect(logGamma(x)).toBeCloseTo(known[n]!, 9));
  });

  it('gives several tries less than if they had nothing to do with each other, and is exact for it', () => {
    const belief = beliefOf(0.4, 3);
    expect(meanOf(belief)).toBeCloseTo(0.4, 12);
    // By drawing the chance and then the tries.
    const random = seeded(5);
    let some = 0;
    const trials = 20_000;
    for (let n = 0; n < trials; n++) {
      const p = betaQuantile(belief, random());
      if (Array.from({ length: 4 }, () => random() < p).some(Boolean)) some++;
    }
    expect(chanceWithin(belief, 4)).toBeGreaterThan(0.4);
    expect(chanceWithin(belief, 4)).toBeLessThan(1 - 0.6 ** 4);
    expect(Math.abs(some / trials - chanceWithin(belief, 4))).toBeLessThan(0.012);
    expect(chanceWithin(belief, 0)).toBe(0);
    // Where the chance is known for sure they are independent.
    expect(chanceWithin(beliefOf(0.4, 1e9), 4)).toBeCloseTo(1 - 0.6 ** 4, 6);
  });
});

describe('the middles of equal parts of a belief', () => {
  it('are its quantiles', () => {
    for (const belief of [
      { alpha: 0.3, beta: 2.4 },
      { alpha: 6, beta: 0.5 },
      { alpha: 1, beta: 1 },
      { alpha: 900, beta: 100 },
      { alpha: 0.001, beta: 0.999 },
    ]) {
      const parts = betaParts(belief, 32);
      expect(parts).toHaveLength(32);
      parts.forEach((part, n) => expect(part).toBeCloseTo(betaQuantile(belief, (n + 0.5) / 32), 7));
    }
  });
});

it('what is reckoned of a belief is remembered by what it is, and forgotten when there are too many', () => {
  let times = 0;
  const reckoned = rememberedOf((belief) => {
    times++;
    return meanOf(belief);
  });
  for (const belief of [
    { alpha: 1, beta: 3 },
    { alpha: 3, beta: 1 },
    { alpha: 1, beta: 3 },
  ])
    expect(reckoned(belief)).toBe(meanOf(belief));
  expect(times).toBe(2);
  for (let n = 0; n < 6000; n++) reckoned({ alpha: 1, beta: 10 + n });
  expect(times).toBe(6002);
  expect(reckoned({ alpha: 1, beta: 3 })).toBe(0.25);
  expect(times).toBe(6003);
});
