import { airTimeMs, type ChannelTiming } from '@tombolo/core';
import type { AtEquipment, Taken } from './taken';

/** Between two frames others get a chance to begin: about two slots and a transmit delay. (Common practice, no source.) */
const SPACING_MS = 400;
/** Frames of a connection go ahead of the air so far: about one window of full frames at 1200 Bd. */
const AHEAD_MS = 8000;
/** An emergency does not wait for a session to end, only for what is on its way to the air. */
const URGENT_AHEAD_MS = 2500;
/** More frames of connections than this do not wait: windows are small, so whoever makes more is broken. */
const MOST_WAITING = 512;
/** For so long it is known what was sent for connections. */
const KEPT_MS = 600_000;

export interface Transmitter {
  /** A frame that has its turn: handed over now, or not at all. */
  now(frame: Uint8Array, line: string): Promise<Taken>;
  /** A frame of a connection: it may wait, and is not dropped; an equal one that waits already stands for it. */
  later(frame: Uint8Array, line: string): void;
  /** When the next frame may be handed over. */
  freeAtMs(urgent: boolean): number;
  /** What the equipment has, by the air time of what it was given. */
  atEquipment(): AtEquipment[];
  waiting(): number;
  /** Air time of what was sent for connections since then, on the frequency of now, ms: of these no attempt is on record. */
  connectionsMs(sinceMs: number): number;
  /** Frames of connections stay here until then: something urgent waits for the channel. What the equipment has it keeps. */
  giveWay(untilMs: number): void;
  /** From here on it sends on another frequency. */
  retuned(): void;
  /** Looks again: something was let go. */
  wake(): void;
  stop(): void;
}

/**
 * Hands frames to a modem no faster than the air takes them, so that what is held can really be held: a modem takes everything and tells
 * nothing, and nobody can take it back.
 */
export function createTransmitter(context: {
  readonly now: () => number;
  readonly timing: () => ChannelTiming;
  /** Why nothing may go out now; null when it may. */
  readonly closed: () => string | null;
  readonly held: () => boolean;
  readonly write: (frame: Uint8Array) => Promise<Taken>;
}): Transmitter {
  const queue: { frame: Uint8Array; line: string }[] = [];
  let given: AtEquipment[] = [];
  let busyUntilMs = 0;
  let ofConnections: { readonly atMs: number; readonly ms: number }[] = [];
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;
  let giveWayUntilMs = 0;

  const handOver = (frame: Uint8Array, line: string): Promise<Taken> => {
    const now = context.now();
    busyUntilMs = Math.max(now, busyUntilMs) + airTimeMs(frame, context.timing());
    given = [...given.filter(({ untilMs }) => untilMs > now), { line, untilMs: busyUntilMs }];
    return context.write(frame);
  };
  const pump = () => {
    if (timer) clearTimeout(timer);
    timer = null;
    while (!stopped && queue.length > 0) {
      if (context.closed() !== null) {
        // Held, they wait; locked, they are of no use: the other side gives up by itself.
        if (!context.held()) queue.length = 0;
        return;
      }
      const wait = Math.max(busyUntilMs - AHEAD_MS, giveWayUntilMs) - context.now();
      if (wait > 0) {
        timer = setTimeout(pump, wait);
        return;
      }
      const next = queue.shift()!;
      // A bearer that broke has told so itself; the connection finds out by its timers.
      const now = context.now();
      const ms = airTimeMs(next.frame, context.timing());
      void handOver(next.frame, next.line).then(({ verdict }) => {
        if (verdict !== 'not taken')
          ofConnections = [...ofConnections.filter(({ atMs }) => atMs > now - KEPT_MS), { atMs: now, ms }];
      });
    }
  };

  return {
    async now(frame, line) {
      const closed = stopped ? 'the bearer was switched off' : context.closed();
      if (closed !== null) return { verdict: 'not taken', words: closed };
      return handOver(frame, line);
    },
    later(frame, line) {
      if (stopped || queue.length >= MOST_WAITING) return;
      if (queue.some((one) => Buffer.compare(one.frame, frame) === 0)) return;
      queue.push({ frame, line });
      pump();
    },
    freeAtMs: (urgent) => (urgent ? busyUntilMs - URGENT_AHEAD_MS : busyUntilMs + SPACING_MS),
    atEquipment: () => given.filter(({ untilMs }) => untilMs > context.now()),
    waiting: () => queue.length,
    connectionsMs: (sinceMs) => ofConnections.reduce((sum, { atMs, ms }) => sum + (atMs > sinceMs ? ms : 0), 0),
    giveWay: (untilMs) => (giveWayUntilMs = untilMs),
    retuned: () => (ofConnections = []),
    wake: pump,
    stop() {
      stopped = true;
      if (timer) clearTimeout(timer);
      queue.length = 0;
    },
  };
}
