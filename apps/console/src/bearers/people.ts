import type { Addressee, Person } from '@tombolo/contract';

/** Somebody of the list of people whose name was typed, in whatever letters. */
export const personNamed = (typed: string, people: readonly Person[]): Person | undefined =>
  people.find(({ name }) => name.toLowerCase() === typed.trim().toLowerCase());

/** People to offer below what was typed: those with an address for the way, not the one who is named already. */
export function peopleToOffer(typed: string, people: readonly Person[]): string[] {
  const begun = typed.trim().toLowerCase();
  return people
    .map(({ name }) => name)
    .filter((name) => name.toLowerCase() !== begun && name.toLowerCase().startsWith(begun))
    .slice(0, 6);
}

export const toPerson = ({ name }: Person): Addressee => ({ is: 'person', name });
export const toAddress = (address: string): Addressee => ({ is: 'address', address });
