import { fromLonLat } from 'ol/proj';
import fc from 'fast-check';
import { AT, heardStation } from '../../testing/samples';
import { mergeStations } from '../../live/queries';
import { countFilters, NO_FILTER, passes, type StationFilter } from './filter';
import { measureWords } from './map-pane';
import { trailCoordinates } from './map/trail-coordinates';
import { unwrapRing } from './map/world';
import { mapKindOf } from './maps-place';
import { directCandidate } from './calling-place';
import { meaningOf, SYMBOL_ICONS } from './symbols';
import { whereWords } from '../../ui/quantity';
import { motionWords } from './words';

const NOW = Date.parse(AT) + 60_000;
const shows = (filter: Partial<StationFilter>, more: Parameters<typeof heardStation>[0] = {}) =>
  passes(heardStation(more), { ...NO_FILTER, ...filter }, NOW);

describe('the filter of the chart', () => {
  it('tells kinds apart', () => {
    expect(shows({ kind: 'weather' })).toBe(false);
    expect(shows({ kind: 'weather' }, { weatherAt: AT })).toBe(true);
    expect(shows({ kind: 'moving' })).toBe(true);
    expect(shows({ kind: 'moving' }, { speedKnots: 0, moves: 1 })).toBe(false);
    expect(shows({ kind: 'moving' }, { positionAt: new Date(NOW - 2 * 3_600_000).toISOString() })).toBe(false);
    expect(shows({ kind: 'digipeaters' }, { relaysAt: AT })).toBe(true);
    expect(shows({ kind: 'digipeaters' })).toBe(false);
    expect(shows({ kind: 'objects' }, { kind: 'object', call: ';RAMP' })).toBe(true);
    expect(shows({ kind: 'objects' }, { kind: 'node', call: '01D1-0003' })).toBe(false);
    expect(shows({ kind: 'nodes' }, { kind: 'node', call: '01D1-0003' })).toBe(true);
    expect(shows({ kind: 'nodes' }, {})).toBe(false);
    expect(shows({ kind: 'direct' }, { directAt: AT })).toBe(true);
    expect(shows({ kind: 'direct' }, { directAt: new Date(NOW - 2 * 3_600_000).toISOString() })).toBe(false);
  });
  it('goes by distance, age, bearer and words', () => {
    expect(shows({ withinKm: 10 })).toBe(false);
    expect(shows({ withinKm: 14 })).toBe(true);
    expect(shows({ withinKm: 14 }, { distanceKm: null })).toBe(false);
    expect(shows({ withinMin: 10 })).toBe(true);
    expect(shows({ withinMin: 0.5 })).toBe(false);
    expect(shows({ bearerId: 'feed' })).toBe(false);
    expect(shows({ text: ' supPLIES ' })).toBe(true);
    expect(shows({ text: 'generator' }, { note: 'Has the generator' })).toBe(true);
    expect(shows({ text: 'nothing' })).toBe(false);
    expect(countFilters({ ...NO_FILTER, withinKm: 5, hidden: true })).toBe(2);
  });
  it('hides muted ones and objects that were taken off, unless asked for', () => {
    for (const more of [{ muted: true }, { live: false }]) {
      expect(shows({}, more)).toBe(false);
      expect(shows({ hidden: true }, more)).toBe(true);
    }
  });
});

describe('words of the chart', () => {
  it('say where, how fast and at what place', () => {
    const station = heardStation();
    expect(whereWords(station, 'km')).toBe('14 km WSW (249°)');
    expect(whereWords(station, 'nmi')).toBe('7.3 nmi WSW (249°)');
    expect(whereWords({ distanceKm: null, azimuthDeg: null }, 'km')).toBeNull();
    expect(motionWords(station, 'km')).toBe('toward SSE (157°) at 33 km/h');
    expect(motionWords({ courseDeg: null, speedKnots: 0 }, 'km')).toBe('standing');
  });
  it('measure there and back', () => {
    const [a, b] = [
      { latitude: 41.269, longitude: -43.285 },
      { latitude: 41.2195, longitude: -43.433 },
    ];
    expect(measureWords([], 'km')).toContain('where to measure from');
    expect(measureWords([a!], 'km')).toBe('From GN81ig. Tap where to measure to.');
    expect(measureWords([a!, b!], 'km')).toBe('14 km, 246° WSW there, 66° ENE back (true north)');
  });
  it('draw each meaning, and a digipeater that is known from paths alone', () => {
    expect(meaningOf(heardStation())).toBe('truck');
    expect(meaningOf(heardStation({ symbol: null, relaysAt: AT }))).toBe('digipeater');
    expect(meaningOf(heardStation({ symbol: null }))).toBe('other');
    expect(meaningOf(heardStation({ symbol: null, kind: 'node' }))).toBe('node');
    expect(new Set(Object.values(SYMBOL_ICONS)).size).toBe(Object.keys(SYMBOL_ICONS).length);
  });
  it('leave out who cannot answer a voice', () => {
    expect(directCandidate(heardStation()).attended).toBe(true);
    expect(directCandidate(heardStation({ symbol: '/_' })).attended).toBe(false);
    expect(directCandidate(heardStation({ relaysAt: AT })).attended).toBe(false);
  });
  it('know map files by their names', () => {
    expect(['a.GeoJSON', 'b.json', 'c.pmtiles', 'N41W044.HGT', 'd.zip'].map(mapKindOf)).toEqual([
      'geojson',
      'geojson',
      'pmtiles',
      'heights',
      null,
    ]);
  });
});

describe('coordinates of the map', () => {
  // The outside check: the projection of the map library.
  it('project trails as the map library does', () => {
    const degrees = fc.record({
      x: fc.integer({ min: -17_900_000, max: 17_900_000 }),
      y: fc.integer({ min: -8_400_000, max: 8_400_000 }),
    });
    fc.assert(
      fc.property(degrees, ({ x, y }) => {
        const { flat, ends } = trailCoordinates([{ call: 'A', steps: [x, y, 10, -20] }]);
        const first = fromLonLat([x / 1e5, y / 1e5]);
        const second = fromLonLat([(x + 10) / 1e5, (y - 20) / 1e5]);
        [...first, ...second].forEach((value, i) => expect(Math.abs(flat[i]! - value!)).toBeLessThan(0.01));
        expect(ends).toEqual([4]);
      }),
    );
  });
  it('draw rings over the antimeridian in one piece', () => {
    const ring = unwrapRing([
      [179, 0],
      [-179, 1],
      [-178, 2],
      [179, 3],
    ]);
    expect(ring.map(([x]) => x)).toEqual([179, 181, 182, 179]);
  });
});

describe('stations that changed', () => {
  it('take the place of those before, the last heard first', () => {
    const before = [heardStation({ call: 'A', lastAt: AT }), heardStation({ call: 'B', lastAt: AT })];
    const later = new Date(NOW).toISOString();
    const merged = mergeStations(before, [heardStation({ call: 'B', lastAt: later, comment: 'new' })]);
    expect(merged.map(({ call, comment }) => `${call} ${comment}`)).toEqual(['B new', 'A Supplies']);
    expect(mergeStations(before, [])).toEqual(before);
  });
});
