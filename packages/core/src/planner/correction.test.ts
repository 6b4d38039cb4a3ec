import { calibrationOf, type Judged } from './calibration';
import { corrected, correctedSpread, correctionOf, NO_CORRECTION } from './correction';
import { seeded } from './seeded';

/** A forecaster who is too sure: of each chance it gave, and of ten sendings each, how many came out. */
const TOO_SURE: readonly (readonly [predicted: number, happened: number])[] = [
  [0.05, 3],
  [0.1, 3],
  [0.2, 4],
  [0.3, 4],
  [0.4, 5],
  [0.5, 5],
  [0.6, 6],
  [0.7, 6],
  [0.8, 7],
  [0.9, 7],
  [0.95, 7],
  [0.99, 7],
];
const tooSure = TOO_SURE.flatMap(([predicted, happens]) =>
  Array.from({ length: 10 }, (_, n): Judged => ({ predicted, happened: n < happens })),
);

describe('a correction of forecasts', () => {
  it('is the one of greatest penalised likelihood (scipy 1.17 optimize.minimize, over the same 120)', () => {
    const { shift, scale } = correctionOf(tooSure);
    expect(shift).toBeCloseTo(0.014632, 5);
    expect(scale).toBeCloseTo(0.387888, 5);
  });

  it('heeds a forecast by its weight: two of half the weight are one', () => {
    const halves = tooSure.flatMap((one) => [one, one].map((half) => ({ ...half, weight: 0.5 })));
    const { shift, scale } = correctionOf(halves);
    expect(shift).toBeCloseTo(correctionOf(tooSure).shift, 9);
    expect(scale).toBeCloseTo(correctionOf(tooSure).scale, 9);
    // What says nothing any more changes nothing.
    const honest = tooSure.map((one) => ({ ...one, weight: 0 }));
    expect(correctionOf(honest)).toEqual(NO_CORRECTION);
  });

  it('makes an over-sure forecaster honest, also on what it was not fitted to', () => {
    const random = seeded(4);
    const draw = (count: number): Judged[] =>
      Array.from({ length: count }, () => {
        const predicted = 0.02 + 0.96 * random();
        return { predicted, happened: random() < 0.5 + (predicted - 0.5) * 0.5 };
      });
    const by = correctionOf(draw(2000));
    const fresh = draw(2000);
    const before = calibrationOf(fresh, seeded(1));
    const after = calibrationOf(
      fresh.map(({ predicted, happened }) => ({ predicted: corrected(predicted, by), happened })),
      seeded(1),
    );
    expect(before.error).toBeGreaterThan(3 * before.errorByChance);
    expect(after.error).toBeLessThan(before.error / 3);
    expect(after.brier).toBeLessThan(before.brier);
  });

  it('does little for a few, and nothing for none or for an honest forecaster', () => {
    expect(correctionOf([])).toEqual(NO_CORRECTION);
    const three = correctionOf([0.9, 0.9, 0.9].map((predicted) => ({ predicted, happened: false })));
    expect(corrected(0.9, three)).toBeGreaterThan(0.6);
    const random = seeded(9);
    const honest = correctionOf(
      Array.from({ length: 3000 }, () => {
        const predicted = random();
        return { predicted, happened: random() < predicted };
      }),
    );
    expect(Math.abs(honest.shift)).toBeLessThan(0.15);
    expect(Math.abs(honest.scale - 1)).toBeLessThan(0.1);
  });

  it('keeps the order, the ends, and is finite for forecasts that were all wrong', () => {
    const by = correctionOf(tooSure);
    const chances = Array.from({ length: 101 }, (_, n) => corrected(n / 100, by));
    expect([chances[0], chances[100]]).toEqual([0, 1]);
    for (let n = 1; n < chances.length; n++) expect(chances[n]!).toBeGreaterThan(chances[n - 1]!);
    const { low, chance, high } = correctedSpread({ chance: 0.6, low: 0.2, high: 0.9 }, by);
    expect(low).toBeLessThan(chance);
    expect(chance).toBeLessThan(high);
    for (const happened of [true, false])
      for (const predicted of [0, 0.5, 1]) {
        const wrong = correctionOf(Array.from({ length: 500 }, () => ({ predicted, happened })));
        expect(Number.isFinite(wrong.shift) && wrong.scale >= 0).toBe(true);
      }
    // Turned round, a forecaster tells nothing: the greater chance never becomes the smaller one.
    const turned = correctionOf(tooSure.map(({ predicted, happened }) => ({ predicted, happened: !happened })));
    expect(turned.scale).toBe(0);
    expect(corrected(0.9, turned)).toBeCloseTo(corrected(0.1, turned), 9);
  });
});
