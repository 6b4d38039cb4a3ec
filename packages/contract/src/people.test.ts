import { readVcards } from '@tombolo/core';
import { getCountries, getExampleNumber } from 'libphonenumber-js';
import examples from 'libphonenumber-js/mobile/examples';
import { ADDRESSES } from './people';

const takes = (number: string) => ADDRESSES.phone.safeParse(number).success;

describe('a phone number', () => {
  it('is taken as every country writes it, by the example numbers of a general library', () => {
    // Source: libphonenumber-js, its example of a mobile number for each country.
    const numbers = getCountries().map((country) => getExampleNumber(country, examples)!);
    expect(numbers.length).toBeGreaterThan(200);
    const refused = numbers.filter((number) => !takes(number.number) || !takes(number.formatInternational()));
    expect(refused.map(({ country, number }) => [country, number])).toEqual([]);
  });

  it('of a vCard is taken however a country sets it', () => {
    const read = (written: string) => {
      const cards = readVcards(`BEGIN:VCARD\r\nVERSION:4.0\r\nFN:A\r\nTEL:${written}\r\nEND:VCARD\r\n`);
      return cards.ok ? (cards.value[0]?.addresses[0]?.address ?? '') : '';
    };
    const refused = getCountries()
      .map((country) => getExampleNumber(country, examples)!)
      .filter((number) => {
        const [national, uri] = [read(number.formatNational()), read(number.getURI())];
        return !takes(national) || uri !== number.number;
      });
    expect(refused.map((number) => [number.country, number.formatNational()])).toEqual([]);
  });

  it('has neither letters nor line breaks', () => {
    for (const wrong of ['', '12', 'abc', '555 O142', '+49 30\n1', '+', '++1 555 0142', '1'.repeat(21)])
      expect([wrong, takes(wrong)]).toEqual([wrong, false]);
  });
});
