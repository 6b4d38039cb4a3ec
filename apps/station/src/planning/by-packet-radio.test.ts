import { beliefOf, DEFAULT_RETRY, MOST_TRIES, WORTH_PER_S } from '@tombolo/core';
import { byPacketRadio, type RadioTo } from './by-packet-radio';
import type { Hop } from './hops';
import { NO_TRIES, type OwnTries } from './own-tries';

const rests: Hop['rests'] = {
  from: '',
  to: '',
  chance: { chance: 0.5, low: 0.1, high: 0.9 },
  heard: 0,
  inferred: 0,
  missed: 0,
  passedOver: 0,
  heardBack: 0,
  missedBack: 0,
  lastAt: null,
  before: { chance: 0.5, words: '' },
  silence: null,
  ours: null,
};
const both = (one: string, other: string, chance: number): Hop[] =>
  [
    [one, other],
    [other, one],
  ].map(([from, to]) => ({
    from: from!,
    to: to!,
    belief: beliefOf(chance, 6),
    rests: { ...rests, from: from!, to: to! },
  }));

/** The clinic is behind two digipeaters that both hear us; a third one hears us and nobody there. */
const radio = (more: Partial<RadioTo> = {}): RadioTo => ({
  bearerId: 'radio',
  own: 'QT2AR-7',
  to: 'QT6CL',
  text: 'Ready at the pier',
  txDelayMs: 300,
  retry: DEFAULT_RETRY,
  tries: MOST_TRIES,
  worthPerS: WORTH_PER_S,
  deadlineS: null,
  queueS: 0,
  load: 0,
  neighbourhood: {
    hops: [
      ...['QT0TH-3', 'QT0BR-1', 'QT0XX-1'].flatMap((digipeater) => both('QT2AR-7', digipeater, 0.98)),
      ...both('QT0TH-3', 'QT6CL', 0.95),
      ...both('QT0BR-1', 'QT6CL', 0.9),
    ],
    repeaters: ['QT0TH-3', 'QT0BR-1', 'QT0XX-1'],
    silences: [],
    addresseeThere: 1,
    habit: null,
  },
  triesBy: () => NO_TRIES,
  repeats: { sent: new Map(), repeated: new Map() },
  theirHops: null,
  holder: { name: 'QT6CL', beyond: null },
  far: 'known',
  title: 'Packet radio to QT6CL',
  how: 'by packet radio',
  command: null,
  cautions: [],
  ...more,
});
const over = (path: string, of: RadioTo = radio()) => {
  const { candidates } = byPacketRadio(of);
  return candidates.find(({ send: { way } }) => way.by === 'packets' && way.path.join() === path)!;
};
const timesOf = (path: string, of: RadioTo) => {
  const { way } = over(path, of).send;
  return way.by === 'packets' ? way.times : undefined;
};

describe('a text by packet radio', () => {
  it('takes the channel once for each digipeater that repeats it, also for those that bring it no nearer', () => {
    const all = over('WIDE1-1');
    const one = radio();
    const alone = {
      ...one,
      neighbourhood: { ...one.neighbourhood, hops: one.neighbourhood.hops.filter(({ to }) => to !== 'QT0XX-1') },
    };
    const without = over('WIDE1-1', alone);
    // Three repeat it, or two: the tries are the same, for the third is on no way to the clinic.
    expect(all.arrives.chance).toBeCloseTo(without.arrives.chance, 6);
    expect(all.airS / without.airS).toBeCloseTo((1 + 3 * 0.98) / (1 + 2 * 0.98), 2);
  });

  it('takes less where our own packets show that not all serve what is asked for', () => {
    const packets = (count: number) => ({ count, weight: count });
    // Twenty went over high digipeaters alone, which one of the three repeated.
    const repeats = {
      sent: new Map([['WIDE2', packets(20)]]),
      repeated: new Map([['WIDE2/QT0TH-3', packets(20)]]),
    };
    const of = radio({ repeats });
    expect(over('WIDE2-1', of).airS).toBeLessThan(0.9 * over('WIDE1-1', of).airS);
    expect(over('WIDE2-1').airS).toBeCloseTo(over('WIDE1-1').airS, 6);
  });

  it('is tried as often as is set after some silence, and given up sooner after so much that nobody will answer', () => {
    const silent = (unanswered: number): OwnTries => ({
      answered: 0,
      unanswered,
      inSilence: 0,
      weight: { answered: 0, unanswered },
      lasting: { answered: 0, unanswered },
      sinceHeard: 0,
    });
    const after = (unanswered: number) =>
      radio({ triesBy: (path) => (path.join() === 'WIDE1-1' ? silent(unanswered) : NO_TRIES) });
    expect(timesOf('WIDE1-1', after(5))).toBeGreaterThanOrEqual(DEFAULT_RETRY.tries);
    expect(timesOf('WIDE1-1', radio({ triesBy: () => silent(30) }))).toBe(2);
  });

  it('is proved as surely as the answer comes over what their own packets ask for', () => {
    const far = both('QT2AR-7', 'QT6CL', 0.4);
    const of = (theirHops: number | null) => {
      const one = radio();
      return radio({
        theirHops,
        neighbourhood: { ...one.neighbourhood, hops: [...one.neighbourhood.hops, ...far] },
      });
    };
    const [unknown, none, one] = [over('', of(null)), over('', of(0)), over('', of(1))];
    expect(unknown.proof!.proven).toEqual(none.proof!.proven);
    expect(one.proof!.proven.chance).toBeGreaterThan(none.proof!.proven.chance + 0.1);
    // What arrives there is the same, and what answers sooner is sent less often.
    expect(one.arrives.chance).toBeLessThanOrEqual(none.arrives.chance);
    expect(one.airS).toBeLessThan(none.airS);
    expect([unknown, none, one].map(({ answer }) => answer)).toEqual([
      { hops: 0, known: false },
      { hops: 0, known: true },
      { hops: 1, known: true },
    ]);
  });

  it('is the less likely to arrive, when they may be away, the more was sent since they were heard', () => {
    const of = (addresseeThere: number, sinceHeard: number) => {
      const one = radio();
      return radio({
        neighbourhood: { ...one.neighbourhood, addresseeThere },
        triesBy: (path) => (path.join() === 'WIDE1-1' ? { ...NO_TRIES, sinceHeard } : NO_TRIES),
      });
    };
    const chance = (there: number, sinceHeard: number) => over('WIDE1-1', of(there, sinceHeard)).works!;
    expect(chance(0.5, 3)).toBeLessThan(0.6 * chance(0.5, 0));
    // As much as if they were there and did not answer.
    expect(chance(1, 3)).toBeLessThan(chance(1, 0));
    expect(chance(0.5, 3) / chance(0.5, 0)).toBeLessThan(chance(1, 3) / chance(1, 0));
  });
});
