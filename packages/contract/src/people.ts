import { parseStationCall } from '@tombolo/core';
import { z } from 'zod';
import { meshTag } from './bearers/mesh-mqtt';

/** `WHO@BOARD` or a topic and its area. */
export const boardAddress = z
  .string()
  .trim()
  .toUpperCase()
  .max(60)
  .regex(
    /^[A-Z0-9#.-]+(?:@[A-Z0-9#.-]+)?$/,
    'whom, or whom at which board: letters, digits and . # - with at most one @ between, such as QT1NC@QT0BB',
  );

const stationCall = z
  .string()
  .trim()
  .toUpperCase()
  .superRefine((text, context) => {
    const call = parseStationCall(text);
    if (!call.ok) context.addIssue({ code: 'custom', message: call.error.reason });
  });

/** What each sort of address is; the tag of a mesh node stands for its number, which may change. */
export const ADDRESSES = {
  call: stationCall,
  phone: z
    .string()
    .trim()
    .regex(/^\+?[\d ]{4,20}$/, 'a phone number'),
  mail: z.string().trim().pipe(z.email('a mail address')),
  node: meshTag,
  board: boardAddress,
} as const;
export type AddressSort = keyof typeof ADDRESSES;
export const ADDRESS_SORTS = Object.keys(ADDRESSES) as readonly AddressSort[];

const addressOf = <Sort extends AddressSort>(sort: Sort) =>
  z.object({ sort: z.literal(sort), address: ADDRESSES[sort] });
export const personAddress = z.discriminatedUnion('sort', [
  addressOf('call'),
  addressOf('phone'),
  addressOf('mail'),
  addressOf('node'),
  addressOf('board'),
]);

/** Who takes something to somebody by hand, and about how long that takes from when it is with them. */
const broughtBy = z.object({
  person: z.uuid(),
  aboutMin: z.number().int().min(1, 'a minute at least').max(1440, 'a day at most'),
});
export type BroughtBy = z.infer<typeof broughtBy>;

/** Somebody who is reached through this station, by all the addresses that are known; of each sort the first is used first. */
export const personChange = z.object({
  name: z
    .string()
    .trim()
    .min(1, 'a name')
    .max(60)
    .regex(/^\P{Cc}*$/u, 'no control characters'),
  licensed: z.boolean(),
  /** What was agreed with them, in the operator's words: who may be written to, by which way, since when. */
  agreement: z
    .string()
    .trim()
    .max(300)
    .regex(/^\P{Cc}*$/u, 'no control characters')
    .default(''),
  addresses: z.array(personAddress).min(1, 'at least one address: nobody is reached without').max(30),
  /** Others of the list who take something to them, the first to be asked first. */
  broughtBy: z
    .array(broughtBy)
    .max(5, 'at most five who bring something')
    .refine((all) => new Set(all.map(({ person }) => person)).size === all.length, 'the same person twice')
    .default([]),
});
export type PersonChange = z.infer<typeof personChange>;

export const person = z.object({
  id: z.uuid(),
  name: z.string(),
  licensed: z.boolean(),
  agreement: z.string(),
  addresses: z.array(z.object({ sort: z.enum(ADDRESS_SORTS), address: z.string() })),
  broughtBy: z.array(z.object({ person: z.uuid(), aboutMin: z.number().int() })),
});
export type Person = z.infer<typeof person>;

export const MOST_PEOPLE = 500;
/** Several at once, all or none, each with its identifier; `without` are taken off the list. */
export const peopleChange = z
  .object({
    people: z.array(personChange.extend({ id: z.uuid() })).max(MOST_PEOPLE),
    without: z.array(z.uuid()).max(MOST_PEOPLE).default([]),
  })
  .refine(({ people, without }) => people.length + without.length > 0, 'at least one');
export type PeopleChange = z.infer<typeof peopleChange>;

/** The addresses of one sort, the first to be used first. */
export const addressesOf = ({ addresses }: Pick<Person, 'addresses'>, sort: AddressSort): string[] =>
  addresses.filter((one) => one.sort === sort).map(({ address }) => address);

/** Somebody of the list by name or by any address, in whatever letters. */
export const personKnownAs = <P extends Pick<Person, 'name' | 'addresses'>>(
  who: string,
  people: readonly P[],
): P | undefined => {
  // Blanks in a phone number tell nothing.
  const plain = (word: string) => word.toLowerCase().replace(/\s+/g, '');
  const word = plain(who);
  return (
    personNamed(who, people) ?? people.find(({ addresses }) => addresses.some(({ address }) => plain(address) === word))
  );
};

/** Somebody of the list by name, in whatever letters. */
export const personNamed = <P extends Pick<Person, 'name'>>(name: string, people: readonly P[]): P | undefined =>
  people.find((one) => one.name.toLowerCase() === name.trim().toLowerCase());
