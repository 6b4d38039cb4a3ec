import { otherAddressWords } from './other-addresses';

const people = [
  {
    name: 'Dr Hallow',
    addresses: [
      { sort: 'call' as const, address: 'QT6CL' },
      { sort: 'node' as const, address: 'VLCLIN' },
      { sort: 'mail' as const, address: 'clinic@veil.example' },
    ],
    broughtBy: [],
  },
  { name: 'Net control', addresses: [{ sort: 'call' as const, address: 'QT1NC' }], broughtBy: [] },
  { name: 'Farm', addresses: [{ sort: 'node' as const, address: 'LSFARM' }], broughtBy: [] },
];

describe('who is cut off', () => {
  it('loses every way, or is noted with another address', () => {
    expect(otherAddressWords(['QT6CL', 'QT1NC', 'QT9ZZ'], 'call', people)).toEqual([
      'No other address is noted of Net control: every way that is known is lost with it.',
      'Other addresses are noted of Dr Hallow (node VLCLIN, mail); whether those still lead there, “All ways together” tells.',
    ]);
    expect(otherAddressWords(['VLCLIN', 'LSFARM'], 'node', people)).toEqual([
      'No other address is noted of Farm: every way that is known is lost with it.',
      'Other addresses are noted of Dr Hallow (QT6CL by packet radio, mail); whether those still lead there, “All ways together” tells.',
    ]);
    const brought = { ...people[2]!, broughtBy: [{ person: 'clinic', aboutMin: 40 }] };
    expect(otherAddressWords(['LSFARM'], 'node', [brought])).toEqual([
      'Other addresses are noted of Farm (by hand of others); whether those still lead there, “All ways together” tells.',
    ]);
    expect(otherAddressWords(['QT9ZZ'], 'call', people)).toEqual([]);
    expect(otherAddressWords([], 'call', people)).toEqual([]);
  });
});
