import { REPEAT_WINDOW_MS, type MeshContent } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../../store/database';
import { recordArrival } from '../../arrivals/arrive';
import { copyKey } from '../../arrivals/copy-key';
import { beginOverflow, growOverflow, lookAtInbox, openOverflow } from '../../arrivals/inbox';
import { sendAskedAgain } from '../../parts/asked-again';
import { touchOtherParts } from '../../parts/of-item';
import { queueAutomatic } from '../../transmissions/write';
import type { MeshConfig } from './config';
import { nameOf } from './nodes';
import { hopWords, unnamedHops, type Received } from './own-frames';

const ACK_POLICY = { firstS: 20, factor: 2, capS: 60, tries: 1, jitter: 0.2 };

/** A text for us or for everybody; `channel` is null for one on an open channel that this station is not on. */
export async function keepText(
  manager: EntityManager,
  { bearerId, frame, line, at, packetId, touched }: Received,
  config: MeshConfig,
  settings: Settings,
  body: Extract<MeshContent, { kind: 'text' }>,
  channel: string | null,
): Promise<void> {
  const sender = await nameOf(manager, bearerId, frame.sender);
  const direct = frame.addressee === config.node;
  const addressee = direct ? config.tag : (channel ?? '');
  const externalId = copyKey('mesh', `${bearerId}/${frame.sender}/${body.n}`, [body.text]);
  const { standing, room } = await lookAtInbox(manager, { name: sender, kind: 'text', text: body.text }, settings);
  const known = await isCopy(manager, externalId, at);
  const open = room || known ? null : await openOverflow(manager, 'text', sender, addressee);
  if (open) {
    await growOverflow(manager, 'text', sender, addressee, open, body.text, at);
    touched.add(open.itemId);
    return;
  }
  const refused = !room && !known;
  const { itemId } = await recordArrival(manager, {
    externalId,
    copyWithinMs: REPEAT_WINDOW_MS,
    kind: 'text',
    sender,
    addressee,
    body: body.text,
    at,
    bearerId,
    from: sender,
    hops: unnamedHops(frame.hops),
    own: config.tag,
    trace: [frame.sender, sender],
    raw: line,
    packetId,
    note: `${hopWords(frame.hops)}, ${channel === null ? 'on an open channel that this station is not on' : `channel ${channel}`}${frame.sealed ? ', sealed' : ''}${refused ? '; there was no room for it, and it was not taken' : ''}`,
    detail: { node: frame.sender, ...(channel !== null && { channel }) },
    standing,
    refused,
  });
  if (refused) await beginOverflow(manager, 'text', sender, addressee, itemId, at);
  touched.add(itemId);
  await touchOtherParts(manager, { id: itemId, sender, addressee, body: body.text, at }, touched);
  if (!direct || refused || channel === null) return;
  if (!known) {
    const asked = { by: sender, text: body.text, at, raw: line, packetId };
    const again = await sendAskedAgain(manager, asked, settings, touched);
    if (again !== null)
      await manager.query('update item set filed_at = $2, answers = $3 where id = $1', [itemId, at, again]);
  }
  // Acknowledged each time it comes – the sender did not hear the last one – and once while that waits.
  await queueAutomatic(
    manager,
    {
      itemId,
      role: 'acknowledge',
      bearerId,
      fromCall: config.tag,
      toCall: sender,
      policy: ACK_POLICY,
      detail: { node: frame.sender, channel, acknowledges: frame.number },
    },
    at,
  );
}

/** Whether a text was taken before, within the time in which it counts as the same. */
async function isCopy(manager: EntityManager, externalId: string, at: Date): Promise<boolean> {
  const rows = await rowsOf(
    manager,
    `select 1 from item where (external_id = $1 or (external_id >= $2 and external_id < $3)) and not refused
       and created_at between $4 and $5 limit 1`,
    [
      externalId,
      `${externalId}@`,
      `${externalId}A`,
      new Date(at.getTime() - REPEAT_WINDOW_MS),
      new Date(at.getTime() + REPEAT_WINDOW_MS),
    ],
  );
  return rows.length > 0;
}

/** For us, and not to be read. */
export async function keepSealed(
  manager: EntityManager,
  { bearerId, frame, line, at, packetId, touched }: Received,
  config: MeshConfig,
  reason: string,
): Promise<void> {
  const sender = await nameOf(manager, bearerId, frame.sender);
  const text = `Cannot be read: ${reason}`;
  const open = await openOverflow(manager, 'sealed', sender, config.tag);
  if (open) {
    await growOverflow(manager, 'sealed', sender, config.tag, open, text, at);
    touched.add(open.itemId);
    return;
  }
  const { itemId } = await recordArrival(manager, {
    externalId: copyKey('mesh', `${bearerId}/${frame.sender}/sealed`, [frame.number]),
    copyWithinMs: REPEAT_WINDOW_MS,
    kind: 'text',
    sender,
    addressee: config.tag,
    body: text,
    at,
    bearerId,
    from: sender,
    hops: unnamedHops(frame.hops),
    own: config.tag,
    trace: [frame.sender, sender],
    raw: line,
    packetId,
    note: reason,
    detail: { node: frame.sender },
    undecipherable: true,
  });
  await beginOverflow(manager, 'sealed', sender, config.tag, itemId, at);
  touched.add(itemId);
}
