import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { check } from '@placemarkio/check-geojson';
import { formatGeoJson, formatGpx, formatKml, type PlacedThing } from './places';

let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'places-'))));
afterAll(() => rmSync(folder, { recursive: true }));

const at = (minutes: number) => new Date(Date.UTC(2026, 10, 25, 14, minutes)).toISOString();
const truck: PlacedThing = {
  name: 'QT3TK-14',
  comment: 'Supplies <b>&"\u0007\u202e]]>',
  meaning: 'truck',
  latitude: 41.2195,
  longitude: -43.433,
  altitudeM: 30,
  at: at(4),
  trail: [0, 2, 4].map((minutes) => ({
    latitude: 41.2075 + minutes * 0.003,
    longitude: -43.4235 - minutes * 0.002,
    altitudeM: minutes === 2 ? null : 30,
    at: at(minutes),
  })),
};
const house: PlacedThing = { ...truck, name: 'QT1NC', comment: '', meaning: 'house', altitudeM: null, trail: [] };

/** A general converter of map files (gpsbabel) reads ours and writes what it understood as plain text. */
function babel(format: string, text: string, what: '-w' | '-t'): string {
  const file = join(folder, `things.${format}`);
  writeFileSync(file, text);
  return execFileSync('gpsbabel', [what, '-i', format, '-f', file, '-o', 'unicsv,utc=0', '-F', '-'], {
    encoding: 'utf8',
  });
}

describe('stations and trails as map files', () => {
  it('are read by a general converter from GPX', () => {
    const text = formatGpx([truck, house], at(5));
    const points = babel('gpx', text, '-w');
    expect(points).toContain('QT3TK-14');
    expect(points).toContain('41.219500');
    expect(points).toContain('-43.433000');
    const trail = babel('gpx', text, '-t').trim().split('\n').slice(1);
    expect(trail).toHaveLength(3);
    expect(trail[2]).toContain('14:04:00');
  });
  it('are read by a general converter from KML', () => {
    const text = formatKml([truck, house]);
    expect(babel('kml', text, '-w')).toContain('QT3TK-14');
    expect(babel('kml', text, '-t')).toContain('41.207500');
  });
  it('are well-formed XML, whatever a stranger wrote', () => {
    for (const [name, text] of [
      ['a.gpx', formatGpx([truck], at(5))],
      ['a.kml', formatKml([truck])],
    ] as const) {
      const file = join(folder, name);
      writeFileSync(file, text);
      expect(() => execFileSync('xmllint', ['--noout', file], { stdio: 'pipe' })).not.toThrow();
      expect(text).toContain('&lt;b&gt;');
    }
    expect(formatGpx([], at(5))).toContain('<gpx');
  });
  it('are GeoJSON to a validator of it', () => {
    const collection = check(formatGeoJson([truck, house])) as unknown as {
      features: { properties: { name: string }; geometry: { type: string; coordinates: number[] } }[];
    };
    expect(collection.features.map(({ geometry }) => geometry.type)).toEqual(['Point', 'LineString', 'Point']);
    expect(collection.features[0]!.geometry.coordinates).toEqual([-43.433, 41.2195, 30]);
    expect(() => check('{"type":"Feature"}')).toThrow();
  });
});
