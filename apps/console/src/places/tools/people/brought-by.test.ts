import { readBroughtBy, writeBroughtBy } from './brought-by';

const others = [
  { id: 'a', name: 'Ferry Office' },
  { id: 'b', name: 'Ferry' },
  { id: 'c', name: 'Pellmund, Oskar 2' },
];
const reasonOf = (text: string) => {
  const read = readBroughtBy(text, others);
  return read.ok ? null : read.error.reason;
};

describe('who brings something, in a field', () => {
  it('is read as it is written, also where a name holds commas and figures', () => {
    const all = [
      { person: 'c', aboutMin: 20 },
      { person: 'a', aboutMin: 45 },
      { person: 'b', aboutMin: 5 },
    ];
    expect(readBroughtBy(writeBroughtBy(all, others), others)).toEqual({ ok: true, value: all });
    expect(readBroughtBy('  ferry office 45 min ;\nFERRY 5min', others)).toEqual({ ok: true, value: all.slice(1) });
    expect(readBroughtBy(' ', others)).toEqual({ ok: true, value: [] });
  });

  it('says what is missing', () => {
    expect(reasonOf('Nobody 20')).toBe('nobody of the list is called “Nobody 20”');
    for (const text of ['Ferry Office', 'Ferry Office soon', 'Ferry Office 20 Ferry 5', 'Ferry Office-20'])
      expect(reasonOf(text)).toMatch(/^behind Ferry Office: about how many minutes/);
  });

  it('leaves out who is on the list no more', () => {
    expect(writeBroughtBy([{ person: 'gone', aboutMin: 5 }], others)).toBe('');
  });
});
