import fc from 'fast-check';
import { shown } from './shown';

describe('texts from strangers', () => {
  it('show what would turn or hide something', () => {
    expect(shown('QT1NC\u202e7-HS5TQ')).toBe('QT1NC⟨U+202E⟩7-HS5TQ');
    expect(shown('QT1\u200bNC')).toBe('QT1⟨U+200B⟩NC');
    expect(shown('\u2066x\u2069\ufeff\u0007')).toBe('⟨U+2066⟩x⟨U+2069⟩⟨U+FEFF⟩⟨U+0007⟩');
    expect(shown('Tarn Head, 412 m – ägä, Привет, 船\n\tok')).toBe('Tarn Head, 412 m – ägä, Привет, 船\n\tok');
  });
  // Source of the property: Unicode's own class of bidirectional controls, as the engine knows it.
  it('never let a bidirectional control through', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => expect(/\p{Bidi_Control}/u.test(shown(text))).toBe(false)),
    );
  });
});
