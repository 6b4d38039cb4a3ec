import { XMLBuilder } from 'fast-xml-parser';

/** A station or object with where it was, for map files. */
export interface PlacedThing {
  readonly name: string;
  readonly comment: string;
  readonly meaning: string;
  readonly latitude: number;
  readonly longitude: number;
  readonly altitudeM: number | null;
  readonly at: string;
  readonly trail: readonly TrailVertex[];
}

export interface TrailVertex {
  readonly latitude: number;
  readonly longitude: number;
  readonly altitudeM: number | null;
  readonly at: string;
}

const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  format: true,
  suppressEmptyNode: true,
});

/** XML 1.0 has no way to write most control characters: they are left out (production Char, §2.2). */

const xmlText = (text: string) => text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '');
const degrees = (value: number) => value.toFixed(7);

const HEAD = { '?xml': { '@version': '1.0', '@encoding': 'UTF-8' } };

/** GPX 1.1: a waypoint each, and a track for each that moved. */
export function formatGpx(things: readonly PlacedThing[], madeAt: string): string {
  const point = (v: TrailVertex) => ({
    '@lat': degrees(v.latitude),
    // GPX 1.1, longitudeType: from −180 up to, and without, 180.
    '@lon': degrees(v.longitude >= 180 ? v.longitude - 360 : v.longitude),
    ...(v.altitudeM !== null && { ele: v.altitudeM.toFixed(1) }),
    time: v.at,
  });
  return builder.build({
    ...HEAD,
    gpx: {
      '@version': '1.1',
      '@creator': 'Tombolo',
      '@xmlns': 'http://www.topografix.com/GPX/1/1',
      metadata: { time: madeAt },
      wpt: things.map((thing) => ({
        ...point(thing),
        name: xmlText(thing.name),
        ...(thing.comment !== '' && { desc: xmlText(thing.comment) }),
        sym: thing.meaning,
      })),
      trk: things
        .filter(({ trail }) => trail.length > 1)
        .map(({ name, trail }) => ({ name: xmlText(name), trkseg: { trkpt: trail.map(point) } })),
    },
  });
}

/** KML 2.2 (OGC 07-147r2): a placemark each, and a line for each that moved. */
export function formatKml(things: readonly PlacedThing[]): string {
  const coordinates = (v: TrailVertex) =>
    `${degrees(v.longitude)},${degrees(v.latitude)}${v.altitudeM === null ? '' : `,${v.altitudeM.toFixed(1)}`}`;
  return builder.build({
    ...HEAD,
    kml: {
      '@xmlns': 'http://www.opengis.net/kml/2.2',
      Document: {
        name: 'Stations',
        Placemark: things.flatMap((thing) => [
          {
            name: xmlText(thing.name),
            ...(thing.comment !== '' && { description: xmlText(thing.comment) }),
            TimeStamp: { when: thing.at },
            Point: { coordinates: coordinates(thing) },
          },
          ...(thing.trail.length > 1
            ? [
                {
                  name: `${xmlText(thing.name)} trail`,
                  LineString: { tessellate: 1, coordinates: thing.trail.map(coordinates).join(' ') },
                },
              ]
            : []),
        ]),
      },
    },
  });
}

/** GeoJSON (RFC 7946): a point each, and a line for each that moved. */
export function formatGeoJson(things: readonly PlacedThing[]): string {
  const position = (v: TrailVertex) =>
    [v.longitude, v.latitude, ...(v.altitudeM === null ? [] : [v.altitudeM])].map((n) => Number(n.toFixed(7)));
  const features = things.flatMap((thing) => {
    const { name, comment, meaning, at, trail } = thing;
    return [
      {
        type: 'Feature',
        properties: { name, comment, meaning, at },
        geometry: { type: 'Point', coordinates: position(thing) },
      },
      ...(trail.length > 1
        ? [
            {
              type: 'Feature',
              properties: { name, times: trail.map((v) => v.at) },
              geometry: { type: 'LineString', coordinates: trail.map(position) },
            },
          ]
        : []),
    ];
  });
  return JSON.stringify({ type: 'FeatureCollection', features });
}
