import ICAL from 'ical.js';
import Papa from 'papaparse';
import { formatCsv } from '../formats/csv';
import { fail, ok, type Parsed } from '../result';

/** By what somebody is reached; each card line and column by its name. */
export const CARD_SORTS = ['call', 'phone', 'mail', 'node', 'board'] as const;
export type CardSort = (typeof CARD_SORTS)[number];

/** Somebody as a file of people tells; nothing of it is checked yet. */
export interface PersonCard {
  /** Our own identifier, in a file that we wrote. */
  readonly id: string | null;
  readonly name: string;
  /** Null where the file does not say. */
  readonly licensed: boolean | null;
  /** What was agreed with them; null where the file does not say. */
  readonly agreement: string | null;
  readonly addresses: readonly { readonly sort: CardSort; readonly address: string }[];
}

/** RFC 6350, 6.10: names of our own begin with X-. */
const PROPERTY_OF: Readonly<Record<CardSort, string>> = {
  call: 'x-station-call',
  phone: 'tel',
  mail: 'email',
  node: 'x-mesh-node',
  board: 'x-board-address',
};
const LICENSED = 'x-licensed';
const AGREEMENT = 'x-agreement';
const URN = 'urn:uuid:';
const UUID = /^urn:uuid:([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})$/i;
const MOST_FIELDS = 200;
export const MOST_CARDS = 500;
export const MOST_CARD_FILE_OCTETS = 1_000_000;

/** People as vCards, version 4 (RFC 6350), one after the other. */
export const writeVcards = (people: readonly PersonCard[]): string =>
  people
    .map(({ id, name, licensed, agreement, addresses }) => {
      const card = new ICAL.Component('vcard');
      const put = (property: string, value: string) => card.addPropertyWithValue(property, value);
      put('version', '4.0');
      if (id !== null) put('uid', `${URN}${id}`);
      put('fn', name);
      for (const { sort, address } of addresses) put(PROPERTY_OF[sort], address);
      if (licensed !== null) put(LICENSED, licensed ? 'yes' : 'no');
      if (agreement) put(AGREEMENT, agreement);
      return `${card.toString()}\r\n`;
    })
    .join('');

const valuesOf = (card: InstanceType<typeof ICAL.Component>, property: string): string[] =>
  card
    .getAllProperties(property)
    .slice(0, MOST_FIELDS)
    // A semicolon may be escaped in any text (RFC 2426, 4; RFC 6350, 3.4): the library leaves it so.
    .map((one) =>
      String(one.getFirstValue() ?? '')
        .replace(/\\;/g, ';')
        .trim(),
    )
    .filter(Boolean);

/** A phone number as we write it: no brackets, dashes or dots, and nothing of a URI around it. */
const phoneOf = (value: string): string =>
  value
    .replace(/^tel:/i, '')
    .split(';', 1)[0]!
    .replace(/[()./\-\u00a0\u2010-\u2015]+/gu, ' ')
    .replace(/ +/g, ' ')
    .trim();

function cardOf(card: InstanceType<typeof ICAL.Component>): PersonCard {
  const [uid] = valuesOf(card, 'uid');
  const [licensed] = valuesOf(card, LICENSED);
  const [agreement = null] = valuesOf(card, AGREEMENT);
  const [name = ''] = valuesOf(card, 'fn');
  return {
    id: UUID.exec(uid ?? '')?.[1]?.toLowerCase() ?? null,
    name,
    licensed: licensed === undefined ? null : /^yes$/i.test(licensed),
    agreement,
    addresses: CARD_SORTS.flatMap((sort) =>
      valuesOf(card, PROPERTY_OF[sort]).map((value) => ({
        sort,
        address: sort === 'phone' ? phoneOf(value) : value.replace(/^mailto:/i, ''),
      })),
    ),
  };
}

/** The people of a file of vCards, versions 3 and 4. Says what is wrong with a file that is none. */
export function readVcards(text: string): Parsed<readonly PersonCard[]> {
  if (text.length > MOST_CARD_FILE_OCTETS) return fail(0, 'the file is larger than 1 MB');
  let told: unknown;
  try {
    told = ICAL.parse(text);
  } catch (error) {
    return fail(0, `it is no vCard: ${(error as Error).message.split('\n')[0]!.slice(0, 100)}`);
  }
  const all = (typeof (told as unknown[])[0] === 'string' ? [told] : told) as ConstructorParameters<
    typeof ICAL.Component
  >[0][];
  const cards: PersonCard[] = [];
  try {
    for (const one of all) {
      const card = new ICAL.Component(one);
      if (card.name !== 'vcard') return fail(0, `it holds a ${card.name}, and no vCard`);
      if (cards.length >= MOST_CARDS) return fail(0, `it holds more than ${MOST_CARDS} people`);
      cards.push(cardOf(card));
    }
  } catch (error) {
    return fail(0, `a vCard cannot be read: ${(error as Error).message.slice(0, 100)}`);
  }
  return cards.length === 0 ? fail(0, 'it holds no vCard') : ok(cards);
}

const COLUMNS = ['name', 'licensed', ...CARD_SORTS, 'agreement'] as const;

/** People as a table: several addresses of one sort with semicolons between. */
export const writePeopleTable = (people: readonly PersonCard[]): string =>
  formatCsv(
    COLUMNS,
    people.map(({ name, licensed, agreement, addresses }) => [
      name,
      licensed === null ? null : licensed ? 'yes' : 'no',
      ...CARD_SORTS.map((sort) =>
        addresses
          .filter((one) => one.sort === sort)
          .map(({ address }) => address)
          .join('; '),
      ),
      agreement,
    ]),
  );

/** The people of a table whose first line names the columns, in any order; columns that we do not know are left out. */
export function readPeopleTable(text: string): Parsed<readonly PersonCard[]> {
  if (text.length > MOST_CARD_FILE_OCTETS) return fail(0, 'the file is larger than 1 MB');
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' });
  const [first = [], ...rows] = data;
  const columns = first.map((name) => name.trim().toLowerCase());
  if (!columns.includes('name')) return fail(0, `its first line names no column “name”, such as ${COLUMNS.join(',')}`);
  if (rows.length > MOST_CARDS) return fail(0, `it holds more than ${MOST_CARDS} people`);
  const [broken] = errors.filter(({ type }) => type === 'Quotes');
  if (broken) return fail(0, `line ${(broken.row ?? 0) + 1}: ${broken.message}`);
  const cell = (row: readonly string[], column: string): string => {
    const at = columns.indexOf(column);
    // What we write protects numbers from being taken for formulas.
    return at < 0 ? '' : (row[at] ?? '').trim().replace(/^'(?=[=+\-@])/, '');
  };
  const cards = rows.map((row): PersonCard => {
    const licensed = cell(row, 'licensed');
    return {
      id: null,
      name: cell(row, 'name'),
      licensed: licensed === '' ? null : /^(?:yes|y|true|1)$/i.test(licensed),
      agreement: cell(row, 'agreement') || null,
      addresses: CARD_SORTS.flatMap((sort) =>
        cell(row, sort)
          .split(/[;\n]+/)
          .map((address) => (sort === 'phone' ? phoneOf(address.replace(/^'/, '')) : address.trim()))
          .filter(Boolean)
          .slice(0, MOST_FIELDS)
          .map((address) => ({ sort, address })),
      ),
    };
  });
  return cards.length === 0 ? fail(0, 'it holds nobody') : ok(cards);
}
