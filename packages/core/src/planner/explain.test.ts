import { aboutTime, explainWay, ofHundred, type Explained } from './explain';

const way = (more: Partial<Explained> = {}): Explained => ({
  how: 'by packet radio, direct',
  arrives: { chance: 0.854, low: 0.6, high: 0.97 },
  ninetyS: 40,
  proven: { spread: { chance: 0.72, low: 0.4, high: 0.9 }, by: 'an acknowledgement', until: null },
  receptions: 14,
  lastAgoS: 200,
  answered: 2,
  unanswered: 1,
  otherwise: null,
  ...more,
});

describe('a way in two sentences', () => {
  it('tells what it comes to and what that rests on', () => {
    expect(explainWay(way())).toEqual([
      'By packet radio, direct: about 85 of 100 arrive, nine of ten of these within 40 s; 72 of 100 are proved by an acknowledgement.',
      'It rests on 14 receptions, the last 3 min ago and 3 tries of our own, 2 answered.',
    ]);
  });

  it('says of what somebody hands on how far it is proved', () => {
    const service = {
      spread: { chance: 0.75, low: 0.4, high: 0.9 },
      by: 'an acknowledgement from POSTBX',
      until: 'POSTBX',
    };
    expect(explainWay(way({ arrives: { chance: 0.69, low: 0.4, high: 0.9 }, proven: service }))[0]).toBe(
      'By packet radio, direct: about 69 of 100 arrive, nine of ten of these within 40 s; 75 of 100 are proved as far as POSTBX.',
    );
  });

  it('says when it is a guess, and when nothing would prove it', () => {
    const guess = way({ receptions: 0, lastAgoS: null, answered: 0, unanswered: 0, proven: null, ninetyS: null });
    expect(explainWay(guess)).toEqual([
      'By packet radio, direct: about 85 of 100 arrive; nothing would prove it.',
      'A guess: by the map alone, nothing was heard of this way yet.',
    ]);
    expect(explainWay({ ...guess, otherwise: 'no session with QT1BB-4 was held yet' })[1]).toBe(
      'A guess: no session with QT1BB-4 was held yet.',
    );
    expect(explainWay(way({ receptions: 1, lastAgoS: null, answered: 0, unanswered: 1 }))[1]).toBe(
      'It rests on 1 reception and 1 try of our own, 0 answered.',
    );
  });

  it('promises nothing and gives nothing up', () => {
    expect([0, 0.004, 0.5, 0.999, 1].map(ofHundred)).toEqual([1, 1, 50, 99, 99]);
    expect([0.2, 40, 100, 4000, 5400, 86_400].map(aboutTime)).toEqual([
      '1 s',
      '40 s',
      '2 min',
      '67 min',
      '2 h',
      '24 h',
    ]);
  });
});
