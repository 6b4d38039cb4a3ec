/**
 * Loss by the ground between two antennas, after ITU-R P.526: a knife edge (4.1), many edges by one equivalent edge after Bullington (4.5.1),
 * corrected by the loss over the smooth earth that fits the ground ("delta-Bullington", 4.5.2 with 3.2). The equations are from memory of
 * P.526-15 and of P.1812-6, 4.3, where the same method stands; the tests hold them to exact Fresnel integrals and to each other.
 */

/** Radius of an earth over which waves run straight in the usual atmosphere, 4/3 of the real one, km. */
export const EFFECTIVE_EARTH_KM = 8500;
const LIGHT_KM_MHZ = 0.299792458;

export interface DiffractionPath {
  /** From the first antenna; the first is 0, ascending. */
  readonly distancesKm: ArrayLike<number>;
  /** Of the ground above the sea, at each distance. */
  readonly groundM: ArrayLike<number>;
  /** The antennas above the sea. */
  readonly fromM: number;
  readonly toM: number;
  readonly frequencyMHz: number;
  /** Share of the way over water, 0 to 1. */
  readonly water: number;
}

/** P.526, 4.1, eq. 31: loss in dB of one knife edge by its parameter ν; none where the way is clear. */
export const knifeEdgeLossDb = (v: number): number =>
  v <= -0.78 ? 0 : 6.9 + 20 * Math.log10(Math.sqrt((v - 0.1) ** 2 + 1) + v - 0.1);

const wavelengthM = (frequencyMHz: number): number => (LIGHT_KM_MHZ / frequencyMHz) * 1000;

/** Radius of the first Fresnel zone, m (P.526, 2): where 60 % of it is clear, the ground costs nothing. */
export const fresnelRadiusM = (fromKm: number, toKm: number, frequencyMHz: number): number =>
  Math.sqrt((wavelengthM(frequencyMHz) * 1000 * fromKm * toKm) / (fromKm + toKm));

/** How far the earth bulges above the straight line between the ends, m. */
export const bulgeM = (fromKm: number, toKm: number): number => (500 * fromKm * toKm) / EFFECTIVE_EARTH_KM;

/** P.526, 4.5.1: the whole ground as one edge; with no ground, the sea at its mean level. A million of these make a picture: nothing is allocated. */
function bullingtonDb(
  distancesKm: ArrayLike<number>,
  groundM: ArrayLike<number> | null,
  fromM: number,
  toM: number,
  frequencyMHz: number,
): number {
  const last = distancesKm.length - 1;
  const d = distancesKm[last]!;
  const wave = wavelengthM(frequencyMHz);
  const bulge = 500 / EFFECTIVE_EARTH_KM;
  let up = -Infinity;
  let down = -Infinity;
  // The root of what stands under one is left until the greatest is known: the sign decides, then the square.
  let most = -Infinity;
  for (let i = 1; i < last; i++) {
    const before = distancesKm[i]!;
    const behind = d - before;
    const raised = (groundM === null ? 0 : groundM[i]!) + bulge * before * behind;
    const fromSlope = (raised - fromM) / before;
    const toSlope = (raised - toM) / behind;
    if (fromSlope > up) up = fromSlope;
    if (toSlope > down) down = toSlope;
    const above = raised - (fromM * behind + toM * before) / d;
    const square = (above * Math.abs(above)) / (before * behind);
    if (square > most) most = square;
  }
  let v = Math.sign(most) * Math.sqrt((Math.abs(most) * 0.002 * d) / wave);
  if (up === -Infinity) return 0;
  const straight = (toM - fromM) / d;
  if (up >= straight) {
    const at = (toM - fromM + down * d) / (up + down);
    v = (fromM + up * at - (fromM * (d - at) + toM * at) / d) * Math.sqrt((0.002 * d) / (wave * at * (d - at)));
  }
  const edge = knifeEdgeLossDb(v);
  return edge + (1 - Math.exp(-edge / 6)) * (10 + 0.02 * d);
}

/** Relative permittivity and conductivity (S/m): medium ground and sea water (P.527; values from memory). */
const GROUND = { land: { permittivity: 22, conductivity: 0.003 }, water: { permittivity: 80, conductivity: 5 } };

/** P.526, 3.1.1: the first term over a smooth earth of some radius, antennas vertical. */
function firstTermDb(
  d: number,
  radiusKm: number,
  fromM: number,
  toM: number,
  frequencyMHz: number,
  { permittivity, conductivity }: { permittivity: number; conductivity: number },
): number {
  const ghz = frequencyMHz / 1000;
  const loss = (18 * conductivity) / ghz;
  const horizontal = 0.036 * (radiusKm * ghz) ** (-1 / 3) * ((permittivity - 1) ** 2 + loss ** 2) ** -0.25;
  const k = horizontal * Math.sqrt(permittivity ** 2 + loss ** 2);
  const beta = (1 + 1.6 * k ** 2 + 0.67 * k ** 4) / (1 + 4.5 * k ** 2 + 1.53 * k ** 4);
  const x = 21.88 * beta * (ghz / radiusKm ** 2) ** (1 / 3) * d;
  const distance = x >= 1.6 ? 11 + 10 * Math.log10(x) - 17.6 * x : -20 * Math.log10(x) - 5.6488 * x ** 1.425;
  const gain = (heightM: number) => {
    const b = beta * 0.9575 * beta * (ghz ** 2 / radiusKm) ** (1 / 3) * heightM;
    const raw = b > 2 ? 17.6 * Math.sqrt(b - 1.1) - 5 * Math.log10(b - 1.1) - 8 : 20 * Math.log10(b + 0.1 * b ** 3);
    return Math.max(raw, 2 + 20 * Math.log10(k));
  };
  return -distance - gain(fromM) - gain(toM);
}

/** P.526, 3.2: loss over a smooth earth at any distance, antennas so high above it. */
export function smoothEarthLossDb(
  distanceKm: number,
  fromM: number,
  toM: number,
  frequencyMHz: number,
  water: number,
): number {
  const low = Math.max(0.1, fromM);
  const other = Math.max(0.1, toM);
  const first = (radiusKm: number) =>
    (water === 0 ? 0 : water * firstTermDb(distanceKm, radiusKm, low, other, frequencyMHz, GROUND.water)) +
    (water === 1 ? 0 : (1 - water) * firstTermDb(distanceKm, radiusKm, low, other, frequencyMHz, GROUND.land));
  const inSightKm = Math.sqrt(2 * EFFECTIVE_EARTH_KM) * (Math.sqrt(0.001 * low) + Math.sqrt(0.001 * other));
  if (distanceKm >= inSightKm) return Math.max(0, first(EFFECTIVE_EARTH_KM));
  const c = (low - other) / (low + other);
  const m = (250 * distanceKm ** 2) / (EFFECTIVE_EARTH_KM * (low + other));
  const b =
    2 *
    Math.sqrt((m + 1) / (3 * m)) *
    Math.cos(Math.PI / 3 + Math.acos(((3 * c) / 2) * Math.sqrt((3 * m) / (m + 1) ** 3)) / 3);
  const before = (distanceKm / 2) * (1 + b);
  const behind = distanceKm - before;
  const clearance =
    ((low - (500 * before ** 2) / EFFECTIVE_EARTH_KM) * behind +
      (other - (500 * behind ** 2) / EFFECTIVE_EARTH_KM) * before) /
    distanceKm;
  const wanted = 17.456 * Math.sqrt((before * behind * wavelengthM(frequencyMHz)) / distanceKm);
  if (clearance > wanted) return 0;
  const marginalKm = 500 * (distanceKm / (Math.sqrt(low) + Math.sqrt(other))) ** 2;
  const loss = first(marginalKm);
  return loss < 0 ? 0 : (1 - clearance / wanted) * loss;
}

/** P.526, 4.5.2: the smooth ground that fits a profile, at either end, m above the sea. */
function smoothEnds({ distancesKm, groundM, fromM, toM }: DiffractionPath): { from: number; to: number } {
  const last = distancesKm.length - 1;
  const d = distancesKm[last]!;
  let area = 0;
  let moment = 0;
  for (let i = 1; i <= last; i++) {
    const a = distancesKm[i - 1]!;
    const b = distancesKm[i]!;
    const h = groundM[i - 1]!;
    const g = groundM[i]!;
    area += (b - a) * (g + h);
    moment += (b - a) * (g * (2 * b + a) + h * (b + 2 * a));
  }
  let from = (2 * area * d - moment) / d ** 2;
  let to = (moment - area * d) / d ** 2;
  let above = -Infinity;
  let steepest = -Infinity;
  let steepestBack = -Infinity;
  for (let i = 1; i < last; i++) {
    const di = distancesKm[i]!;
    const over = groundM[i]! - (fromM * (d - di) + toM * di) / d;
    if (over > above) above = over;
    if (over / di > steepest) steepest = over / di;
    if (over / (d - di) > steepestBack) steepestBack = over / (d - di);
  }
  if (above > 0) {
    from -= (above * steepest) / (steepest + steepestBack);
    to -= (above * steepestBack) / (steepest + steepestBack);
  }
  return { from: Math.min(from, groundM[0]!), to: Math.min(to, groundM[last]!) };
}

/** Loss in dB by the ground between two antennas, beyond that of free space. */
export function groundLossDb(path: DiffractionPath): number {
  const { distancesKm, groundM, fromM, toM, frequencyMHz, water } = path;
  const d = distancesKm[distancesKm.length - 1] ?? 0;
  if (d <= 0) return 0;
  const smooth = smoothEnds(path);
  const from = fromM - smooth.from;
  const to = toM - smooth.to;
  const flat = bullingtonDb(distancesKm, null, from, to, frequencyMHz);
  const round = smoothEarthLossDb(d, from, to, frequencyMHz, water);
  return bullingtonDb(distancesKm, groundM, fromM, toM, frequencyMHz) + Math.max(round - flat, 0);
}
