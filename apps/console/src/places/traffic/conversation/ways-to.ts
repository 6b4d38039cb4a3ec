import {
  addressesOf,
  carriageOf,
  personNamed,
  type BearerView,
  type ItemSummary,
  type Person,
} from '@tombolo/contract';
import { consoleKind } from '../../../bearers/registry';

/** A way to write to somebody. */
export interface WayTo {
  /** The part of Write. */
  readonly way: string;
  readonly title: string;
  readonly addressee: string;
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
export function waysTo(
  who: string,
  people: readonly Person[],
  bearers: readonly BearerView[],
  last: ItemSummary | undefined,
): WayTo[] {
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
  // The way that the last one came comes first: there it was heard.
  const cameTo = last && [...ways.values()].find(({ addressee }) => addressee === last.sender);
  return [...ways.values()].sort((a, b) => Number(b === cameTo) - Number(a === cameTo));
}
