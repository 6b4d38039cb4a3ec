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

/** Whether somebody is known, and whether there is room for one more text of theirs. */
export async function lookAtInbox(
  queries: Queries,
  sender: Sender,
  settings: Pick<Settings, 'storeLimit'>,
): Promise<{ standing: Standing; room: boolean }> {
  const known = await isKnown(queries, sender.name);
  const standing = standingOf(known, sender.text);
  const [counts] = await rowsOf<{ of_sender: number; of_strangers: number; urgent: number }>(
    queries,
    `select count(*) filter (where sender = $2)::int as of_sender,
            count(*) filter (where standing is distinct from 'known' and standing is distinct from 'stranger, urgent')::int as of_strangers,
            count(*) filter (where standing = 'stranger, urgent')::int as urgent
     from item where direction = 'in' and kind = $1 and filed_at is null and not refused`,
    [sender.kind, storable(sender.name)],
  );
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

/** On the list of people, or somebody whom we wrote to or answered: with any SSID. */
async function isKnown(queries: Queries, name: string): Promise<boolean> {
  const base = baseCall(name);
  const rows = await rowsOf(
    queries,
    `${LISTED}
     union all
     select 1 from item where direction = 'out' and split_part(addressee, '-', 1) = $2
     union all
     select 1 from item where direction = 'in' and sender = $1 and
       exists (select 1 from evidence e where e.item_id = item.id and e.kind = 'answered') limit 1`,
    [storable(name), storable(base)],
  );
  return rows.length > 0;
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
  await queries.query(
    'update overflow set count = count + 1, last_at = $4 where kind = $1 and sender = $2 and addressee = $3',
    [kind, storable(sender), storable(addressee), at],
  );
  const body =
    kind === 'sealed'
      ? `${count + 1} packets that this station cannot read; the last: ${text}`
      : `${count + 1} texts were not taken: there was no room. The last: ${text}`;
  await queries.query('update item set body = $2 where id = $1', [itemId, storable(body)]);
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
