import { stillThere } from './silence';

describe('a station that is silent', () => {
  it('may be off when it was heard steadily, and tells nothing when it was seldom heard', () => {
    // Once a minute for an hour.
    const habit = { count: 60, overS: 3600 };
    const after = (min: number) => stillThere({ ...habit, silentS: 60 * min });
    expect([after(0), after(1), after(3)]).toEqual([1, 1, 1]);
    expect(after(6)).toBeGreaterThan(0.8);
    expect(after(15)).toBeLessThan(0.3);
    expect(after(30)).toBeLessThan(0.01);
    for (let min = 1; min < 60; min++) expect(after(min)).toBeLessThanOrEqual(after(min - 1));
    expect(stillThere({ count: 4, overS: 3600, silentS: 9e6 })).toBe(1);
    expect(stillThere({ count: 60, overS: 60, silentS: 9e6 })).toBe(1);
    // Every ten minutes, and not for a quarter of an hour.
    expect(stillThere({ count: 12, overS: 7200, silentS: 900 })).toBe(1);
  });

  it('is there when the clock was set back', () => {
    expect(stillThere({ count: 60, overS: 3600, silentS: -500 })).toBe(1);
  });
});
