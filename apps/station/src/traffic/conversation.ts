import { writeMeantFor, type FieldKind } from '@tombolo/core';
import { listPeople } from '../people/people';
import { listServices } from '../services/directory';
import { rowsOf, type Queries } from '../store/database';

/** By what somebody is known on every way. */
export interface Counterpart {
  /** In capitals: calls, nodes, mail and board addresses, and the name. */
  readonly addresses: readonly string[];
  /** In small letters: what commands to services name: phone numbers, mail addresses, groups. */
  readonly far: readonly string[];
  /** Fields of services that say whom a command reaches, each with the address in front; what is asked about a station passes with nobody. */
  readonly reaching: readonly string[];
  /** In small letters: how a text begins that somebody else is to bring to them; null of a stranger. */
  readonly handed: string | null;
  /** Addresses of services with groups. */
  readonly grouping: readonly string[];
}
const REACHES: ReadonlySet<FieldKind> = new Set(['phone', 'mail', 'group']);

const digitsOf = (text: string): string => text.replace(/\D/g, '');

/** All addresses of whom somebody names by one of them, or by name; of a stranger the one that was named. */
export async function counterpartOf(queries: Queries, who: string): Promise<Counterpart> {
  const wanted = who.trim().toLowerCase();
  const person = (await listPeople(queries)).find(
    ({ name, addresses }) =>
      name.toLowerCase() === wanted ||
      addresses.some(({ sort, address }) =>
        sort === 'phone'
          ? digitsOf(wanted) !== '' && digitsOf(address) === digitsOf(wanted)
          : address.toLowerCase() === wanted,
      ),
  );
  const named = [wanted, ...(person ? [person.name, ...person.addresses.map(({ address }) => address)] : [])];
  const nodes = await rowsOf<{ node: string; tag: string }>(
    queries,
    'select node, tag from mesh_node where upper(tag) = any($1) or upper(node) = any($1)',
    [named.map((one) => one.toUpperCase())],
  );
  const phones = (person?.addresses ?? [])
    .filter(({ sort }) => sort === 'phone')
    .map(({ address }) => digitsOf(address));
  const fields = (await listServices(queries)).flatMap(({ address, commands }) =>
    commands.flatMap((command) => command.fields.map(({ id, kind }) => ({ address, id, kind }))),
  );
  return {
    addresses: [
      ...new Set([...named, ...nodes.flatMap(({ node, tag }) => [node, tag])].map((one) => one.toUpperCase())),
    ],
    far: [...new Set([...named.map((one) => one.toLowerCase()), ...phones])],
    handed: person ? writeMeantFor(person.name, '').toLowerCase() : null,
    reaching: fields.filter(({ kind }) => REACHES.has(kind)).map(({ address, id }) => `${address} ${id}`),
    grouping: fields.filter(({ kind }) => kind === 'group').map(({ address }) => address),
  };
}

const NAMES_FAR = (leg: string) => `exists (
  select 1 from leg l, jsonb_each_text(l.detail->'service'->'values') v
  where ${leg} and l.detail ? 'service' and (l.detail->'service'->>'address') || ' ' || v.key = any(:reaching)
    and lower(v.value) = any(:far))`;

/** What passed with them, over all bearers: to them, from them, through a service, by the hand of somebody, or said in a group of that name. */
export const PASSED_WITH = `(
  upper(case when item.direction = 'out' then item.addressee else item.sender end) = any(:addresses)
  or ${NAMES_FAR('l.item_id = item.id')}
  or item.direction = 'out' and item.kind = 'text' and starts_with(lower(item.body), :handed)
  or item.answers is not null and ${NAMES_FAR('l.item_id = item.answers')}
  or item.direction = 'in' and item.sender = any(:grouping) and lower(split_part(item.body, ' ', 1)) = any(:far))`;
