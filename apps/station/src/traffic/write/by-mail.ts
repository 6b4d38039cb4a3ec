import { connectionSeconds } from '@tombolo/core';
import { MOST_MAIL_OCTETS } from '@tombolo/contract';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { rowsOf } from '../../store/database';
import { ItemEntity } from '../../store/entities';
import { refuseEncrypted, refuseEncryptedFile } from './encrypted';
import { addressed, type Prepare } from './prepared';

/** A mail to be submitted in the next session. It is built now, so that every try is the same message. */
export const byMail: Prepare<'mail'> = async (manager, written) => {
  const { item, content, carriage, own, at } = written;
  const to = [addressed(written), ...content.alsoTo];
  refuseEncrypted(`${content.subject}\n${content.body}`);
  const attachments = content.attachments.map(({ name, type, base64 }) => ({
    name,
    type,
    content: Buffer.from(base64, 'base64'),
  }));
  for (const file of attachments) refuseEncryptedFile(file.name, file.content);
  const answered = item.answers === null ? undefined : await messageIdOf(manager, item.answers);
  const octets = await new MailComposer({
    from: { name: own, address: carriage.address },
    to,
    cc: content.cc,
    subject: content.subject,
    text: content.body,
    date: at,
    messageId: `<${item.id}@${carriage.address.split('@')[1]}>`,
    ...(answered?.startsWith('<') && { inReplyTo: answered, references: [answered] }),
    attachments: attachments.map((file) => ({ filename: file.name, contentType: file.type, content: file.content })),
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
      `It has ${octets.length} octets and would hold the channel for about ${Math.round(connectionSeconds(octets.length, carriage.path.length) / 60)} minutes; at most ${MOST_MAIL_OCTETS} are taken. Your mail is kept; leave an attachment out or make it smaller.`,
    );
  return {
    item: {
      kind: 'mail',
      sender: carriage.address,
      addressee: to.join(', '),
      cc: content.cc,
      subject: content.subject,
      body: content.body,
    },
    attachments,
    leg: {
      from: own,
      to: [...to, ...content.cc].join(','),
      path: carriage.path,
      info: octets,
      once: true,
      note: `${octets.length} octets, to be submitted to ${carriage.call} in the next session`,
    },
  };
};

/** Message identifier of the mail that is answered. */
async function messageIdOf(manager: EntityManager, itemId: string): Promise<string | undefined> {
  const [leg] = await rowsOf<{ id: string | null }>(
    manager,
    `select detail->>'messageId' as id from leg where item_id = $1 and detail ? 'messageId' limit 1`,
    [itemId],
  );
  if (leg?.id) return leg.id;
  // An earlier version kept the identifier itself as the key.
  const answered = await manager.getRepository(ItemEntity).findOneBy({ id: itemId });
  return answered?.externalId?.startsWith('mail:<') ? answered.externalId.slice('mail:'.length) : undefined;
}
