import { connectionSeconds } from '@tombolo/core';
import { simpleParser } from 'mailparser';
import { rowsOf } from '../../store/database';
import { connectTo } from '../connect';
import type { Dialogue } from '../dialogue';
import { keepOffers, type Offer } from '../offers';
import type { MailConfig, SessionContext } from '../session';
import { beginAttempt, endAttempt, waitingLegs, type WaitingLeg } from '../waiting-legs';
import { Pop3Client, PopRefusal, type PopEntry } from './pop3';
import { SmtpClient } from './smtp';
import { failpoint } from '../../store/failpoints';
import { newEnvelope } from './envelope';
import { takeMail } from './take-mail';

/** Largest mail that is fetched; a bigger one can only be left or deleted. */
const MOST_FETCHED = 200_000;

const domainOf = (address: string): string => address.split('@')[1] ?? 'localhost';

/** A session with a gateway for radio mail: submit what waits by SMTP, then see to the mailbox by POP3 (docs/formats.md). */
export async function runMailSession(context: SessionContext, config: MailConfig): Promise<void> {
  const dialogue = await connectTo(context, config.call);
  const service = async (name: 'SMTP' | 'POP3') => {
    await dialogue.readText((text) => /say SMTP, POP3 or BYE\r?\n$/.test(text), 'the gateway to offer its services');
    dialogue.send(`${name}\r\n`);
  };
  try {
    const legs = context.request.leave ? await waitingLegs(context.database, context.bearerId) : [];
    if (legs.length > 0) {
      await service('SMTP');
      const smtp = new SmtpClient(dialogue);
      await smtp.open(`${context.own.toLowerCase()}.${domainOf(config.address)}`);
      for (const leg of legs) {
        if (context.stopped()) break;
        await submit(context, config, smtp, leg);
      }
      await smtp.quit();
    }
    await service('POP3');
    await seeToMailbox(context, config, dialogue);
    context.stage('saying goodbye');
    await dialogue.readText((text) => /say SMTP, POP3 or BYE\r?\n$/.test(text), 'the gateway to offer its services');
    dialogue.send('BYE\r\n');
    await dialogue.close();
  } catch (error) {
    dialogue.stream.destroy();
    throw error;
  }
}

async function submit(context: SessionContext, config: MailConfig, smtp: SmtpClient, leg: WaitingLeg): Promise<void> {
  context.stage(
    `sending “${leg.subject ?? ''}”, ${leg.info.length} octets, about ${connectionSeconds(leg.info.length, config.path.length)} s`,
    leg.info.length,
  );
  const envelope = leg.detail?.envelope ?? newEnvelope();
  const attempt = await beginAttempt(context.database, context.bearerId, leg, context.now(), { envelope });
  const end = (result: Parameters<typeof endAttempt>[4]) =>
    endAttempt(context.database, context.bearerId, leg, attempt, result, context.now());
  let begun = false;
  try {
    const to = leg.to_call.split(',').map((address) => address.trim());
    const result = await smtp.submit(
      { from: config.address, to, octets: leg.info, envelopeId: envelope },
      () => (begun = true),
    );
    failpoint('mail:answered');
    const packetId = await context.proof();
    if (result.kind === 'accepted')
      await end({
        kind: 'accepted',
        by: config.call,
        raw: result.reply,
        packetId,
        note: [
          `the gateway took it${result.queueId ? `, queue number ${result.queueId}` : ''}`,
          result.refusedTo.length > 0 ? `but not for ${result.refusedTo.join(', ')}` : '',
        ]
          .filter(Boolean)
          .join(', '),
        again: false,
      });
    else await end({ kind: 'refused', by: config.call, raw: result.reply, packetId, note: result.reply, again: false });
  } catch (error) {
    // Without its last answer the server has not taken it (RFC 5321 §4.1.1.4); should it have, the Message-ID is the same.
    await end({
      kind: begun ? 'interrupted' : 'not taken',
      by: null,
      raw: null,
      note: begun
        ? `${(error as Error).message}; the gateway may already have taken it. It is sent again in the next session, as the same message`
        : `${(error as Error).message}; it is sent in the next session`,
      again: true,
    });
    throw error;
  }
}

async function seeToMailbox(context: SessionContext, config: MailConfig, dialogue: Dialogue): Promise<void> {
  const pop = new Pop3Client(dialogue);
  context.stage('opening the mailbox');
  await pop.open(config.user, config.password);
  context.stage('asking what is there');
  const entries = await pop.list();
  const known = new Map(
    (
      await rowsOf<{ key: string; item_id: string | null; sender: string; subject: string; at: string }>(
        context.database,
        'select key, item_id, sender, subject, at from offer where bearer_id = $1',
        [context.bearerId],
      )
    ).map((row) => [row.key, row]),
  );
  const offers: Offer[] = [];
  for (const entry of entries) {
    const before = known.get(entry.uid);
    const header = before ?? (await headerOf(context, pop, entry));
    offers.push({
      key: entry.uid,
      number: String(entry.number),
      kind: 'mail',
      octets: entry.octets,
      from: header.sender,
      to: config.address,
      at: header.at,
      subject: header.subject,
    });
  }
  await keepOffers(context.database, context.bearerId, offers, true, context.now());

  for (const entry of entries) {
    if (context.stopped()) break;
    const taken = known.get(entry.uid)?.item_id != null;
    if (context.request.take.includes(entry.uid) && !taken) await fetchOne(context, config, pop, entry);
    else if (context.request.remove.includes(entry.uid)) {
      context.stage(`deleting no. ${entry.number}`);
      await pop.remove(entry.number).catch(onlyRefusal);
    }
  }
  await pop.quit();
}

const onlyRefusal = (error: unknown): void => {
  if (!(error instanceof PopRefusal)) throw error;
};

async function headerOf(context: SessionContext, pop: Pop3Client, entry: PopEntry) {
  context.stage(`reading the header of no. ${entry.number}`);
  try {
    const mail = await simpleParser(await pop.top(entry.number), { skipHtmlToText: true });
    return {
      sender: mail.from?.value[0]?.address ?? '',
      subject: mail.subject ?? '',
      at: mail.date?.toISOString() ?? '',
    };
  } catch (error) {
    onlyRefusal(error);
    return { sender: '', subject: '', at: '' };
  }
}

async function fetchOne(context: SessionContext, config: MailConfig, pop: Pop3Client, entry: PopEntry): Promise<void> {
  if (entry.octets > MOST_FETCHED) {
    context.text(
      `# no. ${entry.number} has ${entry.octets} octets, about ${Math.round(connectionSeconds(entry.octets, config.path.length) / 60)} min: more than is fetched by radio\n`,
    );
    return;
  }
  context.stage(
    `fetching no. ${entry.number}, ${entry.octets} octets, about ${connectionSeconds(entry.octets, config.path.length)} s`,
    entry.octets,
  );
  let octets: Buffer;
  try {
    octets = await pop.retrieve(entry.number);
  } catch (error) {
    onlyRefusal(error);
    context.text(`# no. ${entry.number} is not there any more: ${(error as Error).message}\n`);
    return;
  }
  await takeMail(context, config, entry.uid, octets);
  failpoint('mail:stored');
  // Only what is stored here is deleted there.
  await pop.remove(entry.number).catch(onlyRefusal);
}
