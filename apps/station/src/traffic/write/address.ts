import type { Settings, WrittenItem } from '@tombolo/contract';
import type { EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { rowsOf } from '../../store/database';

const noAddress = (detail: string) => new ProblemError(422, 'no-address', 'There is no address for that way', detail);

/** The address on its way of whom an item is for; null for everybody. */
export async function addressOf(
  manager: EntityManager,
  { addressee, way }: Pick<WrittenItem, 'addressee' | 'way'>,
  { people }: Pick<Settings, 'people'>,
): Promise<string | null> {
  if (addressee.is === 'everybody') return null;
  if (addressee.is === 'address') return addressee.address;
  const person = people.find(({ name }) => name.toLowerCase() === addressee.name.toLowerCase());
  if (!person) throw noAddress(`“${addressee.name}” is not in your list of people.`);
  if (way.by === 'mail' && person.mail) return person.mail;
  if (way.by === 'texts' && person.meshNode) {
    const nodes = await rowsOf<{ node: string }>(
      manager,
      'select node from mesh_node where bearer_id = $1 and tag = $2 order by last_at desc limit 4',
      [way.bearerId, person.meshNode],
    );
    if (nodes.length === 1) return nodes[0]!.node;
    throw noAddress(
      nodes.length === 0
        ? `${person.name}’s node ${person.meshNode} was not heard yet.`
        : `${nodes.length} nodes call themselves ${person.meshNode}: give the number, ${nodes.map(({ node }) => node).join(' or ')}.`,
    );
  }
  throw noAddress(`Your list of people has no address of ${person.name} for that way.`);
}
