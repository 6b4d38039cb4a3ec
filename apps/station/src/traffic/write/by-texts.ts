import { checkMeshText } from '@tombolo/core';
import { ProblemError } from '../../problem-error';
import { rowsOf } from '../../store/database';
import { nextNumber } from '../legs';
import type { Prepare } from './prepared';

/** A text to a node, or to everybody on a channel; it goes out at once. */
export const byTexts: Prepare<'texts'> = async (manager, { way, content, carriage, address: node, at }) => {
  const channel = carriage.channels.find(({ name }) => name === way.channel);
  if (!channel)
    throw new ProblemError(
      422,
      'no-such-channel',
      'That channel does not exist',
      `There is no channel “${way.channel}”.`,
    );
  const fits = checkMeshText(content.body, channel.sealed);
  if (!fits.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', fits.error.reason);
  const [known] =
    node === null
      ? []
      : await rowsOf<{ tag: string }>(manager, 'select tag from mesh_node where bearer_id = $1 and node = $2', [
          way.bearerId,
          node,
        ]);
  const to = node === null ? way.channel : (known?.tag ?? node);
  return {
    item: {
      kind: 'text',
      sender: carriage.tag,
      addressee: to,
      body: content.body,
      number: await nextNumber(manager, at),
      // A text to everybody on a channel is acknowledged by nobody: at best it is heard repeated.
      acknowledgementAsked: node !== null,
    },
    leg: {
      path: [],
      info: Buffer.from(content.body, 'utf8'),
      detail: { ...(node !== null && { node }), channel: way.channel },
      note: node === null ? `to everybody on ${way.channel}` : `to node ${to}, channel ${way.channel}`,
    },
  };
};
