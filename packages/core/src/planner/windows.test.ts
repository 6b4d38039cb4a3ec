import { arrivalOf, expectedS } from './arrival';
import { findWays, type Crossing } from './search';
import { nextWindowMs, openingOf } from './windows';

const at = (time: string) => Date.parse(`2026-05-14T${time}:00Z`);
const next = (everyMin: number, fromMin: number, time: string) =>
  new Date(nextWindowMs({ everyMin, fromMin }, at(time))).toISOString().slice(0, 16);

describe('windows by a timetable', () => {
  it('open at their minutes, also at the very moment', () => {
    expect(next(20, 5, '12:00')).toBe('2026-05-14T12:05');
    expect(next(20, 5, '12:05')).toBe('2026-05-14T12:05');
    expect(next(20, 5, '12:06')).toBe('2026-05-14T12:25');
    expect(next(60, 0, '23:59')).toBe('2026-05-15T00:00');
    // Named by any of them.
    expect(next(360, 13 * 60, '12:00')).toBe('2026-05-14T13:00');
    expect(next(360, 13 * 60, '02:00')).toBe('2026-05-14T07:00');
  });

  it('begin anew with the day, and once a day is tomorrow when it is past', () => {
    expect(next(1440, 6 * 60, '07:00')).toBe('2026-05-15T06:00');
    expect(next(1000, 0, '17:00')).toBe('2026-05-15T00:00');
  });

  it('never open earlier for what comes later', () => {
    const opens = openingOf({ everyMin: 17, fromMin: 4 }, at('11:11'));
    let last = -Infinity;
    for (let s = 0; s < 2 * 86_400; s += 97) {
      const opensS = opens(s);
      expect(opensS).toBeGreaterThanOrEqual(s);
      expect(opensS).toBeGreaterThanOrEqual(last);
      last = opensS;
    }
  });
});

// A plan of contacts by hand, after the earliest arrival of schedule-aware routing (CCSDS 734.3-B-1; from memory).
describe('a message over boards with windows', () => {
  const now = at('12:00');
  const crossing = (from: string, to: string, tookS: number, more: Partial<Crossing> = {}): Crossing => ({
    ...{ id: `${from}>${to}`, from, to, airS: 1, proof: 0, hands: 0 },
    arrival: arrivalOf([{ atS: tookS, chance: 1 }]),
    ...more,
  });

  it('arrives by the road whose windows meet, though its first hop is slower', () => {
    const contacts = [
      // Left at A after a minute; A forwards at 12:30 and each hour from then, to C, which forwards at 12:20 and each hour.
      crossing('us', 'A', 60),
      crossing('A', 'C', 120, { opensAt: openingOf({ everyMin: 60, fromMin: 30 }, now) }),
      crossing('C', 'far', 60, { opensAt: openingOf({ everyMin: 60, fromMin: 20 }, now) }),
      // Left at B after ten minutes; B forwards at 12:15 to D, which forwards at 12:40.
      crossing('us', 'B', 600),
      crossing('B', 'D', 120, { opensAt: openingOf({ everyMin: 60, fromMin: 15 }, now) }),
      crossing('D', 'far', 60, { opensAt: openingOf({ everyMin: 60, fromMin: 40 }, now) }),
    ];
    const { ways } = findWays(contacts, 'us', 'far', { deadlineS: 86_400, mostCrossings: 3 });
    const fastest = ways.reduce((a, b) => (expectedS(a.arrival)! <= expectedS(b.arrival)! ? a : b));
    expect(fastest.crossings.map(({ id }) => id)).toEqual(['us>B', 'B>D', 'D>far']);
    // 12:41; the other road would arrive at 13:21.
    expect(expectedS(fastest.arrival)).toBeCloseTo(41 * 60, 6);
  });
});
