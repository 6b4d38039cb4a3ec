import { textOfOctets } from '../octets';
import { decodeInformation } from './information';
import { encodeOwnThing, faultOfThing, nextThingMs, OBJECT_SYMBOLS, type OwnThing } from './own-object';
import { symbolMeaning, symbolOf } from './symbol';

const shelter: OwnThing = {
  form: 'object',
  name: 'SHELTER 1',
  latitude: 41.269,
  longitude: -43.285,
  symbol: '\\z',
  comment: '62 people',
};
const AT = Date.parse('2026-11-25T08:05:00Z');
const text = (thing: OwnThing, live = true) => {
  const encoded = encodeOwnThing(thing, live, AT);
  if (!encoded.ok) throw new Error(encoded.error.reason);
  return textOfOctets(encoded.value);
};

describe('a thing that we put on the map of all', () => {
  // The forms of the Protocol Reference 1.0.1, ch. 11.
  it('is an object with its time, or an item without; gone, it has no comment', () => {
    expect(text(shelter)).toBe(';SHELTER 1*250805z4116.14N\\04317.10Wz62 people');
    expect(text(shelter, false)).toBe(';SHELTER 1_250805z4116.14N\\04317.10Wz');
    expect(text({ ...shelter, form: 'item' })).toBe(')SHELTER 1!4116.14N\\04317.10Wz62 people');
    expect(text({ ...shelter, form: 'item' }, false)).toBe(')SHELTER 1_4116.14N\\04317.10Wz');
  });

  it('is understood as it was meant, with a drawing of ours for each symbol of the choice', () => {
    for (const symbol of OBJECT_SYMBOLS) {
      const encoded = encodeOwnThing({ ...shelter, symbol }, true, AT);
      const read = encoded.ok && decodeInformation(encoded.value, 'APRS');
      expect(read && read.ok && read.value).toMatchObject({ kind: 'object', name: 'SHELTER 1', live: true });
      expect(symbolMeaning(symbolOf(symbol)!)).not.toBe('other');
    }
  });

  it('has its complaint at what is wrong', () => {
    expect(faultOfThing(shelter)).toBeNull();
    expect(faultOfThing({ ...shelter, name: 'TOO LONG A' })?.field).toBe('name');
    expect(faultOfThing({ ...shelter, name: ' A' })?.field).toBe('name');
    expect(faultOfThing({ ...shelter, form: 'item', name: 'AB' })?.field).toBe('name');
    expect(faultOfThing({ ...shelter, form: 'item', name: 'A_B!' })?.field).toBe('name');
    expect(faultOfThing({ ...shelter, comment: 'x'.repeat(44) })?.field).toBe('comment');
    expect(faultOfThing({ ...shelter, symbol: '?' })?.field).toBe('symbol');
  });

  it('goes out at once, again after a minute, then by its interval; gone, three times', () => {
    expect(nextThingMs(true, 10, 0, null)).toBe(0);
    expect([1, 2, 9].map((times) => nextThingMs(true, 10, times, 0))).toEqual([60_000, 600_000, 600_000]);
    expect([1, 2, 3].map((times) => nextThingMs(false, 10, times, 0))).toEqual([60_000, 60_000, null]);
  });
});
