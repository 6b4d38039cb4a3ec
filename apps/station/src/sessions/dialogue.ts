import { once } from 'node:events';
import type { LinkStream } from '@tombolo/link-stream';

/** The other side said nothing that was expected for this long. */
const SILENCE_MS = 180_000;
/** So long nothing comes when a board is done: longer than a window of frames takes to be sent again. */
const QUIET_MS = 8000;
/** More than this at once is no answer of a board or gateway. */
const MOST_OCTETS = 512 * 1024;

export interface DialogueWatch {
  /** Text of the conversation, for the record; `>` marks our lines. */
  readonly onText: (text: string) => void;
  readonly onProgress: () => void;
}

/** A conversation in lines over a connection: say something, wait for what is expected. */
export class Dialogue {
  private received: Buffer = Buffer.alloc(0);
  private failure: Error | null = null;
  private over = false;
  private wake: (() => void) | null = null;

  constructor(
    readonly stream: LinkStream,
    private readonly watch: DialogueWatch,
  ) {
    stream.on('data', (octets: Buffer) => {
      this.received = Buffer.concat([this.received, octets]);
      watch.onText(octets.toString('utf8'));
      watch.onProgress();
      if (this.received.length > MOST_OCTETS) this.failure = new Error('more came than any answer should hold');
      this.wake?.();
    });
    stream.on('error', (error) => {
      this.failure ??= error;
      this.wake?.();
    });
    const ended = () => {
      this.over = true;
      this.wake?.();
    };
    stream.on('end', ended);
    // Given up on our side there is no end, only this.
    stream.on('close', ended);
  }

  static async open(stream: LinkStream, watch: DialogueWatch): Promise<Dialogue> {
    const dialogue = new Dialogue(stream, watch);
    await new Promise<void>((resolve, reject) => {
      stream.once('connect', () => resolve());
      stream.once('error', reject);
      stream.once('close', () => reject(new Error('the connection was given up')));
    });
    return dialogue;
  }

  /**
   * As `readText`, but what is only perhaps whole counts when nothing follows it for a while: what somebody wrote may look like the end of
   * what is read.
   */
  async readWhole(whole: (text: string) => 'yes' | 'perhaps' | 'no', what: string): Promise<string> {
    for (;;) {
      const text = this.received.toString('utf8');
      const state = whole(text);
      if (state === 'yes' || (state === 'perhaps' && !(await this.moreWithin(QUIET_MS)))) {
        this.received = Buffer.alloc(0);
        return text;
      }
      if (state === 'perhaps') continue;
      if (this.failure) throw this.failure;
      if (this.over) throw new Error(`the other side hung up before ${what}`);
      await this.more(what);
    }
  }

  private moreWithin(ms: number): Promise<boolean> {
    return new Promise((resolve) => {
      if (this.over || this.failure) return resolve(false);
      const before = this.received.length;
      const timer = setTimeout(() => {
        this.wake = null;
        resolve(false);
      }, ms);
      this.wake = () => {
        this.wake = null;
        clearTimeout(timer);
        resolve(this.received.length > before);
      };
    });
  }

  /** Throws away what came unasked, so that it is not taken for the answer to what is asked next; gives how much that was. */
  dropUnasked(): number {
    const { length } = this.received;
    this.received = Buffer.alloc(0);
    return length;
  }

  /** Waits until `found` gives something of what was received; that much is taken off. */
  async read<T>(
    found: (octets: Buffer) => { readonly value: T; readonly used: number } | null,
    what: string,
  ): Promise<T> {
    for (;;) {
      const answer = found(this.received);
      if (answer) {
        this.received = this.received.subarray(answer.used);
        return answer.value;
      }
      if (this.failure) throw this.failure;
      if (this.over) throw new Error(`the other side hung up before ${what}`);
      await this.more(what);
    }
  }

  private more(what: string): Promise<void> {
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.wake = null;
        reject(new Error(`nothing came for ${SILENCE_MS / 60_000} minutes while waiting for ${what}`));
      }, SILENCE_MS);
      this.wake = () => {
        this.wake = null;
        clearTimeout(timer);
        resolve();
      };
    });
  }

  /** Everything up to and with a text that satisfies `done`. */
  readText(done: (text: string) => boolean, what: string): Promise<string> {
    return this.read((octets) => {
      const text = octets.toString('utf8');
      return done(text) ? { value: text, used: octets.length } : null;
    }, what);
  }

  /** One line without its end. */
  readLine(what: string): Promise<string> {
    return this.read((octets) => {
      const at = octets.indexOf(0x0a);
      if (at < 0) return null;
      return { value: octets.subarray(0, at).toString('utf8').replace(/\r$/, ''), used: at + 1 };
    }, what);
  }

  send(text: string, shown = text): void {
    if (this.failure) throw this.failure;
    this.watch.onText(`> ${shown.endsWith('\n') ? shown : `${shown}\n`}`);
    this.stream.write(text);
    this.watch.onProgress();
  }

  async close(): Promise<void> {
    if (this.stream.destroyed) return;
    this.stream.end();
    this.stream.resume();
    await Promise.race([
      once(this.stream, 'close').catch(() => undefined),
      new Promise((resolve) => setTimeout(resolve, 30_000).unref()),
    ]);
  }
}
