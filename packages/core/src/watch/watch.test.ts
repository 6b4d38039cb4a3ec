import { judge, thresholdInWords, type Threshold } from './threshold';
import { trendPerHour, trendWord, type Reading } from './trend';
import { WEATHER_QUANTITIES, weatherQuantity } from './quantities';

const HOUR = 3_600_000;
const series = (...values: number[]): Reading[] => values.map((value, i) => ({ atMs: i * HOUR, value }));

describe('trends', () => {
  // A straight line has its own slope; the second set is the textbook case (1,1) (2,3) (3,2): slope 0.5.
  it('are the least-squares slope per hour', () => {
    expect(trendPerHour(series(10, 12, 14, 16), 0)).toBeCloseTo(2, 12);
    expect(trendPerHour(series(1, 3, 2), 0)).toBeCloseTo(0.5, 12);
    expect(trendPerHour(series(9, 9, 1, 2, 3), 2 * HOUR)).toBeCloseTo(1, 12);
    expect(trendPerHour(series(1, 2), 0)).toBeNull();
    expect(
      trendPerHour(
        [1, 2, 3].map((value) => ({ atMs: 0, value })),
        0,
      ),
    ).toBeNull();
  });
  it('have words', () => {
    expect([0.1, 0.5, 3, -0.5, -3].map((slope) => trendWord(slope, 0.3, 1))).toEqual([
      'steady',
      'rising',
      'rising fast',
      'falling',
      'falling fast',
    ]);
  });
});

describe('thresholds', () => {
  const now = { nowMs: 4 * HOUR, sinceMs: 0 };
  const threshold = (when: Threshold['when'], limit: number, withinHours = 2): Threshold => ({
    when,
    limit,
    withinHours,
  });
  it('compare the newest value, and go off only when it is well back', () => {
    expect(judge(threshold('above', 20), series(25, 19), false, now)).toEqual({ raised: false, compared: 19 });
    expect(judge(threshold('above', 20), series(25, 19), true, now)).toEqual({ raised: true, compared: 19 });
    expect(judge(threshold('above', 20), series(25, 17.9), true, now)?.raised).toBe(false);
    expect(judge(threshold('above', 20), series(20.1), false, now)?.raised).toBe(true);
    expect(judge(threshold('below', 990), series(989), false, now)?.raised).toBe(true);
    expect(judge(threshold('below', 990), series(991), false, now)?.raised).toBe(false);
    expect(judge(threshold('above', 1), [], false, now)).toBeNull();
  });
  it('compare the change within some hours', () => {
    const rising = threshold('rises by', 0.3);
    expect(judge(rising, series(1, 1.1, 1.2, 1.45), false, now)).toEqual({
      raised: true,
      compared: expect.closeTo(0.35, 9),
    });
    expect(judge(rising, series(1, 1.3, 1.3, 1.3), false, now)?.raised).toBe(false);
    expect(judge(threshold('falls by', 3, 3), series(1000, 999, 998, 996), false, now)?.raised).toBe(true);
    expect(judge(threshold('falls by', 3, 1), series(1000, 999, 998, 996), false, now)?.raised).toBe(false);
  });
  it('say themselves in words', () => {
    expect(thresholdInWords(threshold('above', 20), 'm/s')).toBe('above 20 m/s');
    expect(thresholdInWords(threshold('rises by', 0.3), 'm')).toBe('rises by 0.3 m within 2 h');
  });
  it('of silence count from the last reading, or from when somebody began to listen', () => {
    const silent = threshold('silent for', 30);
    const readings = series(1, 2);
    const at = (minutesAfterLast: number, sinceMs = 0) => ({ nowMs: HOUR + minutesAfterLast * 60_000, sinceMs });
    expect(judge(silent, readings, false, at(29))).toEqual({ raised: false, compared: 29 });
    expect(judge(silent, readings, false, at(30))).toEqual({ raised: true, compared: 30 });
    // The program was started twenty minutes ago: before that nobody would have heard it.
    expect(judge(silent, readings, false, at(300, HOUR + 280 * 60_000))).toEqual({ raised: false, compared: 20 });
    expect(judge(silent, [], false, at(30, HOUR))).toEqual({ raised: true, compared: 30 });
    expect(judge(silent, [], false, at(29, HOUR))?.raised).toBe(false);
  });
  it('of silence end by a reading alone', () => {
    const silent = threshold('silent for', 30);
    const restarted = { nowMs: HOUR, sinceMs: HOUR };
    expect(judge(silent, [], true, restarted)?.raised).toBe(true);
    expect(judge(silent, series(1, 2), true, restarted)?.raised).toBe(false);
    expect(judge(silent, series(1), true, restarted)?.raised).toBe(true);
  });
});

describe('quantities of the weather', () => {
  // Exact by definition: 1 mph = 0.44704 m/s, 1 in = 25.4 mm; 32 °F = 0 °C, 212 °F = 100 °C.
  it('convert from the units of the format', () => {
    expect(weatherQuantity('windMph')?.convert(100)).toBeCloseTo(44.704, 9);
    expect(weatherQuantity('temperatureF')?.convert(212)).toBeCloseTo(100, 9);
    expect(weatherQuantity('temperatureF')?.convert(32)).toBe(0);
    expect(weatherQuantity('rainHourIn100')?.convert(100)).toBeCloseTo(25.4, 9);
    expect(weatherQuantity('nothing')).toBeUndefined();
    for (const { pace } of WEATHER_QUANTITIES) expect(pace[0]).toBeLessThan(pace[1]);
  });
});
