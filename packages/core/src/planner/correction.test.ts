import { calibrationOf, type Judged } from './calibration';
import { corrected, correctedSpread, correctionFor, correctionOf, NO_CORRECTION } from './correction';
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

describe('what forecasts for one addressee are corrected by besides', () => {
  /** A third for nobody of their own, the rest for two in turn. */
  const to = (n: number) => (Math.floor(n / 10) % 3 === 0 ? undefined : n % 2 === 0 ? 'QT8PH-12' : 'QT6CL');
  const forTwo = tooSure.map((one, n) => {
    const whom = to(n);
    return whom === undefined ? one : { ...one, to: whom };
  });

  it('is of greatest penalised likelihood with what all share (scipy 1.17 optimize.minimize, over the same 120)', () => {
    const by = correctionOf(forTwo);
    expect(by.shift).toBeCloseTo(0.064975, 5);
    expect(by.scale).toBeCloseTo(0.396415, 5);
    expect(by.theirs.get('QT8PH-12')!.shift).toBeCloseTo(0.226908, 5);
    expect(by.theirs.get('QT6CL')!.shift).toBeCloseTo(-0.402191, 5);
    expect(correctionFor(by, 'QT6CL')).toEqual({ shift: by.shift + by.theirs.get('QT6CL')!.shift, scale: by.scale });
    expect(correctionFor(by, 'QT1NC')).toEqual({ shift: by.shift, scale: by.scale });
  });

  it('is told with what was to be expected of theirs, and what came of it', () => {
    const { theirs } = correctionOf([
      ...Array.from({ length: 20 }, (_, n) => ({ predicted: 0.9, happened: n < 5, to: 'QT8PH-12' })),
      ...Array.from({ length: 60 }, (_, n) => ({ predicted: 0.9, happened: n % 10 !== 0, to: `QT${n % 6}XX` })),
    ]);
    const one = theirs.get('QT8PH-12')!;
    expect(one).toMatchObject({ count: 20, happened: 5 });
    expect(one.expected).toBeCloseTo(18, 9);
    expect(one.shift).toBeLessThan(-1);
    expect(theirs.size).toBe(7);
  });

  it('makes forecasts honest for each, also where one comes and goes and all the others are there', () => {
    const random = seeded(11);
    const draw = (count: number) =>
      Array.from({ length: count }, (_, n) => {
        const predicted = 0.7 + 0.29 * random();
        const away = n % 8 === 0;
        return { predicted, happened: random() < (away ? 0.4 : predicted), to: away ? 'QT8PH-12' : `QT${n % 8}XX` };
      });
    const by = correctionOf(draw(3200));
    const fresh = draw(4000);
    const theirs = fresh.filter((one) => one.to === 'QT8PH-12');
    const told = (some: typeof fresh) =>
      some.reduce((sum, { predicted, to }) => sum + corrected(predicted, correctionFor(by, to)), 0) / some.length;
    const was = (some: typeof fresh) => some.filter(({ happened }) => happened).length / some.length;
    expect(Math.abs(told(theirs) - was(theirs))).toBeLessThan(0.06);
    const others = fresh.filter((one) => one.to !== 'QT8PH-12');
    expect(Math.abs(told(others) - was(others))).toBeLessThan(0.03);
    // By what all share alone neither is told as it is.
    const alike = correctionOf(draw(3200).map(({ predicted, happened }) => ({ predicted, happened })));
    const toldAlike = theirs.reduce((sum, { predicted }) => sum + corrected(predicted, alike), 0) / theirs.length;
    expect(toldAlike - was(theirs)).toBeGreaterThan(0.25);
  });

  it('is little after one surprise, and finite where all were wrong', () => {
    const one = correctionOf([...forTwo, { predicted: 0.9, happened: false, to: 'QT1NC' }]);
    expect(Math.abs(one.theirs.get('QT1NC')!.shift)).toBeLessThan(0.8);
    for (const happened of [true, false])
      for (const predicted of [0, 0.5, 1]) {
        const wrong = correctionOf(Array.from({ length: 500 }, () => ({ predicted, happened, to: 'QT1NC' })));
        expect(Number.isFinite(wrong.theirs.get('QT1NC')!.shift) && wrong.scale >= 0).toBe(true);
      }
  });
});
