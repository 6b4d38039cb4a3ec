import { textOfOctets } from '../octets';
import { emergencyOf } from './emergency';
import { decodeInformation } from './information';
import {
  checkEmergencyWords,
  encodeEmergencyOver,
  encodeOwnEmergency,
  MOST_EMERGENCY_OCTETS,
  nextEmergencyMs,
} from './own-emergency';

const PERSON = { table: '/', code: '[' };
const position = { latitude: 41.269, longitude: -43.285 };
const read = (octets: Uint8Array) => {
  const information = decodeInformation(octets, 'APRS');
  if (!information.ok) throw new Error(information.error.reason);
  return information.value;
};
const sent = (drill: boolean, at: typeof position | null, words = 'two hurt') => {
  const encoded = encodeOwnEmergency({ drill, words, position: at }, PERSON);
  if (!encoded.ok) throw new Error(encoded.error.reason);
  return encoded.value;
};

describe('our own call for help', () => {
  it('is a position with the symbol for it, and without a position a status', () => {
    expect(textOfOctets(sent(false, position))).toBe('=4116.14N\\04317.10W!EMERGENCY two hurt');
    expect(textOfOctets(sent(false, null))).toBe('>EMERGENCY two hurt');
    expect(textOfOctets(sent(false, null, ''))).toBe('>EMERGENCY');
  });

  it('is understood as one by whoever hears it, a drill as a drill and under the usual symbol', () => {
    for (const at of [position, null]) {
      expect(emergencyOf(read(sent(false, at)))).toMatchObject({ drill: false });
      expect(emergencyOf(read(sent(true, at)))).toMatchObject({ drill: true, by: 'its words' });
      const over = encodeEmergencyOver({ drill: true, position: at }, PERSON);
      expect(over.ok && emergencyOf(read(over.value))).toBeNull();
    }
    expect(read(sent(true, position))).toMatchObject({ symbol: PERSON });
  });

  it('takes the longest words in each form and no longer ones, nor what a modem would not pass', () => {
    const longest = 'é'.repeat(13);
    expect(MOST_EMERGENCY_OCTETS).toBe(27);
    expect(checkEmergencyWords('x'.repeat(27)).ok).toBe(true);
    expect(checkEmergencyWords(longest).ok).toBe(true);
    expect(checkEmergencyWords('x'.repeat(28))).toMatchObject({ ok: false });
    for (const words of ['a|b', 'a~b', 'a\nb']) expect(checkEmergencyWords(words).ok).toBe(false);
    expect(() => sent(true, position, 'x'.repeat(27))).not.toThrow();
  });

  it('goes out every 40 s at first, then every three minutes', () => {
    expect([1, 4, 5, 50].map((times) => nextEmergencyMs(times, 0))).toEqual([40_000, 40_000, 180_000, 180_000]);
  });
});
