import { z } from 'zod';
import { instant } from './traffic';

/** `heights` is a tile of elevation: not drawn, but reckoned with. */
export const mapKind = z.enum(['geojson', 'pmtiles', 'heights']);
export type MapKind = z.infer<typeof mapKind>;

/** Largest map file that is taken, octets; larger GeoJSON than the second belongs into tiles. */
export const MOST_MAP_OCTETS = 1024 * 1024 * 1024;
export const MOST_GEOJSON_OCTETS = 24 * 1024 * 1024;

export const mapQuery = z.object({ name: z.string().trim().min(1).max(120), kind: mapKind });

/** A map file of the operator's own. */
export const mapView = z.object({
  id: z.uuid(),
  name: z.string(),
  kind: mapKind,
  octets: z.number(),
  createdAt: instant,
});
export type MapView = z.infer<typeof mapView>;

const number = z.number();
const point = z.array(number).min(2);
const geometry: z.ZodType = z.lazy(() =>
  z.discriminatedUnion('type', [
    z.object({ type: z.literal('Point'), coordinates: point }),
    z.object({ type: z.literal('MultiPoint'), coordinates: z.array(point) }),
    z.object({ type: z.literal('LineString'), coordinates: z.array(point).min(2) }),
    z.object({ type: z.literal('MultiLineString'), coordinates: z.array(z.array(point).min(2)) }),
    z.object({ type: z.literal('Polygon'), coordinates: z.array(z.array(point).min(4)) }),
    z.object({ type: z.literal('MultiPolygon'), coordinates: z.array(z.array(z.array(point).min(4))) }),
    z.object({ type: z.literal('GeometryCollection'), geometries: z.array(geometry) }),
  ]),
);
const feature = z.object({
  type: z.literal('Feature'),
  geometry: geometry.nullable(),
  properties: z.record(z.string(), z.unknown()).nullable(),
});
/** What is taken as GeoJSON (RFC 7946). */
export const geoJson = z.discriminatedUnion('type', [
  z.object({ type: z.literal('FeatureCollection'), features: z.array(feature) }),
  feature,
]);
