import { farOf, readServiceWord, wrappedProperly, type Information } from '@tombolo/core';
import { noteBelongs } from '../../services/belongs';
import { serviceAt } from '../../services/directory';
import { provesSomething, questionsFor } from '../../services/questions';
import type { Queries } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { settle, settleItem } from '../../transmissions/write';
import type { Stored } from '../store-heard';
import { answeredTry } from './proof';

export type Message = Extract<Information, { kind: 'message' }>;
type Answer = Extract<Information, { kind: 'ack' | 'rej' }>;

/** Over the air anybody can use any call: what a packet's source says is a claim. */
const underCall = (call: string) => `under the call ${call}`;

export async function noteAnswer(
  queries: Queries,
  row: Stored,
  kind: Answer['kind'],
  number: string,
  touched: Set<string>,
): Promise<void> {
  const { packet, heard, line, words, path } = row.understood;
  const from = packet!.source;
  const leg = await answeredTry(queries, row, { from, number });
  if (!leg) return;
  // A service that acknowledges has taken the text; the person behind it has not read it yet.
  const ladder = { ack: (await serviceAt(queries, from)) ? 'accepted' : 'delivered', rej: 'refused' } as const;
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
    note:
      kind === 'rej'
        ? `the station answered that it cannot take the message, ${underCall(from)}`
        : `${words}, ${underCall(from)}`,
    packetId: row.packetId,
  });
  await settle(queries, leg.leg_id);
  await settleItem(queries, leg.item_id, true);
  touched.add(leg.item_id);
}

/** What a text from a service tells of others: which it answers, whether it needs nobody, and what it may answer. */
export interface ServiceNews {
  readonly answers: string | null;
  readonly settled: boolean;
  /** Transmissions that it fits alike; somebody says which it belongs to. */
  readonly offered: readonly string[];
}
export const NO_NEWS: ServiceNews = { answers: null, settled: false, offered: [] };

/**
 * What a gateway service says about a text that went through it: taken further, refused, or an answer. It is evidence of the one question
 * that it fits; of several that it fits alike it is evidence of none until somebody says which.
 */
export async function noteServiceWord(
  queries: Queries,
  row: Stored,
  message: Message,
  touched: Set<string>,
): Promise<ServiceNews> {
  const { packet, outer, heard, line, path } = row.understood;
  const service = wrappedProperly(outer!) ? await serviceAt(queries, packet!.source) : null;
  const word = service && readServiceWord(service, message.text);
  if (!service || !word || !provesSomething(word)) return NO_NEWS;
  const [question, ...others] = await questionsFor(queries, service, word, heard.heardAtMs);
  if (!question) return NO_NEWS;
  if (others.length > 0) return { ...NO_NEWS, offered: [question, ...others].map(({ legId }) => legId) };
  await noteBelongs(queries, question, {
    proves: word.proves,
    by: word.proves === 'answer' ? (farOf(word, question.values) ?? service.address) : service.address,
    text: message.text,
    service: service.address,
    at: new Date(heard.heardAtMs),
    bearer: heard.bearerId,
    via: path!.via,
    raw: line,
    packetId: row.packetId,
  });
  touched.add(question.itemId);
  const answer = word.proves === 'answer' || word.proves === 'told';
  return { answers: answer ? question.itemId : null, settled: !answer, offered: [] };
}
