import { createServer, type AddressInfo, type Server } from 'node:net';
import { simpleParser } from 'mailparser';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import { SMTPServer } from 'smtp-server';
import { answers, firstMail, mailbox } from '@tombolo/scenario';
import type { World } from '../sim/world';

interface Stored {
  readonly uid: string;
  readonly octets: Buffer;
  deleted: boolean;
}

export interface MailRelay {
  readonly smtpPort: number;
  readonly popPort: number;
  /** Mails that were taken for delivery. */
  readonly taken: { readonly from: string; readonly to: readonly string[]; readonly octets: Buffer }[];
  stop(): Promise<void>;
}

const MOST_OCTETS = 150_000;
const REPORT_AFTER_MS = 20_000;

/**
 * The mail relay behind the radio gateway: a real SMTP server and a mailbox with POP3, on loopback. It takes mail of configured senders
 * alone, delivers to made-up people, sends delivery reports (RFC 3464), and some of the people answer.
 */
export async function startMailRelay(world: World, touch: () => void): Promise<MailRelay> {
  const box: Stored[] = [];
  const taken: MailRelay['taken'] = [];
  const had = new Set<string>();
  let counter = 0;

  const deposit = async (mail: ConstructorParameters<typeof MailComposer>[0]) => {
    const octets = await new MailComposer({ date: new Date(world.now()), ...mail }).compile().build();
    box.push({ uid: `u${(++counter).toString(36)}${octets.length.toString(36)}`, octets, deleted: false });
  };
  await deposit({ from: firstMail.from, to: mailbox.address, subject: firstMail.subject, text: firstMail.text });

  const report = (envelopeId: string, recipient: string, delivered: boolean) =>
    deposit({
      from: 'postmaster@sound.example',
      to: mailbox.address,
      subject: delivered ? 'Delivered' : 'Not delivered',
      text: `Your mail to ${recipient} was ${delivered ? 'delivered' : 'not delivered'}.`,
      attachments: [
        {
          contentType: 'message/delivery-status',
          content: [
            'Reporting-MTA: dns; mail.sound.example',
            `Original-Envelope-Id: ${envelopeId}`,
            '',
            `Final-Recipient: rfc822; ${recipient}`,
            `Action: ${delivered ? 'delivered' : 'failed'}`,
            `Status: ${delivered ? '2.0.0' : '5.1.1'}`,
            ...(delivered ? [] : ['Diagnostic-Code: smtp; 550 no such mailbox']),
            '',
          ].join('\r\n'),
        },
      ],
    });

  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MOST_OCTETS,
    banner: 'mail relay of Hollin Sound',
    disableReverseLookup: true,
    onMailFrom(address, _session, callback) {
      if (address.address.toLowerCase() === mailbox.address) return callback();
      callback(Object.assign(new Error('that sender is not configured here'), { responseCode: 550 }));
    },
    onRcptTo(address, _session, callback) {
      if (address.address.endsWith('.example')) return callback();
      callback(Object.assign(new Error('no way to that domain'), { responseCode: 550 }));
    },
    onData(stream, session, callback) {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        if (stream.sizeExceeded)
          return callback(Object.assign(new Error('the mail is too large'), { responseCode: 552 }));
        const octets = Buffer.concat(parts);
        const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : '';
        const to = session.envelope.rcptTo.map(({ address }) => address);
        void simpleParser(octets).then((mail) => {
          const id = mail.messageId ?? String(counter);
          if (had.has(id)) return callback(null, 'taken before, queued as known');
          had.add(id);
          taken.push({ from, to, octets });
          callback(null, `queued as Q${taken.length.toString().padStart(4, '0')}`);
          const envelopeId = /^<([^@>]+)@/.exec(id)?.[1] ?? id;
          touch();
          for (const recipient of to) {
            world.after(REPORT_AFTER_MS, () => void report(envelopeId, recipient, !recipient.startsWith('nobody@')));
            const answer = answers[recipient];
            if (answer)
              world.after(answer.afterS * 1000, () => {
                void deposit({
                  from: recipient,
                  to: mailbox.address,
                  subject: `Re: ${mail.subject ?? ''}`,
                  text: answer.text,
                  inReplyTo: id,
                  references: [id],
                });
              });
          }
        }, callback);
      });
    },
  });
  smtp.on('error', () => undefined);
  const pop = servePop3(box);
  const listen = (server: { listen: Server['listen'] }, address: () => AddressInfo) =>
    new Promise<number>((resolve) => server.listen(0, '127.0.0.1', () => resolve(address().port)));
  return {
    smtpPort: await listen(smtp as unknown as Server, () => smtp.server.address() as AddressInfo),
    popPort: await listen(pop, () => pop.address() as AddressInfo),
    taken,
    stop: () =>
      new Promise((resolve) => {
        pop.close();
        smtp.close(() => resolve());
      }),
  };
}

/** A mailbox by POP3 (RFC 1939): USER, PASS, STAT, LIST, UIDL, TOP, RETR, DELE, RSET, NOOP, QUIT. */
function servePop3(box: Stored[]): Server {
  return createServer((client) => {
    client.on('error', () => client.destroy());
    const say = (line: string) => client.write(`${line}\r\n`);
    const lines = (text: string) => {
      const stuffed = text.replace(/\r?\n/g, '\r\n').replace(/(^|\r\n)\./g, '$1..');
      client.write(`${stuffed}${stuffed === '' || stuffed.endsWith('\r\n') ? '' : '\r\n'}.\r\n`, 'latin1');
    };
    let user = '';
    let view: Stored[] | null = null;
    const marked = new Set<number>();
    const at = (number: string | undefined): Stored | null =>
      view && number && !marked.has(Number(number)) ? (view[Number(number) - 1] ?? null) : null;
    const rows = (of: (mail: Stored) => string | number) =>
      view!.map((mail, i) => (marked.has(i + 1) ? '' : `${i + 1} ${of(mail)}\r\n`)).join('');

    const command = (line: string) => {
      const [verb = '', first, second] = line.trim().split(/\s+/);
      const name = verb.toUpperCase();
      if (name === 'QUIT') {
        for (const number of marked) view![number - 1]!.deleted = true;
        for (let i = box.length - 1; i >= 0; i--) if (box[i]!.deleted) box.splice(i, 1);
        say('+OK good bye');
        return void client.end();
      }
      if (name === 'USER') {
        user = first ?? '';
        return void say('+OK and the password');
      }
      if (name === 'PASS') {
        if (user !== mailbox.user || first !== mailbox.password) return void say('-ERR user or password is wrong');
        view = box.filter((mail) => !mail.deleted);
        return void say(`+OK ${view.length} messages`);
      }
      if (!view) return void say('-ERR say USER and PASS first');
      const mail = at(first);
      switch (name) {
        case 'STAT':
          return void say(
            `+OK ${view.length - marked.size} ${view.reduce((sum, { octets }) => sum + octets.length, 0)}`,
          );
        case 'LIST':
          say('+OK sizes follow');
          return lines(rows(({ octets }) => octets.length));
        case 'UIDL':
          say('+OK identifiers follow');
          return lines(rows(({ uid }) => uid));
        case 'TOP':
        case 'RETR': {
          if (!mail) return void say('-ERR no such message');
          const text = mail.octets.toString('latin1');
          say('+OK message follows');
          if (name === 'RETR') return lines(text);
          const end = text.indexOf('\r\n\r\n');
          const body = text
            .slice(end + 4)
            .split('\r\n')
            .slice(0, Number(second ?? 0));
          return lines(`${text.slice(0, end + 4)}${body.join('\r\n')}`);
        }
        case 'DELE':
          if (!mail) return void say('-ERR no such message');
          marked.add(Number(first));
          return void say('+OK marked');
        case 'RSET':
          marked.clear();
          return void say('+OK');
        case 'NOOP':
          return void say('+OK');
        default:
          return void say('-ERR unknown command');
      }
    };
    say('+OK mailbox of Hollin Sound');
    let rest = '';
    client.on('data', (octets) => {
      const parts = (rest + octets.toString('latin1')).split(/\r?\n/);
      rest = parts.pop() ?? '';
      for (const part of parts) command(part);
    });
  });
}
