import { connect, type Socket } from 'node:net';
import type { BearerState } from '@tombolo/contract';
import { reconnectDelayMs } from '@tombolo/core';
import type { Taken } from '../transmissions/taken';
import type { BearerContext } from './bearer';

const CONNECT_TIMEOUT_MS = 10_000;
const MOST_UNREAD = 64 * 1024;
/** A write that returned says only that the kernel has the octets. */
export const GIVEN_WORDS = 'given to the equipment, unconfirmed';

export interface TcpLink {
  start(): void;
  stop(): Promise<void>;
  state(): BearerState;
  write(octets: Uint8Array): Promise<Taken>;
}

export interface TcpLinkHandlers {
  readonly onUp: (write: (octets: Uint8Array) => void) => void;
  /** False when so much waits that nothing more should be read for now. */
  readonly onData: (chunk: Uint8Array) => boolean;
  readonly onDown: () => void;
}

/** A TCP connection that is made again with growing, jittered waits, and says why it is down. */
export function createTcpLink(
  address: { host: string; port: number },
  context: BearerContext,
  handlers: TcpLinkHandlers,
): TcpLink {
  let socket: Socket | null = null;
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
    const attempt = connect({ host: address.host, port: address.port });
    socket = attempt;
    attempt.setTimeout(CONNECT_TIMEOUT_MS, () => attempt.destroy(new Error('no answer within 10 s')));
    attempt.once('connect', () => {
      attempt.setTimeout(0);
      attempt.setNoDelay(true);
      attempt.setKeepAlive(true, 15_000);
      failures = 0;
      change('up', null);
      handlers.onUp((octets) => attempt.write(octets));
    });
    attempt.on('data', (chunk: Uint8Array) => {
      if (handlers.onData(chunk) || attempt.destroyed) return;
      attempt.pause();
      context.ready(() => attempt.resume());
    });
    let problem: string | null = null;
    attempt.on('error', (error) => (problem = inWords(error)));
    attempt.once('close', () => {
      if (socket === attempt) socket = null;
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
      const open = socket;
      if (open && !open.destroyed)
        await new Promise<void>((resolve) => {
          open.once('close', () => resolve());
          open.destroy();
        });
      change('off', null);
    },
    state: () => state,
    write: (octets) =>
      new Promise((resolve) => {
        const current = socket;
        if (!current || state.link !== 'up')
          return resolve({ verdict: 'not taken', words: state.reason ?? 'not connected' });
        // What waits behind a reader that does not read is with nobody: it is not given, and the connection is made anew.
        if (current.writableLength > MOST_UNREAD) {
          current.destroy(new Error('the equipment does not read what it is given'));
          return resolve({ verdict: 'not taken', words: 'the equipment does not read what it is given' });
        }
        const closed = () =>
          resolve({
            verdict: 'unknown',
            words: 'the connection broke while the frame was handed over: it may or may not go out',
          });
        current.once('close', closed);
        current.write(octets, (error) => {
          current.off('close', closed);
          resolve(
            error
              ? { verdict: 'unknown', words: `${inWords(error)}: it may or may not go out` }
              : { verdict: 'given', words: GIVEN_WORDS },
          );
        });
      }),
  };
}

function inWords(error: Error & { code?: string }): string {
  switch (error.code) {
    case 'ECONNREFUSED':
      return 'nothing listens at that address and port';
    case 'ENOTFOUND':
      return 'the host name is not known';
    case 'ECONNRESET':
      return 'the other side broke the connection';
    case 'EHOSTUNREACH':
    case 'ENETUNREACH':
      return 'no way to that host';
    case 'ETIMEDOUT':
      return 'no answer';
    default:
      return error.message;
  }
}
