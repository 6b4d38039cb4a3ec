import type { Series, Watch } from '@tombolo/contract';
import { AT } from '../../../testing/samples';
import { inChosenUnit, watchInWords } from './wind';

const gusts = {
  quantity: 'weather:gustMph',
  name: 'Gusts',
  unit: 'm/s',
  decimals: 1,
  pace: [0.5, 2],
  points: [{ at: AT, value: 10 }],
} as Series;
const watch = {
  quantity: 'weather:gustMph',
  threshold: { when: 'above', limit: 20, withinHours: 1 },
  words: 'above 20 m/s',
} as Watch;

describe('wind in the unit of this device', () => {
  it('is told in m/s beside kilometres, in mph beside miles, in knots beside nautical miles', () => {
    expect(inChosenUnit(gusts, 'km')).toBe(gusts);
    // By the international mile of 1 609.344 m: 10 m/s are 22.369 mph.
    expect(inChosenUnit(gusts, 'mi')).toMatchObject({ unit: 'mph', points: [{ value: expect.closeTo(22.369, 3) }] });
    // By the nautical mile of 1 852 m: 10 m/s are 19.438 kn.
    const knots = inChosenUnit(gusts, 'nmi');
    expect(knots).toMatchObject({ unit: 'kn', points: [{ value: expect.closeTo(19.438, 3) }] });
    expect(knots.pace![1]).toBeCloseTo(3.888, 3);
  });

  it('leaves everything else as it is', () => {
    const pressure = { ...gusts, quantity: 'weather:pressureHpa', unit: 'hPa' } as Series;
    expect(inChosenUnit(pressure, 'mi')).toBe(pressure);
  });

  it('is watched for in that unit, too, but silence in minutes', () => {
    expect(watchInWords(watch, 'km')).toBe('above 20 m/s');
    expect(watchInWords(watch, 'mi')).toBe('above 44.7 mph');
    const silent = { ...watch, threshold: { ...watch.threshold, when: 'silent for' }, words: 'silent for 20 min' };
    expect(watchInWords(silent as Watch, 'mi')).toBe('silent for 20 min');
  });
});
