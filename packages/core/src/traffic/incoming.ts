import type { MessageData } from '../aprs/message';

/**
 * How long the same number and text from the same station count as a repeat of one message. Senders give up within
 * minutes to an hour; numbers come round again after days. (Common practice, no source.)
 */
export const REPEAT_WINDOW_MS = 2 * 3600_000;

export interface StoredMessage {
  readonly number: string | null;
  readonly text: string;
  readonly heardAtMs: number;
}

/** What to do with a message addressed to us. */
export type IncomingDecision =
  | { readonly action: 'store'; readonly answer: 'ack' | null }
  | { readonly action: 'repeat'; readonly answer: 'ack'; readonly of: StoredMessage }
  | { readonly action: 'reject'; readonly answer: 'rej' }
  /** No room, and no number by which to tell the sender. */
  | { readonly action: 'no room'; readonly answer: null };

/**
 * Decides on a message from one station, given what that station sent before. A numbered message heard
 * again is acknowledged again and shown once; a new one is rejected when the store is full.
 */
export function decideIncoming(
  message: Extract<MessageData, { kind: 'message' }>,
  heardAtMs: number,
  earlier: readonly StoredMessage[],
  storeFull: boolean,
): IncomingDecision {
  if (message.number !== null) {
    const before = earlier.find(
      (stored) =>
        stored.number === message.number &&
        stored.text === message.text &&
        Math.abs(heardAtMs - stored.heardAtMs) <= REPEAT_WINDOW_MS,
    );
    if (before) return { action: 'repeat', answer: 'ack', of: before };
    return storeFull ? { action: 'reject', answer: 'rej' } : { action: 'store', answer: 'ack' };
  }
  return storeFull ? { action: 'no room', answer: null } : { action: 'store', answer: null };
}
