import { degreesInWords } from '../aprs/position/report';
import { readDecimal, readWhole } from './number';
import { readPosition, readTypedPosition } from './position';

describe('numbers as they are typed', () => {
  it.each([
    ['1000', 1000],
    [' 1 000 ', 1000],
    ['1\u202f000\u202f000', 1_000_000],
    ['1,000', 1000],
    ['−3', -3],
    ['+7', 7],
  ])('%j is the whole number %d', (text, value) => expect(readWhole(text)).toBe(value));
  it.each(['', '1.5', '1,5', '10 00', '1,00', '0x10', '1e3', 'ten', 'Infinity'])('%j is no whole number', (text) =>
    expect(readWhole(text)).toBeNaN(),
  );
  it.each([
    ['146.52', 146.52],
    ['146,520', 146.52],
    ['144', 144],
    [',5', 0.5],
    ['−1.5', -1.5],
  ])('%j is the decimal number %d', (text, value) => expect(readDecimal(text)).toBe(value));
  it.each(['', '1.2.3', '1,000.5', '1 000', '0x10', '1e3', 'NaN', '--1'])('%j is no decimal number', (text) =>
    expect(readDecimal(text)).toBeNaN(),
  );
});

describe('positions as they are typed', () => {
  // The same point in the forms of ISO 6709, annex D (from memory): 50° 40′ 46.461″ N, 95° 48′ 26.533″ W.
  it.each([
    ['50°40′46,461″N 095°48′26,533″W', 50.679573, -95.80737],
    ['50° 40.774′ N 95° 48.442′ W', 50.679567, -95.807367],
    ['50.679573, -95.807370', 50.679573, -95.80737],
    ['50.679573 -95.80737', 50.679573, -95.80737],
    ['50,679573; -95,80737', 50.679573, -95.80737],
    ['N 50 40 46.461 W 95 48 26.533', 50.679573, -95.80737],
    ['50.679573N, 95.80737W', 50.679573, -95.80737],
    ['33 25 38 S, 95 48 26.533 W', -33.427222, -95.80737],
    ['N 33 25m 38s W 95 48m 26.533s', 33.427222, -95.80737],
    ['50°N95.80737°W', 50, -95.80737],
    ["50 40.774'n 95 48.442'w", 50.679567, -95.807367],
  ])('%s', (text, latitude, longitude) => {
    const position = readPosition(text)!;
    expect(position.latitude).toBeCloseTo(latitude, 5);
    expect(position.longitude).toBeCloseTo(longitude, 5);
  });

  it('are those that the chart shows', () => {
    for (const [latitude, longitude] of [
      [41.269, -43.285],
      [-0.5, 179.9999],
      [89.99, -0.0123],
      [-33.4273, -112.129],
    ] as const) {
      const shown = `${degreesInWords(latitude, 'N', 'S')} ${degreesInWords(longitude, 'E', 'W')}`;
      const position = readPosition(shown)!;
      // Hundredths of a minute.
      expect(Math.abs(position.latitude - latitude)).toBeLessThan(0.0001);
      expect(Math.abs(position.longitude - longitude)).toBeLessThan(0.0001);
    }
  });

  it('may be a locator', () => expect(readPosition('GN81ig')).not.toBeNull());
  it('may be zone, easting and northing, and is not taken for degrees', () => {
    const { position, withinM } = readTypedPosition('23T 643648 4570037')!;
    expect(position.latitude).toBeCloseTo(41.269, 4);
    expect(position.longitude).toBeCloseTo(-43.285, 4);
    expect(withinM).toBe(0.5);
  });

  it.each([
    '',
    '91 0',
    '0 181',
    '41 61 N 43 0 W',
    '41.5 30 N 43 0 W',
    '41 N 43 N',
    '41 E 43 N',
    'N41N W43W',
    '41',
    'somewhere',
    '41.269',
    '<script>',
  ])('%j is none', (text) => expect(readPosition(text)).toBeNull());
  it('costs no time, whatever is typed', () => expect(readPosition('1 '.repeat(20_000))).toBeNull());

  // By hand: half a step of the last digit, a degree of latitude being 111.195 km; at 60° a degree across is half of that.
  it.each([
    ['60, 20', 55_597],
    ['60.1 20.1', 5560],
    ['60.12345, 20.12345', 0.556],
    ['60° 7.4′ N 20° 7.4′ E', 92.7],
    ['60° 7′ N 20° 7.4′ E', 926.6],
    ['60° 7′ 24″ N 20° 7′ 24″ E', 15.4],
    ['KP00', 55_597],
    ['KP00aa', 2316.6],
    ['34V ET 12345 12345', 0.5],
  ])('%s says the place to within %d m', (text, withinM) => {
    const { withinM: within } = readTypedPosition(text)!;
    expect(Math.abs(within / withinM - 1)).toBeLessThan(0.01);
  });
});
