import { randomUUID } from 'node:crypto';
import { readBulletinLine, type Standing } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import { addCustody } from '../../store/custody';
import { storable, type Queries } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { beginOverflow, growOverflow, lookAtInbox, openOverflow } from '../../arrivals/inbox';
import type { KnownBulletins, Said } from '../../bulletins/known';
import { recordArrivalRoad } from '../../transmissions/write';
import type { Stored } from '../store-heard';

export interface Arrived {
  readonly kind: 'text' | 'bulletin';
  readonly addressee: string;
  readonly body: string;
  readonly number: string | null;
  readonly numberField: string | null;
  readonly standing: Standing;
  /** There was no room: recorded and shown, and not taken. */
  readonly refused: boolean;
  /** The item of ours, or that we handed on, which it answers. */
  readonly answers?: string | null;
  /** It spoke of another item and needs nobody: filed at once. */
  readonly settled?: boolean;
}

/** Keeps what arrived; of one sender that there is no room for, one row stands for all. Gives its item. */
export async function keepArrived(queries: Queries, row: Stored, arrived: Arrived): Promise<string> {
  const { packet, heard, path, line, words } = row.understood;
  const at = new Date(heard.heardAtMs);
  const sender = packet!.source;
  if (arrived.refused) {
    const open = await openOverflow(queries, arrived.kind, sender, arrived.addressee);
    if (open) {
      await growOverflow(queries, arrived.kind, sender, arrived.addressee, open, arrived.body, at);
      return open.itemId;
    }
  }
  const itemId = randomUUID();
  const addressee = storable(arrived.addressee);
  await queries.query(
    `insert into item (id, direction, kind, precedence, sender, addressee, body, number, number_field,
                       acknowledgement_asked, created_at, filed_at, refused, packet_id, answers, trace, standing)
     values ($1,'in',$2,'routine',$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15)`,
    [
      itemId,
      arrived.kind,
      sender,
      addressee,
      storable(arrived.body),
      arrived.number,
      arrived.numberField,
      arrived.number !== null,
      at,
      arrived.settled ? at : null,
      arrived.refused,
      row.packetId,
      arrived.answers ?? null,
      [sender, ...path!.via],
      arrived.standing,
    ],
  );
  if (arrived.refused) await beginOverflow(queries, arrived.kind, sender, arrived.addressee, itemId, at);
  const legId = await recordArrivalRoad(
    queries,
    { itemId, bearerId: heard.bearerId, fromCall: sender, toCall: addressee, info: packet!.info },
    at,
  );
  await addEvidence(queries, {
    itemId,
    legId,
    at,
    bearer: heard.bearerId,
    via: path!.via,
    raw: line,
    packetId: row.packetId,
    key: `arrived:${row.packetId}`,
    kind: 'delivered',
    by: sender,
    note: arrived.refused ? `${words}; there was no room for it, and it was not taken` : words,
  });
  if (!arrived.refused)
    await addCustody(queries, {
      key: `received:${itemId}`,
      itemId,
      what: 'received',
      other: sender,
      at,
      by: addressee,
      bearer: heard.bearerId,
      note: words,
    });
  return itemId;
}

/** Who says what in which line of bulletins; null for whatever is none. */
export function bulletinSaid({ understood: { packet, information, heard } }: Stored): (Said & { atMs: number }) | null {
  if (!packet || information?.kind !== 'bulletin') return null;
  return { sender: packet.source, addressee: information.addressee, text: information.text, atMs: heard.heardAtMs };
}

export async function keepBulletin(
  queries: Queries,
  row: Stored,
  settings: Settings,
  known: KnownBulletins,
  touched: Set<string>,
): Promise<void> {
  const said = bulletinSaid(row);
  if (!said) return;
  // Bulletins are sent again and again on purpose: one item, and when it was heard last.
  const before = known.itemOf(said, said.atMs);
  if (before !== null) return known.heard(before, said.atMs);
  const { standing, room } = await lookAtInbox(
    queries,
    { name: said.sender, kind: 'bulletin', text: said.text },
    settings,
  );
  const { bulletinGroups } = settings;
  const line = readBulletinLine(said.addressee);
  const notForUs = line?.group != null && bulletinGroups !== null && !bulletinGroups.includes(line.group);
  const itemId = await keepArrived(queries, row, {
    kind: 'bulletin',
    addressee: said.addressee,
    body: said.text,
    number: null,
    numberField: null,
    standing,
    refused: !room,
    settled: notForUs,
  });
  touched.add(itemId);
  // The row of what there was no room for now says how many they are.
  if (!room) known.forget(itemId);
  await known.read(queries, [said]);
  if (room) known.heard(itemId, said.atMs);
}
