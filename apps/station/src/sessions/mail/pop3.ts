import type { Dialogue } from '../dialogue';

/** One message of a mailbox (RFC 1939): its number holds until the mailbox is closed, its identifier for ever. */
export interface PopEntry {
  readonly number: number;
  readonly octets: number;
  readonly uid: string;
}

/** A refusal of the server, which does not end the session. */
export class PopRefusal extends Error {}

const MOST_MESSAGES = 1000;

/** A POP3 client over a connection (RFC 1939). */
export class Pop3Client {
  constructor(private readonly dialogue: Dialogue) {}

  private async status(what: string): Promise<string> {
    const line = await this.dialogue.readLine(what);
    if (/^\+OK\b/i.test(line)) return line.slice(3).trim();
    if (/^-ERR\b/i.test(line)) throw new PopRefusal(line.slice(4).trim());
    throw new Error(`the gateway answered “${line.slice(0, 80)}”, which is no POP3 status`);
  }

  private async command(line: string, shown = line): Promise<string> {
    this.dialogue.send(`${line}\r\n`, shown);
    return this.status(`the answer to ${shown}`);
  }

  /** Lines up to the single dot; stuffed dots are taken off (RFC 1939 §3). */
  private async lines(what: string): Promise<Buffer> {
    return this.dialogue.read((octets) => {
      if (octets.subarray(0, 3).toString('latin1') === '.\r\n') return { value: Buffer.alloc(0), used: 3 };
      const end = octets.indexOf('\r\n.\r\n', 0, 'latin1');
      if (end < 0) return null;
      const text = octets.subarray(0, end + 2).toString('latin1');
      return { value: Buffer.from(text.replace(/(^|\r\n)\.\./g, '$1.'), 'latin1'), used: end + 5 };
    }, what);
  }

  async open(user: string, password: string): Promise<void> {
    await this.status('the greeting of the mailbox');
    await this.command(`USER ${user}`);
    await this.command(`PASS ${password}`, 'PASS ••••');
  }

  /** What lies in the mailbox; a listing that does not hang together is told, not guessed at. */
  async list(): Promise<PopEntry[]> {
    // Both commands at once: the server answers them in order.
    this.dialogue.send('LIST\r\nUIDL\r\n');
    await this.status('the answer to LIST');
    const sizes = numbered((await this.lines('the listing')).toString('latin1'));
    await this.status('the answer to UIDL');
    const uids = numbered((await this.lines('the identifiers')).toString('latin1'));
    return [...sizes]
      .flatMap(([number, size]): PopEntry[] => {
        const uid = uids.get(number);
        return uid && /^\d+$/.test(size) ? [{ number, octets: Number(size), uid }] : [];
      })
      .slice(0, MOST_MESSAGES);
  }

  /** Header alone. */
  async top(number: number): Promise<Buffer> {
    await this.command(`TOP ${number} 0`);
    return this.lines('the header');
  }

  async retrieve(number: number): Promise<Buffer> {
    await this.command(`RETR ${number}`);
    return this.lines('the message');
  }

  async remove(number: number): Promise<void> {
    await this.command(`DELE ${number}`);
  }

  async quit(): Promise<void> {
    await this.command('QUIT');
  }
}

function numbered(text: string): Map<number, string> {
  const rows = new Map<number, string>();
  for (const line of text.split('\r\n')) {
    const found = /^(\d{1,6}) (\S{1,70})$/.exec(line.trim());
    if (found) rows.set(Number(found[1]), found[2]!);
  }
  return rows;
}
