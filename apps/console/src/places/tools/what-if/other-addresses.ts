import { addressesOf, type AddressSort, type Person } from '@tombolo/contract';

type Listed = Pick<Person, 'name' | 'addresses' | 'broughtBy'>;

const WORDS: Readonly<Record<AddressSort, (address: string) => string>> = {
  call: (call) => `${call} by packet radio`,
  node: (tag) => `node ${tag}`,
  phone: () => 'a phone',
  mail: () => 'mail',
  board: (address) => `${address} at a board`,
};

/**
 * Of those whom a net reaches no more, whether they are noted with another address: who is not loses every way. Those who are on no list are
 * left out.
 * @param cutOff by their addresses of that sort
 */
export function otherAddressWords(
  cutOff: readonly string[],
  sort: Extract<AddressSort, 'call' | 'node'>,
  people: readonly Listed[],
): string[] {
  const listed = cutOff.flatMap((address) => people.filter((one) => addressesOf(one, sort).includes(address)));
  const others = [...new Set(listed)].map((person) => ({
    name: person.name,
    words: [
      ...person.addresses.filter((one) => one.sort !== sort).map((one) => WORDS[one.sort](one.address)),
      ...(person.broughtBy.length > 0 ? ['by hand of others'] : []),
    ],
  }));
  const [some, none] = [
    others.filter(({ words }) => words.length > 0),
    others.filter(({ words }) => words.length === 0),
  ];
  return [
    ...(none.length === 0
      ? []
      : [
          `No other address is noted of ${none.map(({ name }) => name).join(', ')}: every way that is known is lost with it.`,
        ]),
    ...(some.length === 0
      ? []
      : [
          `Other addresses are noted of ${some.map(({ name, words }) => `${name} (${[...new Set(words)].join(', ')})`).join(', ')}; whether those still lead there, “All ways together” tells.`,
        ]),
  ];
}
