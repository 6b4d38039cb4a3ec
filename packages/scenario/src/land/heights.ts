import { createNoise } from './noise';

/** Elevation of the district on a grid, row by row from the south-west corner. */
export interface HeightGrid {
  readonly west: number;
  readonly south: number;
  readonly stepDeg: number;
  readonly columns: number;
  readonly rows: number;
  /** Metres above the sea; below zero is water. */
  readonly heightsM: readonly number[];
}

/** A hill: its top, its height, and how far it reaches to the east and to the north, km. */
interface Hill {
  readonly at: readonly [latitude: number, longitude: number];
  readonly heightM: number;
  readonly eastKm: number;
  readonly northKm: number;
}

const HILLS: readonly Hill[] = [
  // Hollin: Tarn Head and the low land to the harbour and toward the bar.
  { at: [41.2425, -43.456], heightM: 430, eastKm: 2.6, northKm: 2.1 },
  { at: [41.2235, -43.428], heightM: 130, eastKm: 4.2, northKm: 2.6 },
  { at: [41.2065, -43.404], heightM: 95, eastKm: 3.2, northKm: 1.7 },
  { at: [41.2335, -43.398], heightM: 150, eastKm: 2.2, northKm: 1.6 },
  { at: [41.2195, -43.482], heightM: 90, eastKm: 1.8, northKm: 1.9 },
  // Great Skerra with Beacon Rigg, and the village beneath it.
  { at: [41.2655, -43.296], heightM: 205, eastKm: 1.5, northKm: 1.2 },
  { at: [41.2705, -43.283], heightM: 75, eastKm: 1.6, northKm: 1.1 },
  { at: [41.2575, -43.305], heightM: 70, eastKm: 1.2, northKm: 1.1 },
  // Little Skerra, Oxbar, Veil, the Stacks.
  { at: [41.2855, -43.2475], heightM: 70, eastKm: 1.0, northKm: 0.8 },
  { at: [41.1685, -43.3475], heightM: 62, eastKm: 1.3, northKm: 0.9 },
  { at: [41.1215, -43.5125], heightM: 95, eastKm: 1.4, northKm: 1.2 },
  { at: [41.113, -43.5215], heightM: 55, eastKm: 1.1, northKm: 0.9 },
  { at: [41.2302, -43.2004], heightM: 60, eastKm: 0.28, northKm: 0.22 },
  { at: [41.2275, -43.2075], heightM: 52, eastKm: 0.2, northKm: 0.25 },
];

/** Summits whose height the scenario tells. */
const SUMMITS = [
  { at: [41.2425, -43.456], heightM: 412 },
  { at: [41.2655, -43.296], heightM: 188 },
] as const;

const SEA_FLOOR_M = -34;
const KM_PER_DEGREE = 111.2;
const BOUNDS = { west: -43.62, south: 41.06, stepDeg: 0.002, columns: 236, rows: 131 };

/** The ground of Hollin Sound, made up: hills, and noise that breaks their outlines. */
export function makeHeights(seed = 'Hollin Sound'): HeightGrid {
  const noise = createNoise(seed);
  const narrow = Math.cos((41.2 * Math.PI) / 180);
  const km = (latitude: number, longitude: number, at: readonly [number, number]) => ({
    north: (latitude - at[0]) * KM_PER_DEGREE,
    east: (longitude - at[1]) * KM_PER_DEGREE * narrow,
  });
  const ground = (latitude: number, longitude: number): number => {
    let height = SEA_FLOOR_M;
    for (const hill of HILLS) {
      const { north, east } = km(latitude, longitude, hill.at);
      height += hill.heightM * Math.exp(-((north / hill.northKm) ** 2) - (east / hill.eastKm) ** 2);
    }
    const rough = noise(longitude * 95, latitude * 125);
    // Hills are rougher than beaches.
    return height + rough * (14 + Math.max(0, height) * 0.16);
  };
  const corrections = SUMMITS.map(({ at, heightM }) => ({ at, byM: heightM - ground(at[0], at[1]) }));
  const heightsM: number[] = [];
  for (let row = 0; row < BOUNDS.rows; row++)
    for (let column = 0; column < BOUNDS.columns; column++) {
      const latitude = BOUNDS.south + row * BOUNDS.stepDeg;
      const longitude = BOUNDS.west + column * BOUNDS.stepDeg;
      let height = ground(latitude, longitude);
      for (const { at, byM } of corrections) {
        const { north, east } = km(latitude, longitude, at);
        height += byM * Math.exp(-(north * north + east * east));
      }
      // Never −0, which a file does not keep.
      heightsM.push(Math.round(height) + 0);
    }
  return { ...BOUNDS, heightsM };
}

/** Height at a point, between the four grid points around it; below zero outside. */
export function heightAt(grid: HeightGrid, latitude: number, longitude: number): number {
  const x = (longitude - grid.west) / grid.stepDeg;
  const y = (latitude - grid.south) / grid.stepDeg;
  const [i, j] = [Math.floor(x), Math.floor(y)];
  if (i < 0 || j < 0 || i >= grid.columns - 1 || j >= grid.rows - 1) return SEA_FLOOR_M;
  const at = (di: number, dj: number) => grid.heightsM[(j + dj) * grid.columns + i + di]!;
  const [u, v] = [x - i, y - j];
  return (at(0, 0) * (1 - u) + at(1, 0) * u) * (1 - v) + (at(0, 1) * (1 - u) + at(1, 1) * u) * v;
}

/** Whether a place is on dry land. */
export const isLand = (grid: HeightGrid, latitude: number, longitude: number): boolean =>
  heightAt(grid, latitude, longitude) > 0;
