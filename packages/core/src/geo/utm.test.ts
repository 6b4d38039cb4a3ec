import fc from 'fast-check';
import { bearingBetween } from './geodesic';
import { positionOfUtm, utmOf } from './utm';
import { geoConvert } from './testing/geo-convert';

const numbersOf = (text: string): readonly [zone: number, easting: number, northing: number] => {
  const [zone = '', easting, northing] = text.split(' ');
  return [parseInt(zone, 10), Number(easting), Number(northing)];
};

/** Both halves, both sides of the equator and of the zones, and the zones that are wider than others. */
const PLACES: readonly (readonly [latitude: number, longitude: number])[] = [
  [40.6413, -73.7781],
  [41.269, -43.285],
  [-34.91, -56.21166],
  [59.95, 10.75],
  [60.4, 5.3],
  [78.2, 15.6],
  [83.9, -120.2],
  [0.0005, 0.0005],
  [-0.0005, 179.9],
  [-79.9, 179.9],
  ...Array.from({ length: 160 }, (_, i) => [-79 + i, -179 + ((i * 37) % 358)] as const),
];

describe('the grid of zone, easting and northing', () => {
  it('is that of GeoConvert, to the metre', () => {
    const theirs = geoConvert(PLACES, '-u', '-p', '3');
    PLACES.forEach(([latitude, longitude], i) => {
      const [zone, easting, northing] = numbersOf(utmOf({ latitude, longitude })!);
      const [theirZone, theirEasting, theirNorthing] = numbersOf(theirs[i]!);
      expect(zone).toBe(theirZone);
      // Ours is the metre below; the library that projects is good to a few millimetres.
      expect(theirEasting - easting).toBeGreaterThan(-0.01);
      expect(theirEasting - easting).toBeLessThan(1.01);
      expect(theirNorthing - northing).toBeGreaterThan(-0.01);
      expect(theirNorthing - northing).toBeLessThan(1.01);
    });
  });

  it('is read back to the metre', () => {
    for (const [latitude, longitude] of PLACES) {
      const read = positionOfUtm(utmOf({ latitude, longitude })!)!;
      expect(read.withinM).toBe(0.5);
      expect(bearingBetween({ latitude, longitude }, read.position).distanceKm * 1000).toBeLessThan(1.5);
    }
    expect(positionOfUtm('18t 603319mE, 4499656mN')!.position).toEqual(positionOfUtm('18T 603319 4499656')!.position);
  });

  it('takes the letter for the band, and nothing else for a place', () => {
    // In the band S, north of the equator, whatever the letter may mean elsewhere.
    expect(positionOfUtm('32S 500000 3900000')!.position.latitude).toBeCloseTo(35.24, 1);
    for (const text of [
      '',
      'GN81ig',
      '18T XK 03319 99656',
      '61T 603319 4499656',
      '0T 603319 4499656',
      '18I 603319 4499656',
      '18T 603319',
      '18T 60331 4499656',
      '18T 3319 4499656',
      // Not in that band.
      '18S 603319 4499656',
      '18T 603319 449965',
      '18G 603319 14499656',
      '18T 950000 4499656',
    ])
      expect([text, positionOfUtm(text)]).toEqual([text, null]);
    fc.assert(
      fc.property(fc.stringMatching(/^\d{1,2}[A-Z] \d{6} \d{1,8}$/), (text) => void positionOfUtm(text)),
      { numRuns: 500 },
    );
  });

  it('is not there near the poles', () => expect(utmOf({ latitude: 86, longitude: 0 })).toBeNull());
});
