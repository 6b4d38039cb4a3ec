import { secondsLeft } from './time-left';

describe('the time that a session still takes', () => {
  const begun = { stage: 'fetching', octets: 200, atMs: 10_000 };

  it('follows the pace since it was first looked at', () =>
    // 400 octets in 10 s: 40 a second, and 1 000 to go.
    expect(secondsLeft(begun, { doneOctets: 600, totalOctets: 1600 }, 20_000)).toBeCloseTo(25, 9));

  it.each([
    ['nothing came since', 200, 30_000],
    ['it has only begun', 300, 12_000],
    ['all is there', 1600, 30_000],
    ['the stage began anew', 100, 30_000],
  ])('is not told while %s', (_, doneOctets, now) =>
    expect(secondsLeft(begun, { doneOctets, totalOctets: 1600 }, now)).toBeNull(),
  );
});
