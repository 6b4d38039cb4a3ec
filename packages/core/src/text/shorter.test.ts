import { execFileSync } from 'node:child_process';
import { shorten } from './shorten';
import { transliterate } from './transliterate';

describe('plain letters', () => {
  it('are those of the Unicode standard without their marks, for every letter of the Latin blocks', () => {
    // Python's unicodedata has the decomposition tables of the Unicode Character Database.
    const said = execFileSync('python3', [
      '-c',
      `import unicodedata, json
out = []
for code in list(range(0xa0, 0x250)) + list(range(0x1e00, 0x1f00)):
    letter = chr(code)
    if not unicodedata.category(letter).startswith('L'): continue
    plain = ''.join(c for c in unicodedata.normalize('NFKD', letter) if unicodedata.category(c) != 'Mn')
    if plain.isascii() and plain: out.append([letter, plain])
print(json.dumps(out))`,
    ]);
    const table = JSON.parse(String(said)) as [string, string][];
    expect(table.length).toBeGreaterThan(500);
    expect(table.filter(([letter, plain]) => transliterate(letter).text !== plain)).toEqual([]);
    // The same letters with their marks apart.
    expect(table.filter(([letter, plain]) => transliterate(letter.normalize('NFD')).text !== plain)).toEqual([]);
  });

  it('say what changed, and what nothing stands for', () => {
    expect(transliterate('Größe 5 µm – 12 °C, “naïve” 👍🏽 ⚠️ {x|y}')).toEqual({
      text: 'Grosse 5 um - 12 degC, "naive" OK caution (x/y)',
      changed: expect.arrayContaining([
        { from: 'ß', to: 'ss' },
        { from: 'ö', to: 'o' },
        { from: '👍🏽', to: 'OK' },
        { from: '{', to: '(' },
      ]),
      lost: [],
    });
    expect(transliterate('Да 雨 👨‍👩‍👧‍👦')).toMatchObject({ text: '?? ? ?', changed: [], lost: ['Д', 'а', '雨', '👨‍👩‍👧‍👦'] });
    expect(transliterate('plain [text] \\ ^ `_`')).toEqual({ text: 'plain [text] \\ ^ `_`', changed: [], lost: [] });
    expect(transliterate('two\r\nlines\there')).toMatchObject({ text: 'two lines here', changed: [], lost: [] });
  });

  it('come out of anything, and stay as they are the second time', () => {
    const hostile = ['\u0000', '\ud800', '\u202e', '\u0301', 'a\u0301\u0302\u0303'.repeat(50), '\ufdfa', '\u200d', '́'];
    for (const text of hostile) {
      const { text: plain } = transliterate(text);
      expect(plain).toMatch(/^[ -z]*$/);
      expect(transliterate(plain).text).toBe(plain);
    }
  });
});

describe('abbreviations', () => {
  const list = [
    { long: 'please', short: 'pls' },
    { long: 'north', short: 'N' },
    { long: 'north east', short: 'NE' },
    { long: 'with', short: 'w/' },
  ];
  it('take whole words, the longest first, and leave all else', () => {
    expect(shorten('Please go North  East, then north; with-out please!', list)).toBe(
      'pls go NE, then N; with-out pls!',
    );
    expect(shorten('Northern pleased', list)).toBe('Northern pleased');
    expect(shorten('  please ', list)).toBe('  pls ');
    expect(shorten('', list)).toBe('');
    expect(shorten('please', [])).toBe('please');
  });
  it('of a long text take no longer than it is long', () => {
    expect(shorten('please '.repeat(20_000), list)).toBe('pls '.repeat(20_000));
    expect(shorten('north '.repeat(3), [...list, { long: 'constructor', short: '!' }])).toBe('N N N ');
  });
});
