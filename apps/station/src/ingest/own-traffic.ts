import { randomUUID } from 'node:crypto';
import {
  acknowledgementPath,
  decideIncoming,
  encodeAnswer,
  readServiceWord,
  REPEAT_WINDOW_MS,
  serviceAt,
  type Information,
} from '@tombolo/core';
import { ownStation, type Settings } from '@tombolo/contract';
import { addCustody } from '../store/custody';
import { answerQuery } from './answer-query';
import { rowsOf, storable, type Queries } from '../store/database';
import { addEvidence, repeatersOfOurs } from '../store/evidence';
import type { NewEvent } from '../store/events';
import type { Stored } from './store-heard';

export interface OwnTrafficContext {
  readonly settings: Settings;
  /** The bearer that answers go out by; null when there is none. */
  readonly answerBearer: (heardOn: string | null) => string | null;
}

type Message = Extract<Information, { kind: 'message' }>;
type Answer = Extract<Information, { kind: 'ack' | 'rej' }>;

/**
 * What stored receptions mean for our own items: our packets heard repeated, answers to them, messages and
 * bulletins to us. Recordings prove things as of their own time; they never make us transmit.
 */
export async function applyToOwnTraffic(
  queries: Queries,
  stored: readonly Stored[],
  context: OwnTrafficContext,
): Promise<NewEvent[]> {
  const own = ownStation(context.settings);
  const touched = new Set<string>();
  const echoes = stored.filter((row) => own !== null && row.understood.packet?.source === own);
  await noteRepeats(queries, echoes, touched);
  for (const row of stored) {
    const { information, packet } = row.understood;
    if (!row.isNewPacket || !information || !packet || packet.source === own) continue;
    if (information.kind === 'bulletin') await keepBulletin(queries, row, information, touched);
    else if (own === null || !('addressee' in information) || information.addressee !== own) continue;
    else if (information.kind === 'message') await receive(queries, row, information, own, context, touched);
    else await noteAnswer(queries, row, information.kind, information.number, touched);
  }
  return [...touched].map((id) => ({ type: 'item', data: { id } }));
}

/** Our own packet heard from somebody else: it was repeated, or a gateway had it. */
async function noteRepeats(queries: Queries, echoes: readonly Stored[], touched: Set<string>): Promise<void> {
  for (const { understood, receptionId, packetId } of echoes) {
    const path = understood.path!;
    if (path.how === 'direct') continue;
    // Copies may be stamped a moment before the record of our own hand-over.
    const [attempt] = await rowsOf<{ leg_id: string; n: number; item_id: string; role: string }>(
      queries,
      `select a.leg_id, a.n, l.item_id, l.role from attempt a join leg l on l.id = a.leg_id
       where a.identity = $1 and a.intended_at <= $2 order by a.intended_at desc limit 1`,
      [understood.identity, new Date(understood.heard.heardAtMs + 2000)],
    );
    if (!attempt || attempt.role !== 'convey') continue;
    const by = path.how === 'internet' ? path.gate : (path.heardFrom ?? path.via.at(-1) ?? null);
    const isNew = await addEvidence(queries, {
      key: `relayed:${receptionId}`,
      itemId: attempt.item_id,
      legId: attempt.leg_id,
      attempt: attempt.n,
      kind: 'relayed',
      at: new Date(understood.heard.heardAtMs),
      bearer: understood.heard.bearerId,
      by,
      via: path.via,
      raw: understood.line,
      note: understood.words,
      packetId,
    });
    if (isNew) touched.add(attempt.item_id);
  }
}

interface OutgoingLeg {
  item_id: string;
  leg_id: string;
  attempt: number | null;
}

/** The leg that an answer to a number from a station is about: the latest text with that number to it. */
async function legByNumber(queries: Queries, from: string, number: string): Promise<OutgoingLeg | undefined> {
  const [leg] = await rowsOf<OutgoingLeg>(
    queries,
    `select i.id as item_id, l.id as leg_id, (select max(n) from attempt a where a.leg_id = l.id) as attempt
     from item i join leg l on l.item_id = i.id and l.role = 'convey'
     where ((i.direction = 'out' and i.number = $1 and i.addressee = $2)
         or (l.detail->>'number' = $1 and l.to_call = $2))
       and exists (select 1 from attempt a where a.leg_id = l.id)
     order by i.created_at desc, l.created_at desc limit 1`,
    [number, from],
  );
  return leg;
}

async function noteAnswer(
  queries: Queries,
  row: Stored,
  kind: Answer['kind'] | 'answered',
  number: string,
  touched: Set<string>,
): Promise<void> {
  const { packet, heard, line, words, path } = row.understood;
  const from = packet!.source;
  const leg = await legByNumber(queries, from, number);
  if (!leg) return;
  // A service that acknowledges has taken the text; the person behind it has not read it yet.
  const ladder = { ack: serviceAt(from) ? 'accepted' : 'delivered', rej: 'refused', answered: 'answered' } as const;
  await addEvidence(queries, {
    key: `${ladder[kind]}:${leg.leg_id}:${row.packetId}`,
    itemId: leg.item_id,
    legId: leg.leg_id,
    attempt: leg.attempt,
    kind: ladder[kind],
    at: new Date(heard.heardAtMs),
    bearer: heard.bearerId,
    by: from,
    via: path!.via,
    raw: line,
    note: kind === 'rej' ? 'the station answered that it cannot take the message' : words,
    packetId: row.packetId,
  });
  await queries.query(
    `update leg set next_at = null where id = $1 or (item_id = $2 and role = 'convey' and detail is null)`,
    [leg.leg_id, leg.item_id],
  );
  touched.add(leg.item_id);
}

/**
 * What a gateway service says about a text that went through it: taken further, refused, or the far side's answer.
 * Gives the item that is answered.
 */
async function noteServiceWord(
  queries: Queries,
  row: Stored,
  message: Message,
  touched: Set<string>,
): Promise<{ answers: string | null; settled: boolean }> {
  const { packet, heard, line, path } = row.understood;
  const service = serviceAt(packet!.source);
  const word = service ? readServiceWord(service, message.text) : null;
  if (!service || !word) return { answers: null, settled: false };
  const far = word.kind === 'answer' ? word.from : word.kind === 'accepted' ? word.to : null;
  const [leg] = await rowsOf<OutgoingLeg>(
    queries,
    `select l.item_id, l.id as leg_id, (select max(n) from attempt a where a.leg_id = l.id) as attempt from leg l
     where l.role = 'convey' and l.to_call = $1 and l.created_at > $3
       and ($2::text is null or l.detail->'relay'->>'far' = $2 or l.detail is null)
       and exists (select 1 from attempt a where a.leg_id = l.id)
     order by l.created_at desc limit 1`,
    [service.address, far, new Date(heard.heardAtMs - ANSWER_WINDOW_MS)],
  );
  if (!leg) return { answers: null, settled: false };
  const kind = word.kind === 'answer' ? 'answered' : word.kind === 'accepted' ? 'handed on' : 'refused';
  await addEvidence(queries, {
    key: `${kind}:${leg.leg_id}:${row.packetId}`,
    itemId: leg.item_id,
    legId: leg.leg_id,
    attempt: leg.attempt,
    kind,
    at: new Date(heard.heardAtMs),
    bearer: heard.bearerId,
    by: word.kind === 'answer' ? word.from : service.address,
    via: path!.via,
    raw: line,
    note: message.text,
    packetId: row.packetId,
  });
  await queries.query('update leg set next_at = null where id = $1', [leg.leg_id]);
  touched.add(leg.item_id);
  return { answers: word.kind === 'answer' ? leg.item_id : null, settled: word.kind !== 'answer' };
}

/** An answer from a phone or a mailbox may take a day. (Common practice, no source.) */
const ANSWER_WINDOW_MS = 24 * 3600_000;

async function receive(
  queries: Queries,
  row: Stored,
  message: Message,
  own: string,
  context: OwnTrafficContext,
  touched: Set<string>,
): Promise<void> {
  const { heard, packet } = row.understood;
  const sender = packet!.source;
  if (message.replyAck) {
    await noteAnswer(queries, row, 'ack', message.replyAck, touched);
    await noteAnswer(queries, row, 'answered', message.replyAck, touched);
  }
  const heardAt = new Date(heard.heardAtMs);
  const earlier = await rowsOf<{ id: string; number: string; body: string; created_at: Date; refused: boolean }>(
    queries,
    `select id, number, body, created_at, refused from item
     where direction = 'in' and sender = $1 and addressee = $2 and number = $3 and created_at between $4 and $5`,
    [
      sender,
      own,
      message.number,
      new Date(heard.heardAtMs - REPEAT_WINDOW_MS),
      new Date(heard.heardAtMs + REPEAT_WINDOW_MS),
    ],
  );
  const [{ kept }] = (await rowsOf<{ kept: string }>(
    queries,
    `select count(*) as kept from item where direction = 'in' and kind = 'text' and filed_at is null`,
  )) as [{ kept: string }];
  const decision = decideIncoming(
    message,
    heard.heardAtMs,
    earlier
      .filter((item) => !item.refused)
      .map((item) => ({ number: item.number, text: item.body, heardAtMs: item.created_at.getTime() })),
    Number(kept) >= context.settings.storeLimit,
  );
  let itemId: string;
  if (decision.action === 'repeat') {
    itemId = earlier.find((item) => !item.refused && item.body === message.text)!.id;
    await addEvidence(queries, {
      key: `again:${row.packetId}`,
      itemId,
      legId: null,
      kind: 'heard again',
      at: heardAt,
      bearer: heard.bearerId,
      by: sender,
      via: row.understood.path!.via,
      raw: row.understood.line,
      note: 'the same number and text: shown once, acknowledged again',
      packetId: row.packetId,
    });
  } else {
    // A refused message is recorded too: an operator must see that somebody tried.
    const refused = decision.action !== 'store';
    const triedBefore = earlier.find((item) => item.refused && item.body === message.text);
    const word = refused ? { answers: null, settled: false } : await noteServiceWord(queries, row, message, touched);
    itemId =
      refused && triedBefore
        ? triedBefore.id
        : await keepArrived(queries, row, {
            kind: 'text',
            addressee: own,
            body: message.text,
            number: message.number,
            numberField: message.numberField,
            refused,
            ...word,
          });
  }
  touched.add(itemId);
  if (heard.importId !== null) return;
  const bearerId = context.answerBearer(heard.bearerId);
  if (bearerId === null) return;
  const heardPath = row.understood.path!;
  const repeatsUs = heardPath.via.length === 1 && (await repeatersOfOurs(queries)).has(heardPath.via[0]!);
  const path = acknowledgementPath({ ...heardPath, repeatsUs }, context.settings.path);
  if (decision.action === 'store' && context.settings.answerQueries) {
    const way = { own, bearerId, path, settings: context.settings };
    // A question that was answered needs nobody.
    if (await answerQuery(queries, row, message.text, itemId, way))
      await queries.query('update item set filed_at = $2 where id = $1', [itemId, heardAt]);
  }
  if (decision.answer === null || message.numberField === null) return;
  const info = encodeAnswer(decision.answer, sender, message.numberField);
  if (!info.ok) return;
  await queries.query(
    `insert into leg (id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, created_at, next_at)
     values ($1,$2,$3,$4,$5,$6,$7,$8,false,$9,$10,$10)`,
    [
      randomUUID(),
      itemId,
      decision.answer === 'ack' ? 'acknowledge' : 'reject',
      bearerId,
      own,
      sender,
      path,
      Buffer.from(info.value),
      JSON.stringify({ ...context.settings.retry, tries: 1 }),
      heardAt,
    ],
  );
}

async function keepBulletin(
  queries: Queries,
  row: Stored,
  bulletin: Extract<Information, { kind: 'bulletin' }>,
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
  // Bulletins are sent again and again on purpose: one item, nothing to record.
  if (before) return;
  touched.add(
    await keepArrived(queries, row, {
      kind: 'bulletin',
      addressee: bulletin.addressee,
      body,
      number: null,
      numberField: null,
      refused: false,
    }),
  );
}

/** The same bulletin heard again within a day is the same bulletin. (Common practice, no source.) */
const BULLETIN_WINDOW_MS = 24 * 3600_000;

interface Arrived {
  readonly kind: 'text' | 'bulletin';
  readonly addressee: string;
  readonly body: string;
  readonly number: string | null;
  readonly numberField: string | null;
  /** The store was full: recorded, filed, and not taken. */
  readonly refused: boolean;
  /** The item of ours, or that we handed on, which it answers. */
  readonly answers?: string | null;
  /** It spoke of another item and needs nobody: filed at once. */
  readonly settled?: boolean;
}

async function keepArrived(queries: Queries, row: Stored, arrived: Arrived): Promise<string> {
  const { packet, heard, path, line, words } = row.understood;
  const itemId = randomUUID();
  const legId = randomUUID();
  const at = new Date(heard.heardAtMs);
  const addressee = storable(arrived.addressee);
  await queries.query(
    `insert into item (id, direction, kind, precedence, sender, addressee, body, number, number_field,
                       acknowledgement_asked, created_at, filed_at, refused, packet_id, answers, trace)
     values ($1,'in',$2,'routine',$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14)`,
    [
      itemId,
      arrived.kind,
      packet!.source,
      addressee,
      storable(arrived.body),
      arrived.number,
      arrived.numberField,
      arrived.number !== null,
      at,
      arrived.refused || arrived.settled ? at : null,
      arrived.refused,
      row.packetId,
      arrived.answers ?? null,
      [packet!.source, ...path!.via],
    ],
  );
  await queries.query(
    `insert into leg (id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, created_at)
     values ($1,$2,'convey',$3,$4,$5,'{}',$6,false,'{}',$7)`,
    [legId, itemId, heard.bearerId, packet!.source, addressee, Buffer.from(packet!.info), at],
  );
  const common = { itemId, legId, at, bearer: heard.bearerId, via: path!.via, raw: line, packetId: row.packetId };
  await addEvidence(queries, {
    ...common,
    key: `arrived:${row.packetId}`,
    kind: 'delivered',
    by: packet!.source,
    note: arrived.refused ? `${words}; the store was full` : words,
  });
  await addCustody(queries, {
    key: `received:${itemId}`,
    itemId,
    what: 'received',
    other: packet!.source,
    at,
    by: addressee,
    bearer: heard.bearerId,
    note: words,
  });
  return itemId;
}
