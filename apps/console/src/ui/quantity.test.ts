import { megahertzInWords, octetsInWords } from './quantity';

describe('octets in words', () => {
  it.each([
    [0, '0 octets'],
    [1, '1 octet'],
    [999, '999 octets'],
    [1000, '1.0 kB'],
    [99_960, '100 kB'],
    [999_600, '1.0 MB'],
    [2_437_000_000, '2.4 GB'],
    [3e15, '3000 TB'],
  ])('%d reads %s', (octets, words) => expect(octetsInWords(octets)).toBe(words));
});

describe('a frequency in words', () => {
  it.each([
    [144_390_000, '144.390 MHz'],
    [869_462_500, '869.4625 MHz'],
    [1_294_999_960, '1295.000 MHz'],
  ])('%d Hz reads %s', (hz, words) => expect(megahertzInWords(hz)).toBe(words));
});
