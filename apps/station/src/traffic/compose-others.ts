import type { EntityManager, DataSource } from 'typeorm';
import { checkMeshText, connectionSeconds, looksEncrypted } from '@tombolo/core';
import {
  carriageOf,
  locksOf,
  MOST_MAIL_OCTETS,
  ownStation,
  type Carriage,
  type newMail,
  type newMeshText,
  type newPost,
  type Settings,
} from '@tombolo/contract';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { z } from 'zod';
import { ProblemError } from '../problem-error';
import { rowsOf } from '../store/database';
import { BearerEntity, ItemEntity, type ItemRow } from '../store/entities';
import { NO_MAIL, nextNumber, noteOurAnswer, queueLeg } from './compose';

/** The bearer that was chosen, with what it carries; it must carry what was written, and be allowed to. */
async function chosen<What extends Carriage['what']>(
  manager: EntityManager,
  id: string,
  what: What,
  settings: Settings,
): Promise<Extract<Carriage, { what: What }>> {
  const row = await manager.getRepository(BearerEntity).findOneBy({ id });
  const carriage = row && carriageOf(row.config);
  if (!row || carriage?.what !== what)
    throw new ProblemError(422, 'no-such-bearer', 'That link does not exist', `There is no link “${id}” of that kind.`);
  const locks = locksOf(row.config.kind, settings);
  if (locks.length > 0)
    throw new ProblemError(
      409,
      'transmit-locked',
      'The transmitter is locked',
      `${locks.join(' ')} Nothing was queued; answer this in Settings and send again.`,
    );
  return carriage as Extract<Carriage, { what: What }>;
}

/** Nothing with a hidden meaning goes out on an amateur band. */
export function refuseEncrypted(text: string): void {
  if (looksEncrypted(text))
    throw new ProblemError(
      422,
      'encrypted',
      'It looks encrypted',
      'Nothing with a hidden meaning goes out on an amateur band (in the US 47 CFR 97.113(a)(4)). Your text is kept; write it in the clear.',
    );
}

const outgoing = (
  more: Partial<ItemRow> & Pick<ItemRow, 'id' | 'kind' | 'sender' | 'addressee' | 'body' | 'createdAt'>,
): ItemRow => ({
  direction: 'out',
  precedence: 'routine',
  number: null,
  numberField: null,
  acknowledgementAsked: false,
  filedAt: null,
  refused: false,
  answers: null,
  packetId: null,
  ...NO_MAIL,
  ...more,
});

/** A message to leave at a board in the next session. The same id again changes nothing. */
export async function queuePost(
  source: DataSource,
  post: z.output<typeof newPost>,
  settings: Settings,
  at: Date,
): Promise<void> {
  const own = ownStation(settings) ?? '';
  refuseEncrypted(`${post.subject}\n${post.body}`);
  await source.transaction(async (manager) => {
    if (await manager.getRepository(ItemEntity).existsBy({ id: post.id })) return;
    const board = await chosen(manager, post.bearerId, 'messages', settings);
    const item = outgoing({
      id: post.id,
      kind: post.bulletin ? 'bulletin' : 'text',
      precedence: post.precedence,
      sender: own,
      addressee: post.to,
      subject: post.subject,
      body: post.body,
      createdAt: at,
    });
    await manager.getRepository(ItemEntity).insert(item);
    await queueLeg(
      manager,
      item,
      {
        bearerId: post.bearerId,
        path: [...board.path],
        info: Buffer.from(post.body, 'utf8'),
        policy: { ...settings.retry, tries: 1 },
        detail: { bulletin: post.bulletin },
        note: `to be left at ${board.call} in the next session`,
      },
      at,
    );
  });
}

/** A ZIP whose first member is encrypted, or a file whose name says that it is. */
function isEncryptedFile(name: string, content: Buffer): boolean {
  if (/\.(gpg|pgp|asc|p7m|age)$/i.test(name)) return true;
  return content.length > 8 && content.readUInt32BE(0) === 0x504b0304 && (content.readUInt16LE(6) & 1) === 1;
}

/** A mail to be submitted in the next session. It is built now, so that every try is the same message. */
export async function queueMail(
  source: DataSource,
  mail: z.output<typeof newMail>,
  settings: Settings,
  at: Date,
): Promise<void> {
  const own = ownStation(settings) ?? '';
  refuseEncrypted(`${mail.subject}\n${mail.body}`);
  const attachments = mail.attachments.map(({ name, type, base64 }) => ({
    name,
    type,
    content: Buffer.from(base64, 'base64'),
  }));
  for (const { name, content } of attachments)
    if (isEncryptedFile(name, content))
      throw new ProblemError(
        422,
        'encrypted',
        'An attachment is encrypted',
        `“${name}” cannot be read by everybody, and nothing encrypted goes out on an amateur band. Your mail is kept.`,
      );
  await source.transaction(async (manager) => {
    if (await manager.getRepository(ItemEntity).existsBy({ id: mail.id })) return;
    const gateway = await chosen(manager, mail.bearerId, 'mail', settings);
    const answered = mail.answers ? await manager.getRepository(ItemEntity).findOneBy({ id: mail.answers }) : null;
    const [answeredLeg] = answered
      ? await rowsOf<{ id: string | null }>(
          manager,
          `select detail->>'messageId' as id from leg where item_id = $1 and detail ? 'messageId' limit 1`,
          [answered.id],
        )
      : [];
    // An earlier version kept the identifier itself as the key.
    const answeredId =
      answeredLeg?.id ??
      (answered?.externalId?.startsWith('mail:<') ? answered.externalId.slice('mail:'.length) : undefined);
    const octets = await new MailComposer({
      from: { name: own, address: gateway.address },
      to: mail.to,
      cc: mail.cc,
      subject: mail.subject,
      text: mail.body,
      date: at,
      messageId: `<${mail.id}@${gateway.address.split('@')[1]}>`,
      ...(answeredId?.startsWith('<') && { inReplyTo: answeredId, references: [answeredId] }),
      attachments: attachments.map(({ name, type, content }) => ({ filename: name, contentType: type, content })),
      disableFileAccess: true,
      disableUrlAccess: true,
    })
      .compile()
      .build();
    if (octets.length > MOST_MAIL_OCTETS)
      throw new ProblemError(
        422,
        'too-large',
        'Too large for radio',
        `It has ${octets.length} octets and would hold the channel for about ${Math.round(connectionSeconds(octets.length, gateway.path.length) / 60)} minutes; at most ${MOST_MAIL_OCTETS} are taken. Your mail is kept; leave an attachment out or make it smaller.`,
      );
    const item = outgoing({
      id: mail.id,
      kind: 'mail',
      precedence: mail.precedence,
      sender: gateway.address,
      addressee: mail.to.join(', '),
      cc: mail.cc,
      subject: mail.subject,
      body: mail.body,
      createdAt: at,
      answers: mail.answers,
    });
    await manager.getRepository(ItemEntity).insert(item);
    for (const { name, type, content } of attachments)
      await manager.query(
        'insert into attachment (id, item_id, name, type, content) values (gen_random_uuid(),$1,$2,$3,$4)',
        [mail.id, name, type, content],
      );
    await queueLeg(
      manager,
      { ...item, sender: own, addressee: [...mail.to, ...mail.cc].join(',') },
      {
        bearerId: mail.bearerId,
        path: [...gateway.path],
        info: octets,
        policy: { ...settings.retry, tries: 1 },
        note: `${octets.length} octets, to be submitted to ${gateway.call} in the next session`,
      },
      at,
    );
    if (mail.answers !== null) await noteOurAnswer(manager, mail.answers, item, at);
  });
}

/** A text into the mesh; it goes out at once. */
export async function queueMeshText(
  source: DataSource,
  text: z.output<typeof newMeshText>,
  settings: Settings,
  at: Date,
): Promise<void> {
  await source.transaction(async (manager) => {
    if (await manager.getRepository(ItemEntity).existsBy({ id: text.id })) return;
    const mesh = await chosen(manager, text.bearerId, 'texts', settings);
    const channel = mesh.channels.find(({ name }) => name === text.channel);
    if (!channel)
      throw new ProblemError(
        422,
        'no-such-channel',
        'That channel does not exist',
        `There is no channel “${text.channel}”.`,
      );
    const fits = checkMeshText(text.body, channel.sealed);
    if (!fits.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', fits.error.reason);
    const node = 'node' in text.to ? text.to.node : null;
    const [known] = node
      ? ((await manager.query('select tag from mesh_node where bearer_id = $1 and node = $2', [
          text.bearerId,
          node,
        ])) as { tag: string }[])
      : [];
    const item = outgoing({
      id: text.id,
      kind: 'text',
      precedence: text.precedence,
      sender: mesh.tag,
      addressee: node ? (known?.tag ?? node) : text.channel,
      body: text.body,
      number: await nextNumber(manager, at),
      // A text to everybody on a channel is acknowledged by nobody: at best it is heard repeated.
      acknowledgementAsked: node !== null,
      createdAt: at,
      answers: text.answers,
    });
    await manager.getRepository(ItemEntity).insert(item);
    await queueLeg(
      manager,
      item,
      {
        bearerId: text.bearerId,
        path: [],
        info: Buffer.from(text.body, 'utf8'),
        policy: settings.retry,
        detail: { ...(node && { node }), channel: text.channel },
        note: node ? `to node ${item.addressee}, channel ${text.channel}` : `to everybody on ${text.channel}`,
      },
      at,
    );
    if (text.answers !== null) await noteOurAnswer(manager, text.answers, item, at);
  });
}
