import { randomUUID } from 'node:crypto';
import type { ItemKind, Precedence } from '@tombolo/contract';
import { addCustody } from '../store/custody';
import { rowsOf, storable, type Queries } from '../store/database';
import { addEvidence } from '../store/evidence';

/** An item that came over a board, a mail gateway or the mesh. */
export interface Arrival {
  /** By which a second copy is recognised. */
  readonly externalId: string;
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
  readonly own: string;
  readonly trace: readonly string[];
  readonly raw: string;
  readonly note: string;
  readonly detail?: unknown;
  readonly undecipherable?: boolean;
  readonly answers?: string | null;
  /** What came, as it came. */
  readonly info?: Buffer;
  readonly attachments?: readonly { readonly name: string; readonly type: string; readonly content: Buffer }[];
}

/** Records an arrival once; a second copy leaves a note of it on the first. Gives the item and whether it is new. */
export async function recordArrival(queries: Queries, arrival: Arrival): Promise<{ itemId: string; isNew: boolean }> {
  const itemId = randomUUID();
  const inserted = await rowsOf<{ id: string }>(
    queries,
    `insert into item (id, direction, kind, precedence, sender, addressee, subject, body, cc, acknowledgement_asked,
                       created_at, answers, external_id, trace, undecipherable)
     values ($1,'in',$2,$3,$4,$5,$6,$7,$8,false,$9,$10,$11,$12,$13) on conflict (external_id) do nothing returning id`,
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
      storable(arrival.externalId),
      arrival.trace.map(storable),
      arrival.undecipherable ?? false,
    ],
  );
  if (inserted.length === 0) {
    const [known] = await rowsOf<{ id: string; direction: string }>(
      queries,
      'select id, direction from item where external_id = $1',
      [storable(arrival.externalId)],
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
      note: 'a second copy: shown once',
    });
    return { itemId: id, isNew: false };
  }
  const legId = randomUUID();
  await queries.query(
    `insert into leg (id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, created_at, detail)
     values ($1,$2,'convey',$3,$4,$5,'{}',$8,false,'{}',$6,$7)`,
    [
      legId,
      itemId,
      arrival.bearerId,
      storable(arrival.sender),
      arrival.own,
      arrival.at,
      JSON.stringify({ arrivedBy: arrival.via ?? [], ...(arrival.detail as object | undefined) }),
      arrival.info ?? Buffer.alloc(0),
    ],
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
