import { addressesOf, ownStation, type Person, type Settings } from '@tombolo/contract';
import { locatorOf, type FieldKind, type ServiceField } from '@tombolo/core';

/** What could stand in a field, and by what words it is offered. */
export interface Offer {
  readonly words: string;
  readonly value: string;
}

/** What is known here that a field may take. */
export interface Known {
  readonly settings: Settings;
  readonly people: readonly Person[];
}

const MOST_OFFERED = 6;

const byPerson = (people: readonly Person[], sort: 'phone' | 'mail' | 'call'): Offer[] =>
  people.flatMap((person) => {
    const [address] = addressesOf(person, sort);
    return address === undefined ? [] : [{ words: person.name, value: address }];
  });

const OF_KIND: Readonly<Partial<Record<FieldKind, (known: Known) => readonly Offer[]>>> = {
  phone: ({ people }) => byPerson(people, 'phone'),
  mail: ({ people }) => byPerson(people, 'mail'),
  call: ({ settings, people }) => {
    const own = ownStation(settings);
    return [...(own ? [{ words: `${own}, our own`, value: own }] : []), ...byPerson(people, 'call')];
  },
  place: ({ settings: { position } }) => {
    const locator = position && locatorOf(position);
    return locator ? [{ words: `${locator}, where we are`, value: locator }] : [];
  },
  // The one that is listened to by voice: on the packet channel nobody calls.
  frequency: ({ settings: { voiceMHz } }) =>
    voiceMHz === null ? [] : [{ words: `${voiceMHz}, where we listen`, value: String(voiceMHz) }],
};

/** What is offered for a field: what its service names, then what is known here; nothing of what stands there already. */
export function offersFor(
  { kind, offers }: Pick<ServiceField, 'kind' | 'offers'>,
  known: Known,
  typed: string,
): Offer[] {
  const all = [...offers.map((value) => ({ words: value, value })), ...(OF_KIND[kind]?.(known) ?? [])];
  const text = typed.trim().toLowerCase();
  return all
    .filter(({ words, value }) => value.toLowerCase() !== text && (text === '' || words.toLowerCase().includes(text)))
    .slice(0, MOST_OFFERED);
}
