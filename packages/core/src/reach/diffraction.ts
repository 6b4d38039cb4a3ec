/**
 * Loss by the ground between two antennas, after ITU-R P.526: a knife edge (4.1), many edges by one equivalent edge after Bullington (4.5.1),
 * corrected by the loss over the smooth earth that fits the ground ("delta-Bullington", 4.5.2 with 3.2). The equations are from memory of
 * P.526-15 and of P.1812-6, 4.3, where the same method stands; the tests hold them to exact Fresnel integrals and to each other.
 */

/** Radius of an earth over which waves run straight in the usual atmosphere, 4/3 of the real one, km. */
export const EFFECTIVE_EARTH_KM = 8500;
const LIGHT_KM_MHZ = 0.299792458;

export interface DiffractionPath {
  readonly distanceKm: number;
  /** Of the ground above the sea, evenly spaced from the first antenna to the other. */
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

let kept = new Float64Array(0);
/** 1/n for each n up to `most`: profiles are walked a million times for a picture, and a division takes longer than all the rest of a step. */
function inverses(most: number): Float64Array {
  if (kept.length <= most) kept = Float64Array.from({ length: most + 1 }, (_, n) => 1 / n);
  return kept;
}

/** What a walk along a profile finds, in metres for each step; counted in steps from the first antenna. */
interface Walked {
  /** Steepest line from either antenna to the ground on the bulging earth. */
  readonly up: number;
  readonly down: number;
  /** Most that the ground itself stands above the straight line, and the steepest line to such a point, over that line, from either end. */
  readonly above: number;
  readonly steepest: number;
  readonly steepestBack: number;
}

function walk(groundM: ArrayLike<number>, fromM: number, toM: number, bulge: number): Walked {
  const last = groundM.length - 1;
  const inverse = inverses(last);
  const straight = (toM - fromM) * inverse[last]!;
  let up = -Infinity;
  let down = -Infinity;
  let above = -Infinity;
  let steepest = -Infinity;
  let steepestBack = -Infinity;
  for (let i = 1; i < last; i++) {
    const ground = groundM[i]!;
    const over = ground - fromM - straight * i;
    const before = over * inverse[i]!;
    const behind = over * inverse[last - i]!;
    // Over the bulge the same lines are steeper by what is still to go.
    const fromSlope = before + straight + bulge * (last - i);
    const toSlope = behind - straight + bulge * i;
    if (fromSlope > up) up = fromSlope;
    if (toSlope > down) down = toSlope;
    if (over > above) above = over;
    if (before > steepest) steepest = before;
    if (behind > steepestBack) steepestBack = behind;
  }
  return { up, down, above, steepest, steepestBack };
}

/** The steepest line from an antenna to the sea between, m for each step: concave along the way, so that its top lies beside that of the curve. */
function seaSlope(heightM: number, last: number, bulge: number): number {
  const slope = (i: number) => bulge * (last - i) - heightM / i;
  const top = heightM <= 0 ? 1 : Math.floor(Math.sqrt(heightM / bulge));
  const within = (i: number) => Math.max(1, Math.min(last - 1, i));
  return Math.max(slope(within(top)), slope(within(top + 1)));
}

/** P.526, 4.5.1, in sight: the greatest parameter ν of any point; with no ground, of the sea. */
function clearestV(
  groundM: ArrayLike<number> | null,
  last: number,
  d: number,
  fromM: number,
  toM: number,
  waveM: number,
): number {
  const inverse = inverses(last);
  const step = d / last;
  const bulge = (500 / EFFECTIVE_EARTH_KM) * step ** 2;
  const straight = (toM - fromM) / last;
  // The root is left until the greatest is known: the sign decides, then the square.
  let most = -Infinity;
  for (let i = 1; i < last; i++) {
    const above = (groundM === null ? 0 : groundM[i]!) + bulge * i * (last - i) - fromM - straight * i;
    const square = above * Math.abs(above) * inverse[i]! * inverse[last - i]!;
    if (square > most) most = square;
  }
  return (Math.sign(most) * Math.sqrt((Math.abs(most) * 0.002 * d) / waveM)) / step;
}

/** P.526, 4.5.1, out of sight: ν of the one edge where the steepest lines of both antennas meet, m for each km. */
function meetingV(up: number, down: number, d: number, fromM: number, toM: number, waveM: number): number {
  const at = (toM - fromM + down * d) / (up + down);
  return (fromM + up * at - (fromM * (d - at) + toM * at) / d) * Math.sqrt((0.002 * d) / (waveM * at * (d - at)));
}

/** P.526, 4.5.1: what the one edge costs, and what is added for the many that it stands for. */
function bullingtonDb(v: number, d: number): number {
  const edge = knifeEdgeLossDb(v);
  return edge + (1 - Math.exp(-edge / 6)) * (10 + 0.02 * d);
}

/** Relative permittivity and conductivity (S/m): medium ground and sea water (P.527; values from memory). */
const LAND = { permittivity: 22, conductivity: 0.003 };
const SEA = { permittivity: 80, conductivity: 5 };

/** What of P.526, 3.1.1, depends on the frequency alone: the surface admittance for an earth of 1 km, and the cube root of the frequency in GHz. */
interface Surface {
  readonly admittance: number;
  readonly rootGhz: number;
}

/** Vertical polarisation (eq. 16 from eq. 15). */
function surfaceOf({ permittivity, conductivity }: typeof LAND, frequencyMHz: number): Surface {
  const ghz = frequencyMHz / 1000;
  const loss = (18 * conductivity) / ghz;
  const rootGhz = Math.cbrt(ghz);
  const horizontal = (0.036 / rootGhz) * ((permittivity - 1) ** 2 + loss ** 2) ** -0.25;
  return { admittance: horizontal * Math.sqrt(permittivity ** 2 + loss ** 2), rootGhz };
}

let surfaces = { frequencyMHz: NaN, land: surfaceOf(LAND, 1), sea: surfaceOf(SEA, 1) };
/** Both surfaces at a frequency; those asked for last are kept, since a picture is of one. */
function surfacesAt(frequencyMHz: number): typeof surfaces {
  if (surfaces.frequencyMHz !== frequencyMHz)
    surfaces = { frequencyMHz, land: surfaceOf(LAND, frequencyMHz), sea: surfaceOf(SEA, frequencyMHz) };
  return surfaces;
}

/** P.526, 3.1.1: the first term over a smooth earth of some radius, antennas vertical. */
function firstTermDb(d: number, radiusKm: number, fromM: number, toM: number, surface: Surface): number {
  const rootRadius = Math.cbrt(radiusKm);
  const k = surface.admittance / rootRadius;
  const square = k * k;
  const beta = (1 + square * (1.6 + 0.67 * square)) / (1 + square * (4.5 + 1.53 * square));
  const x = ((21.88 * beta * surface.rootGhz) / (rootRadius * rootRadius)) * d;
  const distance = x >= 1.6 ? 11 + 10 * Math.log10(x) - 17.6 * x : -20 * Math.log10(x) - 5.6488 * x ** 1.425;
  const perMetre = (beta * 0.9575 * beta * surface.rootGhz * surface.rootGhz) / rootRadius;
  const least = 2 + 20 * Math.log10(k);
  return -distance - heightGainDb(perMetre * fromM, least) - heightGainDb(perMetre * toM, least);
}

/** P.526, 3.1.1: what an antenna gains by its height, dB, as a length B (eq. 18), but no less than near the ground. */
function heightGainDb(b: number, leastDb: number): number {
  const db = b > 2 ? 17.6 * Math.sqrt(b - 1.1) - 5 * Math.log10(b - 1.1) - 8 : 20 * Math.log10(b + 0.1 * b * b * b);
  return db > leastDb ? db : leastDb;
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
  const { land, sea } = surfacesAt(frequencyMHz);
  const first = (radiusKm: number) =>
    (water === 0 ? 0 : water * firstTermDb(distanceKm, radiusKm, low, other, sea)) +
    (water === 1 ? 0 : (1 - water) * firstTermDb(distanceKm, radiusKm, low, other, land));
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
function smoothEnds(groundM: ArrayLike<number>, { above, steepest, steepestBack }: Walked): [from: number, to: number] {
  const last = groundM.length - 1;
  const first = groundM[0]!;
  const end = groundM[last]!;
  // v₁ and v₂ of the recommendation for even steps: each inner point counts in the pieces before and behind it.
  let area = 0;
  let moment = 0;
  for (let i = 1; i < last; i++) {
    area += groundM[i]!;
    moment += i * groundM[i]!;
  }
  area = 2 * area + first + end;
  moment = 6 * moment + first + (3 * last - 1) * end;
  let from = (2 * area * last - moment) / last ** 2;
  let to = (moment - area * last) / last ** 2;
  if (above > 0) {
    from -= (above * steepest) / (steepest + steepestBack);
    to -= (above * steepestBack) / (steepest + steepestBack);
  }
  return [Math.min(from, first), Math.min(to, end)];
}

/** Loss in dB by the ground between two antennas, beyond that of free space. A million of these make a picture: nothing is allocated. */
export function groundLossDb({ distanceKm, groundM, fromM, toM, frequencyMHz, water }: DiffractionPath): number {
  const d = distanceKm;
  const last = groundM.length - 1;
  if (d <= 0 || last < 1) return 0;
  const waveM = wavelengthM(frequencyMHz);
  const step = d / last;
  const bulge = (500 / EFFECTIVE_EARTH_KM) * step ** 2;
  const walked = walk(groundM, fromM, toM, bulge);
  const smooth = smoothEnds(groundM, walked);
  const low = fromM - smooth[0];
  const other = toM - smooth[1];
  const round = smoothEarthLossDb(d, low, other, frequencyMHz, water);
  if (last < 2) return round;
  const loss = (ground: ArrayLike<number> | null, from: number, to: number, up: number, down: number): number =>
    bullingtonDb(
      up * last >= to - from
        ? meetingV(up / step, down / step, d, from, to, waveM)
        : clearestV(ground, last, d, from, to, waveM),
      d,
    );
  const own = loss(groundM, fromM, toM, walked.up, walked.down);
  if (round <= 0) return own;
  return own + Math.max(0, round - loss(null, low, other, seaSlope(low, last, bulge), seaSlope(other, last, bulge)));
}
