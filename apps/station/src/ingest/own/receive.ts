import { decideIncoming, encodeAnswer, REPEAT_WINDOW_MS } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import { rowsOf, type Queries } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { fileTakenAfterAll, lookAtInbox } from '../../arrivals/inbox';
import { sendAskedAgain } from '../../parts/asked-again';
import { touchOtherParts } from '../../parts/of-item';
import { queueAutomatic } from '../../transmissions/write';
import type { Stored } from '../store-heard';
import { answerPath } from './answer-path';
import { answerQuery } from './answer-query';
import { NO_NEWS, noteAnswer, noteServiceWord, type Message } from './answers';
import { keepArrived } from './arrived';
import { autoAnswer } from './auto-answer';

export interface OwnTrafficContext {
  readonly settings: Settings;
  /** Where we are now; null while that is not known. */
  readonly position: Settings['position'];
  /** The bearer that answers go out by; null when what was heard there is not answered. */
  readonly answerBearer: (heardOn: string | null) => string | null;
  readonly usualPath: (bearerId: string) => readonly string[];
  readonly now: () => number;
}

/** A message to us: kept, recognised as heard before, or shown as refused for want of room; and answered where that is allowed. */
export async function receive(
  queries: Queries,
  row: Stored,
  message: Message,
  own: string,
  context: OwnTrafficContext,
  touched: Set<string>,
): Promise<void> {
  const { heard, packet } = row.understood;
  const { settings } = context;
  const sender = packet!.source;
  // 1.1 addendum: it acknowledges the text that it names. Whether it answers it, it does not say.
  if (message.replyAck) await noteAnswer(queries, row, 'ack', message.replyAck, touched);
  const heardAt = new Date(heard.heardAtMs);
  const earlier = await rowsOf<{ id: string; number: string; body: string; created_at: Date }>(
    queries,
    `select id, number, body, created_at from item
     where direction = 'in' and sender = $1 and addressee = $2 and number = $3 and not refused
       and created_at between $4 and $5`,
    [
      sender,
      own,
      message.number,
      new Date(heard.heardAtMs - REPEAT_WINDOW_MS),
      new Date(heard.heardAtMs + REPEAT_WINDOW_MS),
    ],
  );
  const { standing, room } = await lookAtInbox(queries, { name: sender, kind: 'text', text: message.text }, settings);
  const decision = decideIncoming(
    message,
    heard.heardAtMs,
    earlier.map((item) => ({ number: item.number, text: item.body, heardAtMs: item.created_at.getTime() })),
    !room,
  );
  let itemId: string;
  /** A text for a person: it asks for no part, and no service says it of something else. */
  let forPerson = false;
  if (decision.action === 'repeat') {
    itemId = earlier.find((item) => item.body === message.text)!.id;
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
      note: 'the same number and text: shown once',
      packetId: row.packetId,
    });
  } else {
    const refused = decision.action !== 'store';
    const asked = {
      by: sender,
      text: message.text,
      at: heardAt,
      raw: row.understood.line,
      packetId: row.packetId,
    };
    // What is read from a recording asks for nothing now.
    const again = refused || heard.importId !== null ? null : await sendAskedAgain(queries, asked, settings, touched);
    const { offered, ...word } =
      again !== null
        ? { ...NO_NEWS, answers: again, settled: true }
        : refused
          ? NO_NEWS
          : await noteServiceWord(queries, row, message, touched);
    forPerson = !refused && again === null && !word.settled && offered.length === 0;
    if (!refused) await fileTakenAfterAll(queries, sender, own, message.text, heardAt);
    itemId = await keepArrived(queries, row, {
      kind: 'text',
      addressee: own,
      body: message.text,
      number: message.number,
      numberField: message.numberField,
      standing,
      refused,
      ...word,
    });
    for (const legId of offered)
      await queries.query('insert into answer_offer (item_id, leg_id) values ($1, $2) on conflict do nothing', [
        itemId,
        legId,
      ]);
    await touchOtherParts(queries, { id: itemId, sender, addressee: own, body: message.text, at: heardAt }, touched);
  }
  touched.add(itemId);
  if (heard.importId !== null) return;
  const bearerId = context.answerBearer(heard.bearerId);
  if (bearerId === null) return;
  const path = await answerPath(queries, row, context.usualPath(bearerId));
  // What waited in a spool may be old: its answer counts from when it was heard.
  const at = heardAt;
  if (decision.action === 'store') {
    const way = { own, bearerId, path, settings: { ...settings, position: context.position } };
    // A question that was answered needs nobody.
    if (settings.answerQueries && (await answerQuery(queries, row, message.text, itemId, way)))
      await queries.query('update item set filed_at = $2 where id = $1', [itemId, heardAt]);
    else if (forPerson) await autoAnswer(queries, { sender, text: message.text, itemId }, { ...way, at });
  }
  if (decision.answer === null || message.numberField === null) return;
  const info = encodeAnswer(decision.answer, sender, message.numberField);
  if (!info.ok) return;
  await queueAutomatic(
    queries,
    {
      itemId,
      role: decision.answer === 'ack' ? 'acknowledge' : 'reject',
      bearerId,
      fromCall: own,
      toCall: sender,
      path,
      info: info.value,
      policy: { ...settings.retry, tries: 1 },
    },
    at,
  );
}
