import { Duplex } from 'node:stream';
import {
  linkDown,
  stepLink,
  type LinkEnd,
  type LinkEvent,
  type LinkFrame,
  type LinkParameters,
  type LinkState,
  type LinkTimer,
} from '@tombolo/core';
import type { Clock } from './clock';

/** I fields that may wait before a writer is held back. */
const MOST_WAITING = 8;

const END_WORDS: Readonly<Record<LinkEnd, string>> = {
  local: 'the connection was ended here before everything was acknowledged',
  peer: 'the other side disconnected',
  refused: 'the other side takes no connection now',
  'no answer': 'no answer',
  reset: 'the other side started the connection anew',
  protocol: 'the other side broke the protocol of the connection',
};

/** Why a connection ended other than by an orderly close. */
export class LinkError extends Error {
  constructor(
    readonly reason: LinkEnd,
    readonly peer: string,
  ) {
    super(`${peer}: ${END_WORDS[reason]}`);
  }
}

export interface LinkStreamOptions {
  readonly peer: string;
  readonly clock: Clock;
  readonly parameters: LinkParameters;
  readonly send: (frame: LinkFrame) => void;
  readonly onEnd: () => void;
}

/**
 * A connection as an ordinary Duplex: what is written arrives in order or the stream fails with a `LinkError`. `end()`
 * disconnects when everything is acknowledged. Emits `connect` when it is up.
 */
export class LinkStream extends Duplex {
  readonly peer: string;
  private state: LinkState;
  private readonly timers = new Map<LinkTimer, () => void>();
  private held: (() => void) | null = null;
  private closing: ((error?: Error | null) => void) | null = null;
  private over = false;
  /** Octets taken from the other side and given to it and acknowledged, for progress. */
  received = 0;
  acknowledged = 0;
  /** The frame that brought the last of what was received; null before there was one. */
  lastBrought: LinkFrame | null = null;
  private given = 0;

  constructor(private readonly options: LinkStreamOptions) {
    super({ allowHalfOpen: true, readableHighWaterMark: 4096, writableHighWaterMark: 4096 });
    this.peer = options.peer;
    this.state = linkDown(options.parameters);
  }

  get mode(): LinkState['mode'] {
    return this.state.mode;
  }

  /** For the port that owns it: events from the channel. */
  handle(event: LinkEvent): void {
    const { clock, parameters, send } = this.options;
    const outcome = stepLink(this.state, event, parameters, clock.now());
    this.state = outcome.state;
    for (const { timer, afterMs } of outcome.timers) {
      this.timers.get(timer)?.();
      this.timers.delete(timer);
      if (afterMs === null) continue;
      const off = clock.after(afterMs, () => {
        this.timers.delete(timer);
        this.handle({ kind: 'timer', timer });
      });
      this.timers.set(timer, off);
    }
    for (const frame of outcome.frames) send(frame);
    let waiting = 0;
    for (const part of [...this.state.sent, ...this.state.queue]) waiting += part.length;
    this.acknowledged = Math.max(this.acknowledged, this.given - waiting);
    for (const indication of outcome.indications) {
      if (indication.kind === 'connected') this.emit('connect');
      else if (indication.kind === 'data') {
        if (event.kind === 'frame') this.lastBrought = event.frame;
        this.deliver(indication.octets);
      } else if (indication.kind === 'drained') this.drained();
      else this.ended(indication.reason, indication.clean);
    }
    if (this.held && this.state.queue.length < MOST_WAITING) {
      const go = this.held;
      this.held = null;
      go();
    }
  }

  private deliver(octets: Uint8Array): void {
    this.received += octets.length;
    if (!this.push(octets)) this.handleSoon({ kind: 'busy', busy: true });
  }

  private handleSoon(event: LinkEvent): void {
    queueMicrotask(() => {
      if (!this.over) this.handle(event);
    });
  }

  private drained(): void {
    if (this.closing) this.handleSoon({ kind: 'disconnect' });
  }

  private ended(reason: LinkEnd, clean: boolean): void {
    if (this.over) return;
    this.over = true;
    const orderly = clean && (reason === 'local' || reason === 'peer');
    const error = orderly ? null : new LinkError(reason, this.peer);
    this.options.onEnd();
    const { closing } = this;
    this.closing = null;
    const go = this.held;
    this.held = null;
    if (error) {
      this.destroy(error);
      closing?.(error);
    } else {
      this.push(null);
      if (closing) closing();
      else this.end();
    }
    go?.();
  }

  override _write(chunk: Uint8Array, _encoding: string, done: (error?: Error | null) => void): void {
    if (this.over) return done(new LinkError('peer', this.peer));
    this.given += chunk.length;
    this.handle({ kind: 'data', octets: chunk });
    if (this.over || this.state.queue.length < MOST_WAITING) done();
    else this.held = () => done();
  }

  override _read(): void {
    if (this.state.ownBusy && !this.over) this.handleSoon({ kind: 'busy', busy: false });
  }

  override _final(done: (error?: Error | null) => void): void {
    if (this.over) return done();
    this.closing = done;
    if (this.state.sent.length === 0 && this.state.queue.length === 0) this.handle({ kind: 'disconnect' });
  }

  override _destroy(error: Error | null, done: (error: Error | null) => void): void {
    if (!this.over) {
      // The machine goes on by itself until the other side knows.
      this.handle({ kind: 'disconnect' });
    }
    done(error);
  }
}
