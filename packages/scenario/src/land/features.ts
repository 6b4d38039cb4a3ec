import { contours } from 'd3-contour';
import type { Feature, FeatureCollection, LineString, MultiPolygon, Position } from 'geojson';
import type { HeightGrid } from './heights';

const CONTOURS_M = [50, 100, 200, 300, 400];

interface Place {
  readonly name: string;
  readonly at: readonly [latitude: number, longitude: number];
  readonly rank: 'island' | 'town' | 'spot';
}

export const PLACES: readonly Place[] = [
  { name: 'Hollin', at: [41.228, -43.47], rank: 'island' },
  { name: 'Great Skerra', at: [41.2605, -43.315], rank: 'island' },
  { name: 'Little Skerra', at: [41.2895, -43.244], rank: 'island' },
  { name: 'Oxbar', at: [41.1635, -43.342], rank: 'island' },
  { name: 'Veil', at: [41.1125, -43.525], rank: 'island' },
  { name: 'The Stacks', at: [41.2255, -43.2], rank: 'island' },
  { name: 'Hollinport', at: [41.207, -43.421], rank: 'town' },
  { name: 'Skerra school', at: [41.269, -43.285], rank: 'town' },
  { name: 'Tarn Head 412 m', at: [41.2425, -43.456], rank: 'spot' },
  { name: 'Beacon Rigg 188 m', at: [41.2655, -43.296], rank: 'spot' },
  { name: 'Pump house', at: [41.169, -43.348], rank: 'spot' },
  { name: 'Clinic', at: [41.1197, -43.5094], rank: 'spot' },
  { name: 'Farm', at: [41.285, -43.248], rank: 'spot' },
];

/** Roads by the points they lead through; the supply truck follows the first. */
const ROADS: readonly {
  readonly name: string;
  readonly flooded: boolean;
  readonly through: readonly (readonly [number, number])[];
}[] = [
  {
    name: 'Harbour road',
    flooded: false,
    through: [
      [41.2075, -43.4235],
      [41.2195, -43.433],
      [41.2308, -43.4395],
      [41.2231, -43.4076],
      [41.1985, -43.3905],
    ],
  },
  {
    name: 'Tarn lane',
    flooded: false,
    through: [
      [41.2308, -43.4395],
      [41.238, -43.446],
      [41.2425, -43.456],
    ],
  },
  {
    name: 'West road',
    flooded: false,
    through: [
      [41.2075, -43.4235],
      [41.2105, -43.448],
      [41.2165, -43.476],
    ],
  },
  {
    name: 'Oxbar causeway',
    flooded: true,
    through: [
      [41.1985, -43.3905],
      [41.185, -43.371],
      [41.169, -43.348],
    ],
  },
  {
    name: 'Skerra road',
    flooded: false,
    through: [
      [41.258, -43.304],
      [41.2645, -43.29],
      [41.269, -43.285],
      [41.2725, -43.2765],
    ],
  },
  {
    name: 'Rigg track',
    flooded: false,
    through: [
      [41.2645, -43.29],
      [41.2655, -43.296],
    ],
  },
  {
    name: 'Veil road',
    flooded: false,
    through: [
      [41.1215, -43.5165],
      [41.1208, -43.5135],
      [41.1197, -43.5094],
      [41.1235, -43.5045],
    ],
  },
];

const round = (n: number) => Math.round(n * 1e5) / 1e5;

/** A curve through the points (centripetal enough at this spacing: Catmull–Rom), with a little unsteadiness of the ground. */
function curve(through: readonly (readonly [number, number])[]): Position[] {
  const line: Position[] = [];
  const at = (i: number) => through[Math.max(0, Math.min(through.length - 1, i))]!;
  for (let i = 0; i < through.length - 1; i++) {
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    for (let step = 0; step < 8; step++) {
      const t = step / 8;
      const mix = (k: 0 | 1) =>
        0.5 *
        (2 * b[k] +
          (c[k] - a[k]) * t +
          (2 * a[k] - 5 * b[k] + 4 * c[k] - d[k]) * t ** 2 +
          (3 * b[k] - a[k] - 3 * c[k] + d[k]) * t ** 3);
      line.push([round(mix(1)), round(mix(0))]);
    }
  }
  const [latitude, longitude] = through.at(-1)!;
  return [...line, [longitude, latitude]];
}

/** Coast, heights, roads and names as one GeoJSON collection; `kind` tells how a feature is drawn (docs/formats.md). */
export function makeFeatures(grid: HeightGrid): FeatureCollection {
  const { columns, rows, heightsM, west, south, stepDeg } = grid;
  const lines = contours().size([columns, rows]).smooth(true);
  // The library counts the middle of the first cell as a half.
  const toDegrees = ([x = 0, y = 0]: Position): Position => [
    round(west + (x - 0.5) * stepDeg),
    round(south + (y - 0.5) * stepDeg),
  ];
  const shape = (level: number): MultiPolygon => ({
    type: 'MultiPolygon',
    coordinates: lines
      .contour([...heightsM], level)
      .coordinates.map((polygon) => polygon.map((ring) => ring.map(toDegrees)))
      // Single stones in the water are left out.
      .filter(([outer]) => outer!.length > 8),
  });
  const land: Feature<MultiPolygon> = { type: 'Feature', properties: { kind: 'land' }, geometry: shape(0) };
  const heights = CONTOURS_M.map((level): Feature<MultiPolygon> => ({
    type: 'Feature',
    properties: { kind: 'height', heightM: level },
    geometry: shape(level),
  }));
  const roads = ROADS.map(({ name, flooded, through }): Feature<LineString> => ({
    type: 'Feature',
    properties: { kind: flooded ? 'road closed' : 'road', name },
    geometry: { type: 'LineString', coordinates: curve(through) },
  }));
  const places = PLACES.map(({ name, at, rank }): Feature => ({
    type: 'Feature',
    properties: { kind: 'place', rank, name },
    geometry: { type: 'Point', coordinates: [at[1], at[0]] },
  }));
  return { type: 'FeatureCollection', features: [land, ...heights, ...roads, ...places] };
}
