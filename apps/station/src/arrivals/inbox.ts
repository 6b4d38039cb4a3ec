import { baseCall, INBOX_ROOM, inboxHasRoom, standingOf, type Standing } from '@tombolo/core';
import type { ItemKind, Settings } from '@tombolo/contract';
import { LISTED } from '../people/people';
import { rowsOf, storable, type Queries } from '../store/database';

/** What lies in one row for all texts of one sender that there was no room for. */
export type OverflowKind = ItemKind | 'sealed';

export interface Sender {
  /** As the items name it. */
  readonly name: string;
  readonly kind: ItemKind;
  readonly text: string;
}

/** A row where `$1`, with the base call `$2`, is on the list of people, or somebody whom we wrote to or answered: with any SSID. */
const KNOWN = `${LISTED}
  union all
  select 1 from item o where o.direction = 'out' and split_part(o.addressee, '-', 1) = $2
  union all
  select 1 from item a where a.direction = 'in' and a.sender = $1 and
    exists (select 1 from evidence e where e.item_id = a.id and e.kind = 'answered')`;

/** Whether somebody is known, and whether there is room for one more text of theirs. */
export async function lookAtInbox(
  queries: Queries,
  sender: Sender,
  settings: Pick<Settings, 'storeLimit'>,
): Promise<{ standing: Standing; room: boolean }> {
  // In one question: a flood is looked at text by text.
  const [counts] = await rowsOf<{ known: boolean; of_sender: number; of_strangers: number; urgent: number }>(
    queries,
    `select exists (${KNOWN}) as known,
            count(*) filter (where sender = $1)::int as of_sender,
            count(*) filter (where standing is distinct from 'known' and standing is distinct from 'stranger, urgent')::int as of_strangers,
            count(*) filter (where standing = 'stranger, urgent')::int as urgent
     from item where direction = 'in' and kind = $3 and filed_at is null and not refused`,
    [storable(sender.name), storable(baseCall(sender.name)), sender.kind],
  );
  const standing = standingOf(counts?.known ?? false, sender.text);
  const room = inboxHasRoom(
    standing,
    {
      ofSender: counts?.of_sender ?? 0,
      ofStrangers: counts?.of_strangers ?? 0,
      urgentOfStrangers: counts?.urgent ?? 0,
    },
    { ...INBOX_ROOM, strangers: settings.storeLimit },
  );
  return { standing, room };
}

/** The row that stands for what one sender sent without there being room, while nobody has filed it. */
export async function openOverflow(
  queries: Queries,
  kind: OverflowKind,
  sender: string,
  addressee: string,
): Promise<{ itemId: string; count: number } | null> {
  const [row] = await rowsOf<{ item_id: string; count: number }>(
    queries,
    `select o.item_id, o.count from overflow o join item i on i.id = o.item_id
     where o.kind = $1 and o.sender = $2 and o.addressee = $3 and i.filed_at is null for update of o`,
    [kind, storable(sender), storable(addressee)],
  );
  return row ? { itemId: row.item_id, count: row.count } : null;
}

/** Begins such a row. */
export const beginOverflow = (
  queries: Queries,
  kind: OverflowKind,
  sender: string,
  addressee: string,
  itemId: string,
  at: Date,
): Promise<unknown> =>
  queries.query(
    `insert into overflow (kind, sender, addressee, item_id, count, first_at, last_at) values ($1,$2,$3,$4,1,$5,$5)
     on conflict (kind, sender, addressee) do update set item_id = $4, count = 1, first_at = $5, last_at = $5`,
    [kind, storable(sender), storable(addressee), itemId, at],
  );

/** One more that there was no room for: the row tells how many, and the last of them. */
export async function growOverflow(
  queries: Queries,
  kind: OverflowKind,
  sender: string,
  addressee: string,
  { itemId, count }: { itemId: string; count: number },
  text: string,
  at: Date,
): Promise<void> {
  const body =
    kind === 'sealed'
      ? `${count + 1} packets that this station cannot read; the last: ${text}`
      : `${count + 1} texts were not taken: there was no room. The last: ${text}`;
  await queries.query(
    `with grown as (update overflow set count = count + 1, last_at = $4 where kind = $1 and sender = $2 and addressee = $3)
     update item set body = $6 where id = $5`,
    [kind, storable(sender), storable(addressee), at, itemId, storable(body)],
  );
}

/** What could not be taken at first and then was needs nobody any more. */
export const fileTakenAfterAll = (
  queries: Queries,
  sender: string,
  addressee: string,
  text: string,
  at: Date,
): Promise<unknown> =>
  queries.query(
    `update item set filed_at = $4 where direction = 'in' and refused and filed_at is null
       and sender = $1 and addressee = $2 and body = $3`,
    [storable(sender), storable(addressee), storable(text), at],
  );
