import type { Duplex } from 'node:stream';
import type { BearerState } from '@tombolo/contract';
import { reconnectDelayMs } from '@tombolo/core';
import type { Taken } from '../transmissions/taken';

const MOST_UNREAD = 64 * 1024;
const UNREAD_WORDS = 'the equipment does not read what it is given';
/** A write that returned says only that the kernel has the octets. */
export const GIVEN_WORDS = 'given to the equipment, unconfirmed';

export interface EquipmentLink {
  start(): void;
  stop(): Promise<void>;
  state(): BearerState;
  write(octets: Uint8Array): Promise<Taken>;
}

export interface LinkHandlers {
  readonly onUp: (write: (octets: Uint8Array) => void) => void;
  /** False when so much waits that nothing more should be read for now. */
  readonly onData: (chunk: Uint8Array) => boolean;
  readonly onDown: () => void;
}

/** What a link needs of whatever it belongs to. */
export interface LinkContext {
  readonly now: () => number;
  readonly random: () => number;
  readonly stateChanged: () => void;
  /** Calls back when what was read has found room. */
  readonly ready: (callback: () => void) => void;
}

/** A line that is being opened, or is open: octets both ways. */
export interface OpenLine {
  readonly stream: Duplex;
  /** Calls back once, when octets can pass. */
  onUp(call: () => void): void;
  /** Calls back once, when no more can, with the reason as far as one is known; also where it never opened. What it gives takes that back. */
  onDown(call: (problem: string | null) => void): () => void;
  /** Ends it; `problem` is told as the reason. */
  close(problem?: string): void;
}

/** A line to equipment that is opened again with growing, jittered waits, and says why it is down. */
export function createEquipmentLink(
  openLine: () => OpenLine,
  context: LinkContext,
  handlers: LinkHandlers,
): EquipmentLink {
  let line: OpenLine | null = null;
  let timer: NodeJS.Timeout | null = null;
  let failures = 0;
  let stopped = true;
  const iso = (ms: number) => new Date(ms).toISOString();
  let state: BearerState = {
    link: 'off',
    since: iso(context.now()),
    reason: null,
    nextTryAt: null,
  };
  const change = (link: BearerState['link'], reason: string | null, nextTryAt: string | null = null) => {
    const since = link === state.link ? state.since : iso(context.now());
    state = { ...state, link, since, reason, nextTryAt };
    context.stateChanged();
  };

  const open = () => {
    timer = null;
    if (state.link !== 'down') change('connecting', null);
    const attempt = openLine();
    line = attempt;
    attempt.onUp(() => {
      failures = 0;
      change('up', null);
      handlers.onUp((octets) => attempt.stream.write(octets));
    });
    attempt.stream.on('data', (chunk: Uint8Array) => {
      if (handlers.onData(chunk) || attempt.stream.destroyed) return;
      attempt.stream.pause();
      context.ready(() => attempt.stream.resume());
    });
    attempt.onDown((problem) => {
      if (line === attempt) line = null;
      handlers.onDown();
      if (stopped) return;
      failures++;
      const delay = reconnectDelayMs(failures, context.random());
      change('down', problem ?? 'the other side closed the connection', iso(context.now() + delay));
      timer = setTimeout(open, delay);
    });
  };

  return {
    start() {
      if (!stopped) return;
      stopped = false;
      open();
    },
    async stop() {
      stopped = true;
      if (timer) clearTimeout(timer);
      timer = null;
      const open = line;
      if (open)
        await new Promise<void>((resolve) => {
          open.onDown(() => resolve());
          open.close();
        });
      change('off', null);
    },
    state: () => state,
    write: (octets) =>
      new Promise((resolve) => {
        const current = line;
        if (!current || state.link !== 'up')
          return resolve({ verdict: 'not taken', words: state.reason ?? 'not connected' });
        // What waits behind a reader that does not read is with nobody: it is not given, and the connection is made anew.
        if (current.stream.writableLength > MOST_UNREAD) {
          current.close(UNREAD_WORDS);
          return resolve({ verdict: 'not taken', words: UNREAD_WORDS });
        }
        const noMore = current.onDown(() =>
          resolve({
            verdict: 'unknown',
            words: 'the connection broke while the frame was handed over: it may or may not go out',
          }),
        );
        current.stream.write(octets, (error) => {
          noMore();
          resolve(
            error
              ? { verdict: 'unknown', words: `${error.message}: it may or may not go out` }
              : { verdict: 'given', words: GIVEN_WORDS },
          );
        });
      }),
  };
}
