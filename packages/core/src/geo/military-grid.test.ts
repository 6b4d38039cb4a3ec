import fc from 'fast-check';
import { bearingBetween } from './geodesic';
import { gridOf, positionOfGrid } from './military-grid';
import { geoConvert } from './testing/geo-convert';

describe('the military grid', () => {
  const PLACES = [
    [40.6413, -73.7781],
    [41.269, -43.285],
    [-34.91, -56.21166],
    [59.95, 10.75],
    [78.2, 15.6],
    [0.0005, 0.0005],
    [-79.9, 179.9],
  ] as const;

  it('is that of GeoConvert, to the metre', () => {
    const theirs = geoConvert(PLACES, '-m', '-p', '0');
    expect(PLACES.map(([latitude, longitude]) => gridOf({ latitude, longitude })!.replaceAll(' ', ''))).toEqual(theirs);
  });

  it('is read back to within its digits', () => {
    for (const [latitude, longitude] of PLACES) {
      const text = gridOf({ latitude, longitude })!;
      const read = positionOfGrid(text)!;
      expect(read.withinM).toBe(0.5);
      expect(bearingBetween({ latitude, longitude }, read.position).distanceKm * 1000).toBeLessThan(1.5);
    }
    // The same with fewer digits, as it is spoken.
    expect(positionOfGrid('18T XK 033 996')).toMatchObject({ withinM: 50 });
    expect(positionOfGrid('18txk09')).toMatchObject({ withinM: 5000 });
  });

  it('is not there near the poles, and nothing else is taken for one', () => {
    expect(gridOf({ latitude: 85, longitude: 0 })).toBeNull();
    for (const text of [
      '',
      'GN81ig',
      '61T XK 03319 99656',
      '18T XK 03319 9965',
      '18I XK 0 9',
      '18T XK',
      '18T OK 0 9',
      '0T XK 0 9',
    ])
      expect([text, positionOfGrid(text)]).toEqual([text, null]);
    fc.assert(
      fc.property(fc.string(), (text) => void positionOfGrid(text)),
      { numRuns: 500 },
    );
  });
});
