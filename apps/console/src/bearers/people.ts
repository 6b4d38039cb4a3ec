import { addressesOf, type Addressee, type AddressSort, type Person } from '@tombolo/contract';

/** Who of the list of people has an address of some sort. */
export const reachedBy = (sort: AddressSort, people: readonly Person[]): Person[] =>
  people.filter((person) => addressesOf(person, sort).length > 0);

/** People to offer below what was typed: not the one who is named already. */
export function peopleToOffer(typed: string, people: readonly Person[]): string[] {
  const begun = typed.trim().toLowerCase();
  return people
    .map(({ name }) => name)
    .filter((name) => name.toLowerCase() !== begun && name.toLowerCase().startsWith(begun))
    .slice(0, 6);
}

export const toPerson = ({ name }: Person): Addressee => ({ is: 'person', name });
export const toAddress = (address: string): Addressee => ({ is: 'address', address });
