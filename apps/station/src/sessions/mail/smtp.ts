import { failpoint } from '../../store/failpoints';
import type { Dialogue } from '../dialogue';

/** One reply of an SMTP server (RFC 5321 §4.2). */
export interface SmtpReply {
  readonly code: number;
  readonly lines: readonly string[];
}

export interface SmtpMail {
  readonly from: string;
  readonly to: readonly string[];
  readonly octets: Buffer;
  /** Given back by delivery reports (RFC 3461 §4.4). */
  readonly envelopeId: string;
}

export type Submission =
  | { readonly kind: 'accepted'; readonly reply: string; readonly queueId: string | null; readonly refusedTo: string[] }
  | { readonly kind: 'refused'; readonly reply: string };

const words = ({ code, lines }: SmtpReply): string => `${code} ${lines.join(' / ')}`;
const isPositive = ({ code }: SmtpReply): boolean => code >= 200 && code < 400;

/** What may not stand in a path of the envelope: it could smuggle in a command. */
const UNSAFE = /[\s<>\u0000-\u001f\u007f]/;
const isAddress = (text: string): boolean => /.@./.test(text) && !UNSAFE.test(text);

/** Lines that begin with a dot get another one, and the end of the text (RFC 5321 §4.5.2). */
export function dotStuffed(octets: Buffer): Buffer {
  const text = octets
    .toString('latin1')
    .replace(/\r\n|\r|\n/g, '\r\n')
    .replace(/(^|\r\n)\./g, '$1..');
  return Buffer.from(`${text.endsWith('\r\n') ? text : `${text}\r\n`}.\r\n`, 'latin1');
}

/** An SMTP client over a slow half-duplex connection: commands go out together wherever the server lets them. */
export class SmtpClient {
  private extensions = new Map<string, string>();

  constructor(private readonly dialogue: Dialogue) {}

  private async reply(what: string): Promise<SmtpReply> {
    const lines: string[] = [];
    for (;;) {
      const line = await this.dialogue.readLine(what);
      const found = /^(\d{3})([ -]?)(.*)$/.exec(line);
      if (!found) throw new Error(`the gateway answered “${line.slice(0, 80)}”, which is no SMTP reply`);
      lines.push(found[3]!);
      if (found[2] !== '-') return { code: Number(found[1]), lines };
    }
  }

  async open(name: string): Promise<void> {
    const greeting = await this.reply('the greeting of the mail server');
    if (greeting.code !== 220) throw new Error(`the mail server does not serve: ${words(greeting)}`);
    this.dialogue.send(`EHLO ${name}\r\n`);
    const hello = await this.reply('the answer to EHLO');
    if (!isPositive(hello)) throw new Error(`the mail server refuses us: ${words(hello)}`);
    for (const line of hello.lines.slice(1)) {
      const [keyword = '', ...parameters] = line.trim().split(/\s+/);
      this.extensions.set(keyword.toUpperCase(), parameters.join(' '));
    }
  }

  /** Largest mail the server takes, octets; null when it does not say (RFC 1870). */
  get mostOctets(): number | null {
    const size = Number(this.extensions.get('SIZE') ?? 0);
    return size > 0 ? size : null;
  }

  /** Submits one mail; `begun` is called just before its text goes out. */
  async submit(mail: SmtpMail, begun: () => void): Promise<Submission> {
    for (const address of [mail.from, ...mail.to])
      if (!isAddress(address)) return { kind: 'refused', reply: `${address} cannot stand in an envelope` };
    const limit = this.mostOctets;
    if (limit !== null && mail.octets.length > limit)
      return { kind: 'refused', reply: `${mail.octets.length} octets; the gateway takes at most ${limit}` };
    const has = (keyword: string) => this.extensions.has(keyword);
    const parameters = [
      has('SIZE') ? ` SIZE=${mail.octets.length}` : '',
      has('8BITMIME') && mail.octets.some((octet) => octet > 127) ? ' BODY=8BITMIME' : '',
      has('DSN') ? ` RET=HDRS ENVID=${mail.envelopeId}` : '',
    ].join('');
    const notify = has('DSN') ? ' NOTIFY=SUCCESS,FAILURE' : '';
    const commands = [
      `MAIL FROM:<${mail.from}>${parameters}`,
      ...mail.to.map((address) => `RCPT TO:<${address}>${notify}`),
    ];
    const chunking = has('CHUNKING');
    if (!chunking) commands.push('DATA');
    const replies: SmtpReply[] = [];
    // RFC 2920 §3.1: DATA may end a group, but its text waits for the answer. RFC 3030: BDAT need not wait.
    if (has('PIPELINING')) this.dialogue.send(`${commands.join('\r\n')}\r\n`);
    if (has('PIPELINING') && chunking) {
      begun();
      this.chunk(mail.octets);
    }
    for (const command of commands) {
      if (!has('PIPELINING')) this.dialogue.send(`${command}\r\n`);
      replies.push(await this.reply(`the answer to ${command.split(/[ :]/)[0]}`));
    }
    const [from, ...rest] = replies as [SmtpReply, ...SmtpReply[]];
    const recipients = rest.slice(0, mail.to.length);
    const refusedTo = mail.to.filter((_, i) => !isPositive(recipients[i]!));
    const data = rest[mail.to.length];
    const refusal = !isPositive(from)
      ? from
      : refusedTo.length === mail.to.length
        ? recipients[0]!
        : data && data.code !== 354
          ? data
          : null;
    if (chunking && !has('PIPELINING') && !refusal) {
      begun();
      this.chunk(mail.octets);
    }
    if (refusal) {
      if (data?.code === 354) {
        // RFC 2920 §3.1: the server waits for a text that has no recipient; an empty one ends it.
        this.dialogue.send('.\r\n');
        await this.reply('the end of the empty text');
      } else if (chunking && has('PIPELINING')) await this.reply('the answer to BDAT');
      await this.reset();
      return { kind: 'refused', reply: words(refusal) };
    }
    if (!chunking) {
      begun();
      this.dialogue.stream.write(dotStuffed(mail.octets));
    }
    failpoint('mail:given');
    const taken = await this.reply('the gateway to take the mail');
    if (!isPositive(taken)) return { kind: 'refused', reply: words(taken) };
    const queueId = /(?:queued as|id)[ =:]+(\S+)/i.exec(taken.lines.join(' '))?.[1] ?? null;
    return { kind: 'accepted', reply: words(taken), queueId, refusedTo };
  }

  /** RFC 3030 §2: the size stands in front, so nothing has to be stuffed. */
  private chunk(octets: Buffer): void {
    this.dialogue.stream.write(Buffer.concat([Buffer.from(`BDAT ${octets.length} LAST\r\n`), octets]));
  }

  private async reset(): Promise<void> {
    this.dialogue.send('RSET\r\n');
    await this.reply('the answer to RSET');
  }

  async quit(): Promise<void> {
    this.dialogue.send('QUIT\r\n');
    await this.reply('the answer to QUIT');
  }
}
