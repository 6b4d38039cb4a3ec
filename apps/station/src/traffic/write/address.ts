import { ADDRESS_OF_WAY, addressesOf, personNamed, type WrittenItem } from '@tombolo/contract';
import type { EntityManager } from 'typeorm';
import { listPeople } from '../../people/people';
import { ProblemError } from '../../problem-error';
import { rowsOf } from '../../store/database';

const noAddress = (detail: string) => new ProblemError(422, 'no-address', 'There is no address for that way', detail);

/** The address on its way of whom an item is for; null for everybody. */
export async function addressOf(
  manager: EntityManager,
  { addressee, way }: Pick<WrittenItem, 'addressee' | 'way'>,
): Promise<string | null> {
  if (addressee.is === 'everybody') return null;
  if (addressee.is === 'address') return addressee.address;
  const person = personNamed(addressee.name, await listPeople(manager));
  if (!person) throw noAddress(`“${addressee.name}” is not in your list of people.`);
  const [address] = addressesOf(person, ADDRESS_OF_WAY[way.by]);
  if (address === undefined) throw noAddress(`Your list of people has no address of ${person.name} for that way.`);
  if (way.by === 'texts') {
    const nodes = await rowsOf<{ node: string }>(
      manager,
      'select node from mesh_node where bearer_id = $1 and tag = $2 order by last_at desc limit 4',
      [way.bearerId, address],
    );
    if (nodes.length === 1) return nodes[0]!.node;
    throw noAddress(
      nodes.length === 0
        ? `${person.name}’s node ${address} was not heard yet.`
        : `${nodes.length} nodes call themselves ${address}: give the number, ${nodes.map(({ node }) => node).join(' or ')}.`,
    );
  }
  return address;
}
