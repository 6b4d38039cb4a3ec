import fc from 'fast-check';
import { checkPhrase, fillPhrase, PHRASE_VARIABLES, variablesOf, withPhrase, type PhraseKnown } from './phrases';

const NOTHING = Object.fromEntries(PHRASE_VARIABLES.map((name) => [name, null])) as unknown as PhraseKnown;

describe('a phrase', () => {
  it('has its variables put in, and names what is not known', () => {
    const known = { ...NOTHING, call: 'QT2AR-7', time: '1405Z' };
    expect(fillPhrase('{call} checking in {time}', known)).toEqual({ text: 'QT2AR-7 checking in 1405Z', missing: [] });
    expect(fillPhrase('Need {number} blankets at {place}', known)).toEqual({
      text: 'Need {number} blankets at {place}',
      missing: ['number', 'place'],
    });
    expect(variablesOf('{time} {call} {time}')).toEqual(['time', 'call']);
  });

  it('is refused where it could not be sent, or names what nobody knows', () => {
    expect(checkPhrase(' All well ')).toEqual({ ok: true, value: 'All well' });
    expect(checkPhrase('{call} here')).toMatchObject({ ok: true });
    expect(checkPhrase('Hello {name}')).toMatchObject({
      error: { at: 6, reason: expect.stringMatching(/^nothing is known as \{name\}/) },
    });
    for (const wrong of ['', '  ', 'a|b', 'a { b', 'x'.repeat(68)])
      expect(checkPhrase(wrong)).toMatchObject({ ok: false });
    expect(checkPhrase(`${'x'.repeat(66)}{call}`)).toMatchObject({ ok: true });
  });

  it('is put behind a text with one blank between, and none before what closes', () => {
    expect(withPhrase('', 'All well')).toBe('All well');
    expect(withPhrase('All well  ', ' Standing by')).toBe('All well Standing by');
    expect(withPhrase('All well', ', standing by')).toBe('All well, standing by');
    expect(withPhrase('Shelter (', '12 people')).toBe('Shelter (12 people');
    fc.assert(
      fc.property(fc.string(), fc.string(), (text, phrase) => {
        const both = withPhrase(text, phrase);
        expect(both.replace(/\s/g, '')).toBe((text + phrase).replace(/\s/g, ''));
      }),
    );
  });
});
