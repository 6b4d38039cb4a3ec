import { encodeMessage, frameToSend, REPEAT_WINDOW_MS, type ServiceQuestion } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { serviceAt } from '../../services/directory';
import { rowsOf } from '../../store/database';
import { nextNumber } from '../legs';
import { worded } from './command';
import { addressed, type Prepare } from './prepared';

/** A text by packet radio; it goes out at once. */
export const byPackets: Prepare<'packets'> = async (manager, written) => {
  const { way, content, own, at } = written;
  const to = addressed(written);
  const command = content.is === 'command' ? await worded(manager, to, content) : null;
  const service = command?.question ?? (await byHand(manager, to));
  const body = content.is === 'command' ? command!.body : content.body;
  const number = way.askAcknowledgement ? await nextNumber(manager, at) : null;
  const replyAck = number === null ? undefined : await owedReplyAck(manager, to, at);
  const info = encodeMessage({ addressee: to, text: body, number, replyAck });
  if (!info.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', info.error.reason);
  const frame = frameToSend(own, way.path, info.value);
  if (!frame.ok) throw new ProblemError(422, 'path', 'The frame cannot be built', frame.error.reason);
  return {
    item: {
      kind: 'text',
      sender: own,
      addressee: to,
      body,
      number,
      acknowledgementAsked: way.askAcknowledgement,
    },
    leg: { path: way.path, info: info.value, ...(service && { detail: { service } }) },
  };
};

/** A text to a service that was written without its form: its answers find it by its words. */
const byHand = async (manager: EntityManager, to: string): Promise<ServiceQuestion | null> =>
  (await serviceAt(manager, to)) && { address: to.toUpperCase(), command: '', values: {}, byHand: true };

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
