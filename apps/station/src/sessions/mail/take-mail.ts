import { simpleParser, type ParsedMail } from 'mailparser';
import { parseDeliveryStatus } from '@tombolo/core';
import { copyKey } from '../../arrivals/copy-key';
import { settle } from '../../transmissions/write';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { appendEvents, type NewEvent } from '../../store/events';
import { recordArrival } from '../../arrivals/arrive';
import { offerTaken } from '../offers';
import type { MailConfig, SessionContext } from '../session';

const MOST_ATTACHMENTS = 20;
const MOST_TEXT = 40_000;
/** Longer ones are legal nowhere (RFC 5322 §2.1.1 allows 998 octets a line), and are not answered to. */
const MOST_MESSAGE_ID = 998;

/** Parses a fetched mail within bounds and stores what it means: a report on ours, an answer, a new item. */
export async function takeMail(
  context: Pick<SessionContext, 'bearerId' | 'database' | 'now' | 'own' | 'proof'>,
  config: MailConfig,
  uid: string,
  octets: Buffer,
): Promise<void> {
  const mail = await simpleParser(octets, { maxHtmlLengthToParse: MOST_TEXT, skipImageLinks: true });
  const at = context.now();
  const packetId = await context.proof();
  await context.database.transaction(async (manager) => {
    const events: NewEvent[] = [{ type: 'offer', data: { bearerId: context.bearerId } }];
    const report = reportOf(mail);
    if (report !== null) await noteReport(manager, { ...context, packetId }, config, report, at, events);
    const answered = await answeredItem(manager, mail);
    const { itemId } = await recordArrival(manager, {
      externalId: copyKey('mail', mail.messageId ?? `${config.call}/${uid}`, [
        mail.from?.value[0]?.address ?? '',
        mail.date?.toISOString() ?? '',
        mail.subject ?? '',
        mail.text ?? '',
        ...mail.attachments.map(({ checksum }) => checksum),
      ]),
      messageId: mail.messageId?.slice(0, MOST_MESSAGE_ID) ?? null,
      kind: 'mail',
      sender: mail.from?.value[0]?.address ?? 'unknown sender',
      addressee: config.address,
      subject: mail.subject ?? '(no subject)',
      body: (mail.text ?? '').slice(0, MOST_TEXT).trim(),
      cc: addressesOf(mail.cc),
      at,
      bearerId: context.bearerId,
      from: config.call,
      via: [config.call],
      own: context.own,
      trace: [mail.from?.value[0]?.address ?? 'unknown sender'],
      raw: headerText(mail),
      packetId,
      note: `fetched from ${config.call}, ${octets.length} octets`,
      answers: answered?.item_id ?? null,
      info: octets,
      attachments: mail.attachments
        .filter(({ contentType }) => contentType !== 'message/delivery-status')
        .slice(0, MOST_ATTACHMENTS)
        .map(({ filename, contentType, content }) => ({
          name: (filename ?? 'without name').replace(/[/\\\u0000-\u001f]+/g, '_').slice(0, 100),
          type: contentType,
          content,
        })),
    });
    if (answered && report === null)
      await addEvidence(manager, {
        key: `answered:${answered.leg_id}:${itemId}`,
        itemId: answered.item_id,
        legId: answered.leg_id,
        kind: 'answered',
        at,
        bearer: context.bearerId,
        by: mail.from?.value[0]?.address ?? null,
        raw: headerText(mail),
        packetId,
        note: `a mail that answers it: ${mail.subject ?? ''}`,
      });
    if (answered) events.push({ type: 'item', data: { id: answered.item_id } });
    // A report speaks through the item that it is about.
    if (report !== null)
      await manager.query('update item set filed_at = $2 where id = $1 and filed_at is null', [itemId, at]);
    await offerTaken(manager, context.bearerId, uid, itemId);
    events.push({ type: 'item', data: { id: itemId } });
    await appendEvents(manager, events, at);
  });
}

/**
 * The delivery-status part of a mail that is a report from its outermost header on (RFC 6522). A text that looks like one is a text:
 * anybody can write it.
 */
function reportOf(mail: ParsedMail): string | null {
  const type = mail.headers.get('content-type');
  const outermost = typeof type === 'object' && type !== null && 'value' in type ? type : null;
  const parameters = (outermost as { params?: Record<string, string> } | null)?.params;
  if (
    (outermost as { value?: unknown } | null)?.value !== 'multipart/report' ||
    parameters?.['report-type']?.toLowerCase() !== 'delivery-status'
  )
    return null;
  const attached = mail.attachments.find(({ contentType }) => contentType === 'message/delivery-status');
  if (attached) return attached.content.toString('utf8');
  const at = mail.text?.search(/^(?:Original-Envelope-Id|Reporting-MTA):/m) ?? -1;
  return at >= 0 ? mail.text!.slice(at) : null;
}

const addressesOf = (field: ParsedMail['cc']): string[] =>
  (Array.isArray(field) ? field : field ? [field] : []).flatMap(({ value }) =>
    value.flatMap(({ address }) => (address ? [address] : [])),
  );

const headerText = (mail: ParsedMail): string =>
  mail.headerLines
    .filter(({ key }) => ['from', 'to', 'date', 'subject', 'message-id', 'in-reply-to'].includes(key))
    .map(({ line }) => line)
    .join('\n')
    .slice(0, 2000);

interface OurMail {
  item_id: string;
  leg_id: string;
}

/** The mail of ours that this one refers to (RFC 5322 §3.6.4). */
async function answeredItem(manager: EntityManager, mail: ParsedMail): Promise<OurMail | undefined> {
  const references = [mail.inReplyTo, ...(Array.isArray(mail.references) ? mail.references : [mail.references])];
  for (const reference of references) {
    const id = /^<([0-9a-f-]{36})@/.exec(reference?.trim() ?? '')?.[1];
    if (!id) continue;
    const found = await ourMail(manager, id);
    if (found) return found;
  }
  return undefined;
}

const ourMail = async (manager: EntityManager, itemId: string): Promise<OurMail | undefined> =>
  (
    await rowsOf<OurMail>(
      manager,
      `select item_id, id as leg_id from leg where item_id = $1 and role = 'convey' and bearer_id is not null
       order by created_at desc limit 1`,
      [itemId],
    )
  )[0];

const LADDER = { delivered: 'delivered', failed: 'refused', relayed: 'handed on', expanded: 'handed on' } as const;

async function noteReport(
  manager: EntityManager,
  context: Pick<SessionContext, 'bearerId'> & { readonly packetId: string | null },
  config: MailConfig,
  text: string,
  at: Date,
  events: NewEvent[],
): Promise<void> {
  const report = parseDeliveryStatus(text);
  if (!report.envelopeId) return;
  // By the gateway that it was given to, under the envelope that only that gateway knows: nobody else can say anything about it.
  const [ours] = await rowsOf<OurMail & { to_call: string }>(
    manager,
    `select item_id, id as leg_id, to_call from leg
     where bearer_id = $1 and role = 'convey' and detail->>'envelope' = $2
       and exists (select 1 from attempt a where a.leg_id = leg.id)`,
    [context.bearerId, report.envelopeId],
  );
  if (!ours) return;
  const addressees = new Set(ours.to_call.split(',').map((address) => address.trim().toLowerCase()));
  for (const { recipient, action, status, diagnostic } of report.recipients) {
    if (action === 'delayed' || !addressees.has(recipient.toLowerCase())) continue;
    await addEvidence(manager, {
      key: `report:${ours.leg_id}:${recipient}:${action}`,
      itemId: ours.item_id,
      legId: ours.leg_id,
      kind: LADDER[action],
      at,
      bearer: context.bearerId,
      by: report.reportingSystem ?? config.call,
      raw: text.slice(0, 2000),
      packetId: context.packetId,
      note: `${recipient}: ${action}${status ? ` (${status})` : ''}${diagnostic ? `, ${diagnostic}` : ''}`,
    });
  }
  // Whoever reports on it has it: it is not given again.
  await settle(manager, ours.leg_id);
  events.push({ type: 'item', data: { id: ours.item_id } });
}
