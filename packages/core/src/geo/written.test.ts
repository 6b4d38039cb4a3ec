import { degreesAndMinutes, writtenForms } from './written';

describe('a point in the forms that people write', () => {
  it('is the same in each', () =>
    // By hand: 0.269° are 16.14′, and 0.14′ are 8.4″; 0.285° are 17.1′.
    expect(writtenForms({ latitude: 41.269, longitude: -43.285 }).map(({ text }) => text)).toEqual([
      '41° 16.140′ N, 43° 17.100′ W',
      '41.26900, -43.28500',
      '41° 16′ 8.4″ N, 43° 17′ 6.0″ W',
      'GN81ig',
      // Both by GeoConvert of GeographicLib.
      '23T PF 43648 70037',
      '23T 643648 4570037',
    ]));

  it('carries over what rounds up, and never says 60 minutes or seconds', () => {
    expect(writtenForms({ latitude: 40.9999999, longitude: 0 }).map(({ text }) => text)[2]).toBe(
      '41° 0′ 0.0″ N, 0° 0′ 0.0″ E',
    );
    expect(degreesAndMinutes({ latitude: 41.2195, longitude: -43.99999999 })).toBe('41° 13.170′ N, 44° 0.000′ W');
  });
});
