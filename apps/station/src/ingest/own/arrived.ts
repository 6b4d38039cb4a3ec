import { randomUUID } from 'node:crypto';
import { readBulletinLine, type Information, type Standing } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import { addCustody } from '../../store/custody';
import { rowsOf, storable, type Queries } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { beginOverflow, growOverflow, lookAtInbox, openOverflow } from '../../arrivals/inbox';
import { noteHeard } from '../../bulletins/heard';
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

/** The same bulletin heard again within a day is the same bulletin. (Common practice, no source.) */
const BULLETIN_WINDOW_MS = 24 * 3600_000;

export async function keepBulletin(
  queries: Queries,
  row: Stored,
  bulletin: Extract<Information, { kind: 'bulletin' }>,
  settings: Settings,
  touched: Set<string>,
): Promise<void> {
  const { packet, heard } = row.understood;
  const body = storable(bulletin.text);
  const [before] = await rowsOf<{ id: string }>(
    queries,
    `select id from item where direction = 'in' and kind = 'bulletin' and sender = $1 and addressee = $2 and body = $3
       and created_at between $4 and $5 limit 1`,
    [
      packet!.source,
      bulletin.addressee,
      body,
      new Date(heard.heardAtMs - BULLETIN_WINDOW_MS),
      new Date(heard.heardAtMs + BULLETIN_WINDOW_MS),
    ],
  );
  // Bulletins are sent again and again on purpose: one item, and when it was heard last.
  if (before) return void (await noteHeard(queries, before.id, new Date(heard.heardAtMs)));
  const { standing, room } = await lookAtInbox(
    queries,
    { name: packet!.source, kind: 'bulletin', text: bulletin.text },
    settings,
  );
  const { bulletinGroups } = settings;
  const line = readBulletinLine(bulletin.addressee);
  const notForUs = line?.group != null && bulletinGroups !== null && !bulletinGroups.includes(line.group);
  const itemId = await keepArrived(queries, row, {
    kind: 'bulletin',
    addressee: bulletin.addressee,
    body,
    number: null,
    numberField: null,
    standing,
    refused: !room,
    settled: notForUs,
  });
  await noteHeard(queries, itemId, new Date(heard.heardAtMs));
  touched.add(itemId);
}
