import type { DataSource, EntityManager } from 'typeorm';
import { encodeMessage, frameToSend, MESSAGE_NUMBERS, messageNumber, REPEAT_WINDOW_MS } from '@tombolo/core';
import { sendsPackets, ownStation, transmitLocks, type newText, type Settings } from '@tombolo/contract';
import type { z } from 'zod';
import { ProblemError } from '../problem-error';
import { PROOF_WINDOW_MS } from '../ingest/own/proof';
import { rowsOf } from '../store/database';
import { BearerEntity, ItemEntity, LegEntity, type ItemRow, type LegDetail, type LegRow } from '../store/entities';
import { addEvidence } from '../store/evidence';
import { appendEvents } from '../store/events';
import { failpoint } from '../store/failpoints';
import { queueTransmission, releaseHeld, settleItem } from '../transmissions/write';

type NewText = z.output<typeof newText>;

/** Columns of an item that texts by packet radio leave empty. */
export const NO_MAIL = {
  subject: null,
  cc: [] as string[],
  externalId: null,
  trace: [] as string[],
  undecipherable: false,
};

/** Refuses while the transmitter is locked, in the operator's words. */
export function ownStationUnlocked(settings: Settings): string {
  const locks = transmitLocks(settings);
  const own = ownStation(settings);
  if (locks.length > 0 || own === null)
    throw new ProblemError(
      409,
      'transmit-locked',
      'The transmitter is locked',
      `${locks.join(' ')} Your text was not queued; answer this in Settings and send again.`,
    );
  return own;
}

async function transmittingBearer(manager: EntityManager, id: string): Promise<string> {
  const bearer = await manager.getRepository(BearerEntity).findOneBy({ id });
  if (!bearer)
    throw new ProblemError(422, 'no-such-bearer', 'That link does not exist', `There is no link “${id}” any more.`);
  if (!sendsPackets(bearer.config))
    throw new ProblemError(
      422,
      'listens-only',
      'That link only listens',
      `“${bearer.name}” cannot transmit; choose a modem.`,
    );
  return bearer.id;
}

/** Puts a text into the queue. The same id again changes nothing and gives the item that is there. */
export async function queueText(source: DataSource, text: NewText, settings: Settings, at: Date): Promise<void> {
  const own = ownStationUnlocked(settings);
  await source.transaction(async (manager) => {
    if (await manager.getRepository(ItemEntity).findOneBy({ id: text.id })) return;
    const bearerId = await transmittingBearer(manager, text.bearerId);
    const number = text.askAcknowledgement ? await nextNumber(manager, at) : null;
    const replyAck = number === null ? undefined : await owedReplyAck(manager, text.addressee, at);
    const info = encodeMessage({ addressee: text.addressee, text: text.body, number, replyAck });
    if (!info.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', info.error.reason);
    const frame = frameToSend(own, text.path, info.value);
    if (!frame.ok) throw new ProblemError(422, 'path', 'The frame cannot be built', frame.error.reason);
    const item: ItemRow = {
      id: text.id,
      direction: 'out',
      kind: 'text',
      precedence: text.precedence,
      sender: own,
      addressee: text.addressee,
      body: text.body,
      number,
      numberField: null,
      acknowledgementAsked: text.askAcknowledgement,
      createdAt: at,
      filedAt: null,
      refused: false,
      answers: text.answers,
      packetId: null,
      ...NO_MAIL,
    };
    await manager.getRepository(ItemEntity).insert(item);
    await queueLeg(
      manager,
      item,
      { bearerId, path: text.path, info: Buffer.from(info.value), policy: settings.retry },
      at,
    );
    if (text.answers !== null) await noteOurAnswer(manager, text.answers, item, at);
  });
}

/** A number that nothing bears to which an answer may still come. There are 1296 of them. */
export async function nextNumber(manager: EntityManager, at: Date): Promise<string> {
  const rows = await rowsOf<{ number: string }>(
    manager,
    `select coalesce(l.detail->>'number', i.number) as number from leg l join item i on i.id = l.item_id
     where l.role = 'convey' and l.id in (
       select id from leg where next_at is not null
       union select id from leg where created_at > $1
       union select leg_id from attempt where intended_at > $1)`,
    [new Date(at.getTime() - PROOF_WINDOW_MS)],
  );
  const open = new Set(rows.map(({ number }) => number));
  for (let tries = 0; tries < MESSAGE_NUMBERS; tries++) {
    const [row] = await rowsOf<{ n: string }>(manager, `select nextval('message_number') as n`);
    const number = messageNumber(Number(row!.n));
    if (!open.has(number)) return number;
  }
  throw new ProblemError(
    409,
    'no-number',
    'No message number is free',
    `${MESSAGE_NUMBERS} texts of the last hours may still be acknowledged: wait, or send without asking for an acknowledgement.`,
  );
}

/** 1.1 addendum: a station that writes `{MM}` understands reply-acks; its last number rides on our text. */
async function owedReplyAck(manager: EntityManager, addressee: string, at: Date): Promise<string | undefined> {
  const [last] = await rowsOf<{ number: string; number_field: string }>(
    manager,
    `select number, number_field from item
     where direction = 'in' and sender = $1 and number is not null and not refused and created_at > $2
     order by created_at desc limit 1`,
    [addressee, new Date(at.getTime() - REPEAT_WINDOW_MS)],
  );
  return last?.number_field.includes('}') && last.number.length <= 2 ? last.number : undefined;
}

export async function queueLeg(
  manager: EntityManager,
  item: Pick<ItemRow, 'id' | 'sender' | 'addressee' | 'acknowledgementAsked'>,
  leg: Pick<LegRow, 'bearerId' | 'path' | 'info' | 'policy'> & {
    detail?: LegDetail | null;
    note?: string;
    id?: string;
  },
  at: Date,
): Promise<string> {
  // Without an acknowledgement nothing could stop further tries: one is all.
  const policy = item.acknowledgementAsked ? leg.policy : { ...leg.policy, tries: 1 };
  const id = await queueTransmission(
    manager,
    {
      id: leg.id,
      itemId: item.id,
      role: 'convey',
      bearerId: leg.bearerId,
      fromCall: item.sender,
      toCall: item.addressee,
      path: leg.path,
      info: leg.info,
      acknowledgementAsked: item.acknowledgementAsked,
      policy,
      detail: leg.detail ?? null,
    },
    at,
  );
  failpoint('queue:written');
  await addEvidence(manager, {
    key: `queued:${id}`,
    itemId: item.id,
    legId: id,
    kind: 'queued',
    at,
    bearer: leg.bearerId,
    by: item.sender,
    note: leg.note ?? (leg.path.length > 0 ? `path ${leg.path.join(',')}` : 'no digipeater'),
  });
  await appendEvents(manager, [{ type: 'item', data: { id: item.id } }], at);
  return id;
}

export async function noteOurAnswer(
  manager: EntityManager,
  answeredId: string,
  reply: ItemRow,
  at: Date,
): Promise<void> {
  const answered = await manager.getRepository(ItemEntity).findOneBy({ id: answeredId, direction: 'in' });
  if (!answered) return;
  await addEvidence(manager, {
    key: `answered by:${reply.id}`,
    itemId: answeredId,
    legId: null,
    kind: 'answered',
    at,
    by: reply.sender,
    note: reply.body,
  });
  await appendEvents(manager, [{ type: 'item', data: { id: answeredId } }], at);
}

async function lockedItem(manager: EntityManager, id: string): Promise<ItemRow> {
  const item = await manager.getRepository(ItemEntity).findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
  if (!item) throw new ProblemError(404, 'no-such-item', 'That item does not exist', `There is no item ${id}.`);
  return item;
}

/** Tries again from the beginning, as a new leg; the number stays, so that the addressee shows it once. */
export async function retryItem(source: DataSource, id: string, settings: Settings, at: Date): Promise<void> {
  ownStationUnlocked(settings);
  await source.transaction(async (manager) => {
    const item = await lockedItem(manager, id);
    const legs = await manager
      .getRepository(LegEntity)
      .find({ where: { itemId: id, role: 'convey' }, order: { createdAt: 'ASC' } });
    const last = legs.at(-1);
    if (!last || (item.direction !== 'out' && !last.detail?.relay))
      throw new ProblemError(
        409,
        'not-ours',
        'That item did not go out from here',
        'Only own texts can be sent again.',
      );
    if (legs.some((leg) => leg.nextAt !== null))
      throw new ProblemError(
        409,
        'still-trying',
        'It is still being tried',
        'It waits for its next try; nothing was changed.',
      );
    const { bearerId, path, info, detail, policy } = last;
    await queueLeg(
      manager,
      { ...item, sender: last.fromCall, addressee: last.toCall, acknowledgementAsked: last.acknowledgementAsked },
      {
        bearerId,
        path,
        info,
        policy:
          policy.tries > 0
            ? { ...settings.retry, tries: policy.tries === 1 ? 1 : settings.retry.tries }
            : settings.retry,
        detail,
      },
      at,
    );
  });
}

/** Takes an item out of the queue; what was sent before stays on record. */
export async function cancelItem(source: DataSource, id: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    const item = await lockedItem(manager, id);
    const legs = await manager.getRepository(LegEntity).findBy({ itemId: id, role: 'convey' });
    if (item.direction !== 'out' && !legs.some((leg) => leg.detail?.relay))
      throw new ProblemError(409, 'not-ours', 'That item did not go out from here', 'Only own texts can be cancelled.');
    await settleItem(manager, id, false);
    await addEvidence(manager, {
      key: `cancelled:${id}`,
      itemId: id,
      legId: legs.filter((leg) => leg.detail?.relay).at(-1)?.id ?? null,
      kind: 'cancelled',
      at,
      by: item.sender,
    });
    await appendEvents(manager, [{ type: 'item', data: { id } }], at);
  });
}

/** Lets go what a restored backup held: from here on it is due like anything else. */
export async function releaseItem(source: DataSource, id: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    await lockedItem(manager, id);
    await releaseHeld(manager, id);
    await manager.query('insert into audit (at, by_whom, what, detail) values ($1, $2, $3, $4)', [
      at,
      'the operator',
      'released what a restored backup held',
      id,
    ]);
    await appendEvents(manager, [{ type: 'item', data: { id } }], at);
  });
}

export async function fileItem(source: DataSource, id: string, filed: boolean, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    await lockedItem(manager, id);
    await manager.getRepository(ItemEntity).update({ id }, { filedAt: filed ? at : null });
    await appendEvents(manager, [{ type: 'item', data: { id } }], at);
  });
}
