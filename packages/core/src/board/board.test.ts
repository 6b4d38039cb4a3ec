import fc from 'fast-check';
import { checkProfile } from './patterns';
import { fillTemplate, instantOfBoard, textToLeave } from './profile';
import { readLeaveAnswer, readLeft, readListing, readMessage, waitsForCommand } from './reading';
import { BOARD_PROFILES } from './profiles';

const profile = BOARD_PROFILES[0]!;
// Another board in other words: what is tested is the data, not one wording.
const other = {
  ...profile,
  id: 'other',
  prompt: '\\(Q\\)uit or command:',
  list: {
    ...profile.list,
    row: '(?<number>\\d+)\\|(?<type>P|B)\\|(?<octets>\\d+)\\|(?<from>[^|]*)\\|(?<to>[^|]*)\\|(?<key>[^|]*)\\|(?<subject>.*)',
    bulletinType: 'B',
  },
};

describe('a board', () => {
  it('is read by its profile, and by another one in other words', () => {
    const listing = readListing(
      profile,
      'unread\r\nno 17 private 213 octets from QT1NC to QT2AR-7 on 2026-11-25 07:40 key 2f1c@QT1BB-4: Blankets: 40\r\nnothing else\r\nboard ready>',
    );
    expect(listing.rows).toEqual([
      {
        number: '17',
        key: '2f1c@QT1BB-4',
        bulletin: false,
        octets: 213,
        from: 'QT1NC',
        to: 'QT2AR-7',
        at: '2026-11-25 07:40',
        subject: 'Blankets: 40',
      },
    ]);
    expect(listing.other).toEqual(['unread', 'nothing else', 'board ready>']);
    expect(readListing(other, '9|B|80|QT1NC|ALL|k9|Tides').rows[0]).toMatchObject({
      number: '9',
      bulletin: true,
      subject: 'Tides',
    });
    expect(waitsForCommand(profile, 'hello\r\nboard ready> ')).toBe(true);
    expect(waitsForCommand(profile, 'board ready>\r\nmore to come')).toBe(false);
    expect(waitsForCommand(other, 'Good day\r(Q)uit or command:')).toBe(true);
  });

  const shown = [
    'open 17',
    'message 17',
    'key 2f1c@QT1BB-4',
    'from QT1NC',
    'to QT2AR-7',
    'date 2026-11-25 07:40',
    'subject Blankets',
    'carried 2026-11-25 07:41 by QT1BB-4 as 17',
    'carried 2026-11-25 07:20 by QT6BB-4 as 3',
    '--- text',
    'Forty are short.',
    'subject not a header',
    '',
    '--- end of 7',
    '--- end of 17',
    'board ready>',
  ];
  it('shows a message whole: header, who carried it, text', () => {
    const message = readMessage(profile, '17', shown.join('\r\n'));
    expect(message).toEqual({
      ok: true,
      value: {
        number: '17',
        key: '2f1c@QT1BB-4',
        from: 'QT1NC',
        to: 'QT2AR-7',
        at: '2026-11-25 07:40',
        subject: 'Blankets',
        text: 'Forty are short.\nsubject not a header\n\n--- end of 7',
        carried: [
          { at: '2026-11-25 07:41', board: 'QT1BB-4', number: '17' },
          { at: '2026-11-25 07:20', board: 'QT6BB-4', number: '3' },
        ],
      },
    });
  });
  it('that was cut off is not taken for whole', () => {
    expect(readMessage(profile, '17', shown.slice(0, 12).join('\n'))).toMatchObject({
      ok: false,
      error: { reason: expect.stringContaining('cut off') },
    });
    expect(readMessage(profile, '17', 'no such message\r\nboard ready>')).toMatchObject({ ok: false });
  });
  it('takes or refuses what is left there, and tells what became of it', () => {
    expect(readLeaveAnswer(profile, 'kept as 18 key 2f1d@QT1BB-4\r\nboard ready>')).toMatchObject({
      kind: 'taken',
      number: '18',
      key: '2f1d@QT1BB-4',
    });
    expect(readLeaveAnswer(profile, 'not kept: no such area')).toMatchObject({
      kind: 'refused',
      reason: 'no such area',
    });
    expect(readLeaveAnswer(profile, 'hm?')).toBeNull();
    expect(readLeft(profile, 'no 18 to QT1NC read by QT1NC on 2026-11-25 08:01\nno 19 to QT6CL waiting')).toEqual([
      { number: '18', state: 'read', by: 'QT1NC', at: '2026-11-25 08:01' },
    ]);
  });
  it('cannot be made to end a text early, nor to take a second command', () => {
    expect(textToLeave(profile, 'a\n-\nb')).toEqual(['a', ' -', 'b', '-']);
    expect(fillTemplate('put private {to}', { to: 'QT1NC\r\nbye' })).toBe('put private QT1NC bye');
    fc.assert(
      fc.property(fc.string(), (text) => {
        const lines = textToLeave(profile, text);
        expect(lines.indexOf('-')).toBe(lines.length - 1);
      }),
    );
  });
  it('never makes a reader throw, whatever it sends', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 2000 }), (text) => {
        readListing(profile, text);
        readMessage(profile, '1', text);
        readLeft(profile, text);
        readLeaveAnswer(profile, text);
        waitsForCommand(profile, text);
      }),
    );
    expect(readListing(profile, 'x'.repeat(1_000_000)).rows).toEqual([]);
  });
  it('with a pattern that is none is refused with its name', () => {
    expect(checkProfile(profile).ok).toBe(true);
    expect(checkProfile({ ...profile, prompt: '(' })).toMatchObject({
      ok: false,
      error: { reason: expect.stringContaining('“prompt”') },
    });
  });
  it('with a pattern that would make a backtracking engine run for ever is read at once, and look-around is refused', () => {
    const greedy = { ...profile, prompt: '(a+)+', list: { ...profile.list, row: '(?<number>(\\d+)*) ((x|xx)+)+y' } };
    expect(checkProfile(greedy).ok).toBe(true);
    expect(waitsForCommand(greedy, `${'a'.repeat(399)}b`)).toBe(false);
    // An engine that backtracks needs 2^190 steps here.
    expect(readListing(greedy, `1 ${'x'.repeat(380)}`).rows).toEqual([]);
    expect(checkProfile({ ...profile, prompt: '(?=board)' })).toMatchObject({ ok: false });
    expect(checkProfile({ ...profile, prompt: '(b)\\1' })).toMatchObject({ ok: false });
  });

  it('does not pass for waiting because of a subject or a line that ends like its prompt', () => {
    expect(waitsForCommand(profile, 'no 1 …: board ready>')).toBe(false);
    expect(waitsForCommand(profile, 'Good day\r\nboard ready>\r\n')).toBe(true);
  });

  it('writes times in UTC', () => {
    expect(instantOfBoard('2026-11-25 07:40')).toBe('2026-11-25T07:40:00.000Z');
    expect(instantOfBoard('yesterday')).toBeNull();
  });
});
