import { octetsOfText } from '../octets';
import {
  joinParts,
  nextSet,
  oneSpaced,
  readAskedAgain,
  readPart,
  splitText,
  textsOfParts,
  writeAskedAgain,
  type Part,
} from './parts';

/** Numbers that are the same in every run. */
function random(seed: number) {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}
const partsOf = (text: string, most = 67) => {
  const split = splitText(text, 'a', most);
  if (!split.ok) throw new Error(split.error.reason);
  return split.value;
};
const read = (texts: readonly string[]): Part[] => texts.map((text) => readPart(text)!);
const TEXT =
  'The generator runs for 6 hours more. We need 40 vials of insulin, kept below 8 degrees, and somebody who can carry two people down the stairs. The bridge at the mill is under water.';

describe('a text in parts', () => {
  it('is cut between words, each part within its octets, and stays whole where it fits', () => {
    expect(partsOf(TEXT)).toEqual([
      '(1/4a) The generator runs for 6 hours more. We need 40 vials of',
      '(2/4a) insulin, kept below 8 degrees, and somebody who can carry',
      '(3/4a) two people down the stairs. The bridge at the mill is under',
      '(4/4a) water.',
    ]);
    expect(partsOf('Short enough')).toEqual(['Short enough']);
    expect(partsOf('x'.repeat(67))).toEqual(['x'.repeat(67)]);
  });

  it('cuts a word that fits no part between characters, and says so', () => {
    const parts = partsOf(`See ${'é'.repeat(80)} now`);
    expect(parts[0]).toBe('(1/4a) See');
    expect(parts.slice(1).map((part) => /^\(\d\/4a\+?\)/.exec(part)![0])).toEqual(['(2/4a)', '(3/4a+)', '(4/4a+)']);
    expect(joinParts(read(parts)).text).toBe(`See ${'é'.repeat(80)} now`);
    // A family of four is one character of 25 octets.
    const family = '👨‍👩‍👧‍👦';
    const families = partsOf(family.repeat(9));
    expect(families.every((part) => octetsOfText(part).length <= 67)).toBe(true);
    expect(read(families).every(({ text }) => text.length % family.length === 0)).toBe(true);
  });

  it('is refused when it is empty or would be more than nine', () => {
    expect(splitText('  \n ', 'a', 67)).toMatchObject({ ok: false });
    expect(splitText('word '.repeat(108), 'a', 67)).toMatchObject({ ok: true });
    expect(splitText('word '.repeat(109), 'a', 67)).toMatchObject({
      ok: false,
      error: { reason: expect.stringContaining('9 parts') },
    });
    expect(splitText('x'.repeat(5000), 'a', 67)).toMatchObject({ ok: false });
    expect(splitText('👨‍👩‍👧‍👦👨‍👩‍👧‍👦', 'a', 30)).toMatchObject({ ok: false });
  });

  it('comes out as it was, in any order, with any part twice, and without one says which', () => {
    const next = random(5);
    const letters = ['a', 'be', 'sea', 'ä', '雨', '👍🏽', 'x'.repeat(70), '(2/3a)', 'again 1/2a', '+'];
    for (let round = 0; round < 400; round++) {
      const text = Array.from(
        { length: 2 + Math.floor(next() * 40) },
        () => letters[Math.floor(next() * letters.length)],
      ).join(next() < 0.2 ? '  \n' : ' ');
      const most = 40 + Math.floor(next() * 160);
      const split = splitText(text, 'k', most);
      if (!split.ok || split.value.length === 1) continue;
      for (const part of split.value) expect(octetsOfText(part).length).toBeLessThanOrEqual(most);
      const parts = read(split.value);
      const mixed = [...parts, ...parts.filter(() => next() < 0.5)].sort(() => next() - 0.5);
      expect(joinParts(mixed)).toMatchObject({ text: oneSpaced(text), missing: [] });
      const lost = 1 + Math.floor(next() * parts.length);
      expect(joinParts(mixed.filter(({ n }) => n !== lost))).toMatchObject({ text: null, missing: [lost] });
    }
  });

  it('shows what is there and where something is missing', () => {
    const parts = read(partsOf(TEXT));
    expect(joinParts([parts[3]!, parts[0]!])).toEqual({
      text: null,
      shown: 'The generator runs for 6 hours more. We need 40 vials of … … water.',
      missing: [2, 3],
    });
    expect(joinParts([])).toEqual({ text: null, shown: '', missing: [] });
  });

  it('is told from whatever else is written', () => {
    for (const text of [
      '',
      '(1/2)',
      '(1/2) hello',
      '(3/2a) hello',
      '(0/2a) x',
      '(1/1a) x',
      '(1/2A) x',
      ' (1/2a) x',
      '(1/2a)x',
      '(1/2a) ',
    ])
      expect(readPart(text)).toBeNull();
    expect(readPart('(2/4b+) rest {')).toEqual({ n: 2, of: 4, set: 'b', glued: true, text: 'rest {' });
  });

  it('is told from the next one with the same letter', () => {
    const at = (minute: number, text: string) => ({ ...readPart(text)!, atMs: minute * 60_000 });
    const texts = (...parts: [number, string][]) =>
      textsOfParts(parts.map(([minute, text]) => at(minute, text))).map((one) => joinParts(one).shown);
    expect(texts([0, '(2/2a) two'], [1, '(1/2a) One'], [2, '(1/2a) One'])).toEqual(['One two']);
    // Its program was started anew.
    expect(texts([0, '(1/2a) One'], [1, '(2/2a) two'], [30, '(2/2a) four'], [31, '(1/2a) Three'])).toEqual([
      'One two',
      'Three four',
    ]);
    expect(texts([0, '(1/2a) One'], [61, '(2/2a) four'])).toEqual(['One …', '… four']);
    expect(texts([0, '(1/2a) One'], [1, '(2/3a) two'])).toEqual(['One …', '… two …']);
    expect(textsOfParts([])).toEqual([]);
  });

  it('is asked for again by number', () => {
    expect(writeAskedAgain({ set: 'c', of: 5, wanted: [2, 4] })).toBe('again 2,4/5c');
    expect(readAskedAgain('again 2,4/5c')).toEqual({ set: 'c', of: 5, wanted: [2, 4] });
    expect(readAskedAgain(' Again 4,2,4/5C ')).toEqual({ set: 'c', of: 5, wanted: [2, 4] });
    for (const text of [
      'again',
      'again 6/5c',
      'again 2/5',
      'again 2,/5c',
      'say again 2/5c',
      'again 0/5c',
      'again 2/5c please',
    ])
      expect(readAskedAgain(text)).toBeNull();
  });

  it('has the next letter of the alphabet, and begins again behind the last', () => {
    expect([null, 'a', 'y', 'z'].map(nextSet)).toEqual(['a', 'b', 'z', 'a']);
  });
});
