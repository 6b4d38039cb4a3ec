import fc from 'fast-check';
import {
  bulgeM,
  EFFECTIVE_EARTH_KM,
  fresnelRadiusM,
  groundLossDb,
  knifeEdgeLossDb,
  smoothEarthLossDb,
  type DiffractionPath,
} from './diffraction';

/** Loss of a knife edge without approximation (P.526, 4.1): Fresnel's integrals by Simpson's rule. */
function exactKnifeEdgeDb(v: number): number {
  const pieces = 4000;
  const step = v / pieces;
  let [c, s] = [0, 0];
  for (let n = 0; n <= pieces; n++) {
    const weight = n === 0 || n === pieces ? 1 : n % 2 === 1 ? 4 : 2;
    const angle = (Math.PI / 2) * (n * step) ** 2;
    c += weight * Math.cos(angle);
    s += weight * Math.sin(angle);
  }
  [c, s] = [(c * step) / 3, (s * step) / 3];
  return -20 * Math.log10(Math.sqrt((1 - c - s) ** 2 + (c - s) ** 2) / 2);
}

/** Ground of some heights, evenly spaced. */
const path = (groundM: readonly number[], lengthKm: number, more: Partial<DiffractionPath> = {}): DiffractionPath => ({
  distanceKm: lengthKm,
  groundM,
  fromM: groundM[0]! + 10,
  toM: groundM.at(-1)! + 10,
  frequencyMHz: 144.8,
  water: 0,
  ...more,
});
const withEdge = (heightM: number, at = 50) => Array.from({ length: 101 }, (_, n) => (n === at ? heightM : 0));

describe('one knife edge', () => {
  it('costs what Fresnel’s integrals give, within an eighth of a decibel', () => {
    // Values of scipy.special.fresnel.
    for (const [v, exactDb] of [
      [0, 6.0206],
      [1, 13.8641],
      [2.4, 20.6182],
    ] as const)
      expect(exactKnifeEdgeDb(v)).toBeCloseTo(exactDb, 3);
    for (let v = -0.7; v <= 10; v += 0.05)
      expect(Math.abs(knifeEdgeLossDb(v) - exactKnifeEdgeDb(v))).toBeLessThan(0.125);
    expect(knifeEdgeLossDb(-1)).toBe(0);
  });

  it('in the middle of the way costs that, and what Bullington adds, and nothing for the low ground around it', () => {
    const loss = groundLossDb(path(withEdge(200), 10, { fromM: 100, toM: 100 }));
    // h = 100 m and the bulge over the line, both ends 5 km away: ν = h·√(2·d/(λ·d₁·d₂)).
    const wave = 299.792458 / 144.8;
    const v = (100 + bulgeM(5, 5)) * Math.sqrt((2 * 10_000) / (wave * 5000 * 5000));
    const edge = exactKnifeEdgeDb(v);
    expect(loss).toBeCloseTo(edge + (1 - Math.exp(-edge / 6)) * (10 + 0.02 * 10), 0);
  });
});

describe('the first Fresnel zone and the bulge', () => {
  it('are as wide as the textbooks say', () => {
    // 17.32·√(d₁·d₂/(f·d)) with km and GHz, a rule of thumb of every handbook (memory).
    expect(fresnelRadiusM(5, 5, 1000)).toBeCloseTo(17.32 * Math.sqrt((5 * 5) / (1 * 10)), 1);
    // d₁·d₂/17 m for 4/3 of the earth, likewise.
    expect(bulgeM(20, 20)).toBeCloseTo((20 * 20) / 17, 1);
  });
});

describe('a smooth earth', () => {
  it('takes, far beyond the horizon, what the first zero of Airy’s function says for each km', () => {
    // Bremmer’s residue series: the attenuation is (√3/2)·a₁·(k·a/2)^⅓/a per length, a₁ = 2.33810741 (Abramowitz and Stegun, table 10.13).
    const waveKm = 0.299792458 / 144.8;
    const perKm =
      (8.685889638 *
        (Math.sqrt(3) / 2) *
        2.33810741 *
        (((2 * Math.PI) / waveKm) * (EFFECTIVE_EARTH_KM / 2)) ** (1 / 3)) /
      EFFECTIVE_EARTH_KM;
    const loss = (km: number) => smoothEarthLossDb(km, 2, 2, 144.8, 0);
    // What spreads with the root of the distance counts in free space already.
    const spreading = 10 * Math.log10(400 / 300);
    expect((loss(400) - loss(300) + spreading) / 100).toBeCloseTo(perKm, 2);
  });

  it('costs more with each km, less with each metre, and does not jump at the horizon', () => {
    for (const water of [0, 1])
      for (const heightM of [5, 20, 100]) {
        const horizonKm = 2 * Math.sqrt(2 * EFFECTIVE_EARTH_KM) * Math.sqrt(0.001 * heightM);
        let before = 0;
        for (let km = 1; km < 3 * horizonKm; km += 0.5) {
          const loss = smoothEarthLossDb(km, heightM, heightM, 144.8, water);
          expect(loss).toBeGreaterThanOrEqual(before - 1e-6);
          expect(smoothEarthLossDb(km, heightM * 1.2, heightM, 144.8, water)).toBeLessThanOrEqual(loss + 1e-6);
          before = loss;
        }
        const jump =
          smoothEarthLossDb(horizonKm + 1e-6, heightM, heightM, 144.8, water) -
          smoothEarthLossDb(horizonKm - 1e-6, heightM, heightM, 144.8, water);
        expect(Math.abs(jump)).toBeLessThan(0.5);
      }
  });

  it('costs the same over a profile of it', () => {
    const flat = path(new Array(201).fill(0), 40, { fromM: 10, toM: 10 });
    expect(groundLossDb(flat)).toBeCloseTo(smoothEarthLossDb(40, 10, 10, 144.8, 0), 0);
  });
});

describe('any ground', () => {
  const anyGround = fc.record({
    groundM: fc.array(fc.integer({ min: 0, max: 800 }), { minLength: 3, maxLength: 60 }),
    lengthKm: fc.double({ min: 0.2, max: 80, noNaN: true }),
    fromM: fc.double({ min: 1, max: 60, noNaN: true }),
    toM: fc.double({ min: 1, max: 60, noNaN: true }),
    frequencyMHz: fc.constantFrom(50, 144.8, 433, 868),
    water: fc.constantFrom(0, 0.4, 1),
  });

  it('costs the same there and back, never less than nothing, and is always a number', () => {
    fc.assert(
      fc.property(anyGround, ({ groundM, lengthKm, fromM, toM, frequencyMHz, water }) => {
        const there = path(groundM, lengthKm, {
          fromM: groundM[0]! + fromM,
          toM: groundM.at(-1)! + toM,
          frequencyMHz,
          water,
        });
        const back = path([...groundM].reverse(), lengthKm, {
          fromM: there.toM,
          toM: there.fromM,
          frequencyMHz,
          water,
        });
        const loss = groundLossDb(there);
        expect(Number.isFinite(loss)).toBe(true);
        expect(loss).toBeGreaterThanOrEqual(0);
        expect(groundLossDb(back)).toBeCloseTo(loss, 4);
      }),
      { numRuns: 500 },
    );
  });

  it('costs more where a hill is put into it, and less from a high mast', () => {
    for (const heightM of [0, 50, 100, 200, 400]) {
      const loss = groundLossDb(path(withEdge(heightM), 20, { fromM: 30, toM: 30 }));
      expect(groundLossDb(path(withEdge(heightM + 100), 20, { fromM: 30, toM: 30 }))).toBeGreaterThan(loss);
      expect(groundLossDb(path(withEdge(heightM), 20, { fromM: 600, toM: 600 }))).toBeLessThanOrEqual(loss);
    }
  });
});
