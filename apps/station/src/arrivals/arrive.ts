import { randomUUID } from 'node:crypto';
import type { PathHop, Standing } from '@tombolo/core';
import type { ItemKind, Precedence } from '@tombolo/contract';
import { addCustody } from '../store/custody';
import { rowsOf, storable, type Queries } from '../store/database';
import type { LegDetail } from '../store/entities';
import { addEvidence } from '../store/evidence';
import { recordArrivalRoad } from '../transmissions/write';

/** An item that came over a board, a mail gateway or the mesh. */
export interface Arrival {
  /** By which a second copy is recognised: of bounded length, and of the content as well (`copyKey`). */
  readonly externalId: string;
  /** Only what came within this time is a copy; without it, whenever it came. */
  readonly copyWithinMs?: number;
  /** Identifier of a mail, by which an answer refers to it. */
  readonly messageId?: string | null;
  readonly kind: ItemKind;
  readonly precedence?: Precedence;
  readonly sender: string;
  readonly addressee: string;
  readonly subject?: string | null;
  readonly body: string;
  readonly cc?: readonly string[];
  readonly at: Date;
  readonly bearerId: string;
  /** Who handed it over, and the stations between sender and us as far as they are told. */
  readonly from: string;
  readonly via?: readonly string[];
  /** The hops in between, where nobody named them. */
  readonly hops?: readonly PathHop[];
  readonly own: string;
  readonly trace: readonly string[];
  readonly raw: string;
  /** The packet of what was heard that brought it. */
  readonly packetId?: string | null;
  readonly note: string;
  readonly detail?: LegDetail;
  readonly undecipherable?: boolean;
  readonly standing?: Standing;
  /** There was no room: recorded and shown, and not taken. */
  readonly refused?: boolean;
  readonly answers?: string | null;
  /** What came, as it came. */
  readonly info?: Buffer;
  readonly attachments?: readonly { readonly name: string; readonly type: string; readonly content: Buffer }[];
}

/** Records an arrival once; a second copy leaves a note of it on the first. Gives the item and whether it is new. */
export async function recordArrival(queries: Queries, arrival: Arrival): Promise<{ itemId: string; isNew: boolean }> {
  const itemId = randomUUID();
  const key = await freeKey(queries, arrival);
  const inserted = await rowsOf<{ id: string }>(
    queries,
    `insert into item (id, direction, kind, precedence, sender, addressee, subject, body, cc, acknowledgement_asked,
                       created_at, answers, external_id, trace, undecipherable, standing, refused)
     values ($1,'in',$2,$3,$4,$5,$6,$7,$8,false,$9,$10,$11,$12,$13,$14,$15) on conflict (external_id) do nothing returning id`,
    [
      itemId,
      arrival.kind,
      arrival.precedence ?? 'routine',
      storable(arrival.sender),
      storable(arrival.addressee),
      arrival.subject == null ? null : storable(arrival.subject),
      storable(arrival.body),
      (arrival.cc ?? []).map(storable),
      arrival.at,
      arrival.answers ?? null,
      key,
      arrival.trace.map(storable),
      arrival.undecipherable ?? false,
      arrival.standing ?? null,
      arrival.refused ?? false,
    ],
  );
  if (inserted.length === 0) {
    const [known] = await rowsOf<{ id: string; direction: string }>(
      queries,
      'select id, direction from item where external_id = $1',
      [key],
    );
    const { id } = known!;
    await addEvidence(queries, {
      key: `heard again:${id}:${arrival.bearerId}:${arrival.from}:${arrival.at.getTime()}`,
      itemId: id,
      legId: null,
      kind: 'heard again',
      at: arrival.at,
      bearer: arrival.bearerId,
      by: arrival.from,
      raw: arrival.raw,
      packetId: arrival.packetId ?? null,
      note: 'a second copy: shown once',
    });
    return { itemId: id, isNew: false };
  }
  const legId = await recordArrivalRoad(
    queries,
    {
      itemId,
      bearerId: arrival.bearerId,
      fromCall: storable(arrival.sender),
      toCall: arrival.own,
      info: arrival.info,
      detail: {
        arrivedBy: arrival.hops ?? arrival.via ?? [],
        ...(arrival.messageId && { messageId: storable(arrival.messageId) }),
        ...arrival.detail,
      },
    },
    arrival.at,
  );
  await addEvidence(queries, {
    key: `arrived:${itemId}`,
    itemId,
    legId,
    kind: 'delivered',
    at: arrival.at,
    bearer: arrival.bearerId,
    by: arrival.from,
    via: arrival.via ?? [],
    raw: arrival.raw,
    packetId: arrival.packetId ?? null,
    note: arrival.note,
  });
  await addCustody(queries, {
    key: `received:${itemId}`,
    itemId,
    what: 'received',
    other: arrival.from,
    at: arrival.at,
    by: arrival.own,
    bearer: arrival.bearerId,
    note: arrival.note,
  });
  for (const { name, type, content } of arrival.attachments ?? [])
    await queries.query('insert into attachment (id, item_id, name, type, content) values ($1,$2,$3,$4,$5)', [
      randomUUID(),
      itemId,
      storable(name),
      storable(type),
      content,
    ]);
  return { itemId, isNew: true };
}

/**
 * The key under which an arrival is kept. What came before under the same key is the same thing for a while only: numbers of a mesh come
 * round again, and a text sent anew weeks later is a new one.
 */
async function freeKey(queries: Queries, { externalId, copyWithinMs, at }: Arrival): Promise<string> {
  if (copyWithinMs === undefined) return externalId;
  const [last] = await rowsOf<{ external_id: string; created_at: Date }>(
    queries,
    // '@' is followed by 'A': a range that an index can give.
    `select external_id, created_at from item where external_id = $1 or (external_id >= $2 and external_id < $3)
     order by created_at desc limit 1`,
    [externalId, `${externalId}@`, `${externalId}A`],
  );
  if (!last) return externalId;
  const isCopy = Math.abs(at.getTime() - last.created_at.getTime()) <= copyWithinMs;
  return isCopy ? last.external_id : `${externalId}@${at.getTime()}`;
}
