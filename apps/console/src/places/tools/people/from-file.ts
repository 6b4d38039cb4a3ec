import { ADDRESSES, personChange, type Person, type PersonChange } from '@tombolo/contract';
import { readPeopleTable, readVcards, type Parsed, type PersonCard } from '@tombolo/core';

export interface FromFile {
  /** Who is new, or known by more or other addresses. */
  readonly keep: readonly (PersonChange & { readonly id: string; readonly isNew: boolean })[];
  /** Who is on the list already, just so. */
  readonly same: number;
  /** What was left out, and why. */
  readonly left: readonly string[];
}

/** A file of people: vCards by what it begins with, a table else. */
export const readPeopleFile = (text: string): Parsed<readonly PersonCard[]> =>
  /^\s*(?:\ufeff)?BEGIN:/i.test(text) ? readVcards(text) : readPeopleTable(text);

const same = (a: PersonChange, b: PersonChange): boolean => JSON.stringify(a) === JSON.stringify(b);

/** What a file would change: somebody who is known, by our identifier or by name, keeps the addresses that are not in it. */
export function planPeople(known: readonly Person[], cards: readonly PersonCard[], newId: () => string): FromFile {
  const keep: (PersonChange & { id: string; isNew: boolean })[] = [];
  const left: string[] = [];
  let unchanged = 0;
  for (const card of cards) {
    const name = card.name.trim();
    const before =
      known.find(({ id }) => id === card.id) ?? known.find((one) => one.name.toLowerCase() === name.toLowerCase());
    const addresses = card.addresses.filter(({ sort, address }) => {
      const fits = ADDRESSES[sort].safeParse(address);
      if (!fits.success)
        left.push(`${name || 'Nobody'}, ${sort} ${address.slice(0, 60)}: ${fits.error.issues[0]!.message}`);
      return fits.success;
    });
    const read = personChange.safeParse({
      // A name that was only written in other letters stays as it is here.
      name: before && before.id !== card.id ? before.name : name,
      licensed: card.licensed ?? before?.licensed ?? false,
      // It is one line here; a card may have several.
      agreement: card.agreement?.replace(/\s+/g, ' ') ?? before?.agreement ?? '',
      addresses: [
        ...new Map(
          [...(before?.addresses ?? []), ...addresses].map((one) => [`${one.sort} ${one.address.toLowerCase()}`, one]),
        ).values(),
      ],
      // No file tells of it.
      broughtBy: before?.broughtBy ?? [],
    });
    if (!read.success) {
      left.push(`${name.slice(0, 60) || 'Somebody without a name'}: ${read.error.issues[0]!.message}`);
      continue;
    }
    if (keep.some((one) => one.name.toLowerCase() === name.toLowerCase())) {
      left.push(`${name} stands in the file twice: the first one counts`);
      continue;
    }
    if (
      before &&
      same(read.data, {
        name: before.name,
        licensed: before.licensed,
        agreement: before.agreement,
        addresses: before.addresses as PersonChange['addresses'],
        broughtBy: before.broughtBy,
      })
    )
      unchanged++;
    else keep.push({ ...read.data, id: before?.id ?? newId(), isNew: !before });
  }
  return { keep, same: unchanged, left };
}
