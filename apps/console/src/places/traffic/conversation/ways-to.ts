import {
  addressesOf,
  carriageOf,
  personNamed,
  type BearerView,
  type KeptService,
  type Person,
} from '@tombolo/contract';
import { consoleKind } from '../../../bearers/registry';

/** A way to write to somebody. */
export interface WayTo {
  /** The part of Write. */
  readonly way: string;
  readonly title: string;
  readonly addressee: string;
  /** Of a service: the command, and what is entered in it. */
  readonly command?: { readonly id: string; readonly values: Readonly<Record<string, string>> };
}

const SORT_OF = { packets: 'call', texts: 'node', messages: 'board', mail: 'mail' } as const;

/** Somebody of the list who is called so, or has such an address. */
export const personOf = (who: string, people: readonly Person[]): Person | undefined =>
  personNamed(who, people) ??
  people.find(({ addresses }) =>
    addresses.some(({ sort, address }) =>
      sort === 'phone'
        ? digitsOf(who) !== '' && digitsOf(address) === digitsOf(who)
        : address.toLowerCase() === who.trim().toLowerCase(),
    ),
  );
const digitsOf = (text: string): string => text.replace(/\D/g, '');

/**
 * The ways by which somebody can be written to: each bearer's that is on, with the address that is known for it; a stranger's is the one that
 * he wrote by.
 */
export function waysTo(who: string, people: readonly Person[], bearers: readonly BearerView[]): WayTo[] {
  const person = personOf(who, people);
  const ways = new Map<string, WayTo>();
  for (const { config, enabled } of bearers) {
    const { composer } = consoleKind(config.kind);
    if (!composer || !enabled || ways.has(composer.id)) continue;
    const { what } = carriageOf(config);
    const sort = what in SORT_OF ? SORT_OF[what as keyof typeof SORT_OF] : null;
    const known = person && sort ? addressesOf(person, sort)[0] : undefined;
    const fits = /^[A-Z0-9]{3,6}(?:-\d{1,2})?$/i.test(who) && what === 'packets' && !person;
    const addressee = known ?? (fits ? who.toUpperCase() : undefined);
    if (addressee !== undefined) ways.set(composer.id, { way: composer.id, title: composer.title, addressee });
  }
  return [...ways.values()];
}

/** The commands of services that bring a text to somebody's phone or mailbox. */
export const servicesTo = (person: Person | undefined, services: readonly KeptService[]): WayTo[] =>
  services.flatMap((service) =>
    service.commands.flatMap((command): WayTo[] => {
      const far = command.fields.find(({ kind }) => kind === 'phone' || kind === 'mail');
      const address = far && person && addressesOf(person, far.kind as 'phone' | 'mail')[0];
      if (!far || address === undefined || !command.fields.some(({ kind }) => kind === 'text')) return [];
      const values = { [far.id]: address };
      return [{ way: 'service', title: service.name, addressee: service.address, command: { id: command.id, values } }];
    }),
  );
