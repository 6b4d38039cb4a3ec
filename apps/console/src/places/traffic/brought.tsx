import { personKnownAs, type ItemDetail, type Person } from '@tombolo/contract';
import { readMeantFor, readPart } from '@tombolo/core';
import { usePeople } from '../../live/queries';
import { Body } from '../../ui/text';

/** Whom a text of ours is to be brought to by whoever got it; null where it is for whoever got it. */
export function broughtTo(
  { direction, kind, addressee, body }: Pick<ItemDetail, 'direction' | 'kind' | 'addressee' | 'body'>,
  people: readonly Person[],
): string | null {
  if (direction !== 'out' || kind !== 'text') return null;
  const names = people.map(({ name }) => name);
  const meant = readMeantFor(readPart(body)?.text ?? body, names);
  return meant === null || personKnownAs(addressee, people)?.name === meant.name ? null : meant.name;
}

/** Of a text that somebody is to bring to another: how far the evidence goes. */
export function Brought({ item }: { item: ItemDetail }) {
  const to = broughtTo(item, usePeople().data ?? []);
  if (to === null) return null;
  return (
    <Body below={8}>
      {`It is for ${to} and goes to ${item.addressee} first, who is to bring it or hand it on. What is proved here ends with ${item.addressee}: ask for a word when ${to} has it.`}
    </Body>
  );
}
