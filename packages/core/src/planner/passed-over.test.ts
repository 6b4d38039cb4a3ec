import { withPassedOver } from './passed-over';

const HOUR = 3_600_000;
const hour = (n: number, heard: number, missed = 0, inferred = 0) => ({ atMs: n * HOUR, heard, inferred, missed });
const missedBy = (told: ReturnType<typeof withPassedOver>) =>
  told.map(({ atMs, missed }) => [atMs / HOUR, Math.round(100 * missed) / 100]);

describe('what a repeater passed over', () => {
  it('counts for part of a miss, by the hour, less what it repeated itself', () => {
    const told = withPassedOver([hour(2, 4, 1)], [[hour(1, 10), hour(2, 10)], [hour(1, 3)]], [hour(1, 5), hour(2, 5)]);
    expect(missedBy(told)).toEqual([
      [2, 1 + 6 * 0.3],
      [1, 10 * 0.3],
    ]);
    // What was heard stays as it was.
    expect(told.map(({ heard }) => heard)).toEqual([4, 0]);
  });

  it('says nothing of hours in which the repeater itself was not heard, and less where it is heard badly', () => {
    expect(withPassedOver([], [[hour(1, 10)]], [hour(2, 5)])).toEqual([]);
    expect(withPassedOver([], [[hour(1, 10)]], [hour(1, 0, 5)])).toEqual([]);
    expect(missedBy(withPassedOver([], [[hour(1, 10)]], [hour(1, 5, 5)]))).toEqual([[1, 1.5]]);
  });

  it('says nothing where it repeated as much as the others, or nobody did', () => {
    expect(withPassedOver([hour(1, 10)], [[hour(1, 0, 0, 9)]], [hour(1, 5)])).toEqual([hour(1, 10)]);
    expect(withPassedOver([], [], [hour(1, 5)])).toEqual([]);
  });
});
