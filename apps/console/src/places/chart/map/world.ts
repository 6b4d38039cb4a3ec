import { feature, mesh } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';
import type { FeatureCollection, MultiLineString, Position } from 'geojson';

/** A ring that jumps over the antimeridian is drawn on beyond ±180°, so that no line runs around the world. */
export function unwrapRing(ring: readonly Position[]): Position[] {
  let turn = 0;
  let before: number | null = null;
  return ring.map(([x = 0, y = 0]) => {
    if (before !== null) {
      if (x - before > 180) turn -= 360;
      else if (before - x > 180) turn += 360;
    }
    before = x;
    return [x + turn, y];
  });
}

/** Land and borders of the world at 1:50 million (Natural Earth, public domain), in degrees. */
export async function loadWorld(): Promise<{ land: FeatureCollection; borders: MultiLineString }> {
  const topology = (await import('world-atlas/countries-50m.json')).default as unknown as Topology<{
    countries: GeometryCollection;
    land: GeometryCollection;
  }>;
  const land = feature(topology, topology.objects.land);
  const features = land.features.map((one) => {
    const { geometry } = one;
    if (geometry.type === 'Polygon')
      return { ...one, geometry: { ...geometry, coordinates: geometry.coordinates.map(unwrapRing) } };
    if (geometry.type === 'MultiPolygon')
      return {
        ...one,
        geometry: { ...geometry, coordinates: geometry.coordinates.map((polygon) => polygon.map(unwrapRing)) },
      };
    return one;
  });
  const borders = mesh(topology, topology.objects.countries as never, (a, b) => a !== b);
  return { land: { ...land, features }, borders };
}
