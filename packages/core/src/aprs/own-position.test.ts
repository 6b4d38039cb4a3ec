import { textOfOctets } from '../octets';
import { ambiguityKm, checkPositionComment, encodeOwnPosition } from './own-position';
import { symbolOf } from './symbol';

const HOME = { latitude: 49 + 3.5 / 60, longitude: -72 - 1.75 / 60, symbol: symbolOf('/-')! };
const sent = (more: Parameters<typeof encodeOwnPosition>[0]) => {
  const info = encodeOwnPosition(more);
  return info.ok ? textOfOctets(info.value) : info.error.reason;
};

describe('our own position', () => {
  it('is written as the reference writes it', () =>
    // APRS Protocol Reference 1.0.1, ch. 6, example 4903.50N/07201.75W-.
    expect(sent({ ...HOME, comment: 'Test' })).toBe('=4903.50N/07201.75W-Test'));

  it.each([
    // The same chapter, position ambiguity: the last digits are blanks.
    [1, '=4903.5 N/07201.7 W-'],
    [2, '=4903.  N/07201.  W-'],
    [3, '=490 .  N/0720 .  W-'],
    [4, '=49  .  N/072  .  W-'],
  ] as const)('leaves %i digits blank', (ambiguity, info) => expect(sent({ ...HOME, ambiguity })).toBe(info));

  it('tells how large the area is that others see: a minute of latitude is a nautical mile', () => {
    expect(ambiguityKm(0)).toBeCloseTo(0.0185, 4);
    expect(ambiguityKm(2)).toBe(1.852);
    expect(ambiguityKm(4)).toBeCloseTo(111.12, 2);
  });

  it('refuses what cannot stand behind it', () => {
    expect(checkPositionComment('x'.repeat(43)).ok).toBe(true);
    expect(sent({ ...HOME, comment: 'x'.repeat(44) })).toBe('44 of 43 octets: shorten it');
    // The reference's own example of course and speed, ch. 7: it says something that nobody meant.
    expect(sent({ ...HOME, comment: '088/036 Skerra' })).toMatch(/^it would be read as course and speed/);
    // Octets count, not letters.
    expect(sent({ ...HOME, comment: 'ä'.repeat(22) })).toBe('44 of 43 octets: shorten it');
    expect(sent({ ...HOME, comment: 'on|off' })).toBe('“|” cannot be sent');
    expect(sent({ ...HOME, comment: 'two\nlines' })).toBe('a control character cannot be sent');
  });
});
