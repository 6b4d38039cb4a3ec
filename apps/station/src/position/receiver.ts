import type { PositionNow, PositionSource } from '@tombolo/contract';
import {
  bearingBetween,
  createFixReader,
  createLineSplitter,
  keepFix,
  latin1OfOctets,
  type KeptFix,
  type Position,
  type ReceiverEvent,
} from '@tombolo/core';
import { isDeepStrictEqual } from 'node:util';
import { createEquipmentLink, type EquipmentLink, type LinkContext, type OpenLine } from '../bearers/equipment-link';
import { openSerialLine } from '../bearers/serial-line';
import { openTcpLine } from '../bearers/tcp-line';
import { createGpsdReader, WATCH } from './gpsd';

/** Older, a fix is where we were. */
const FRESH_MS = 15_000;
/** Sentences have at most 82 characters (NMEA 0183); reports of gpsd are longer. */
const MOST_LINE_OCTETS = 16 * 1024;
/** The place of the station follows when it moved so far, at most so often: all distances hang on it. */
const MOVED_KM = 0.1;
const FOLLOW_MS = 30_000;

type Receiving = Exclude<PositionSource, { by: 'typed' }>;

interface Running {
  readonly source: Receiving;
  readonly link: EquipmentLink;
  read: number;
  wrong: number;
  lastWrong: string | null;
  kept: KeptFix | null;
  lostMs: number | null;
  /** Since when the line has been open without an octet; null where one came. */
  silentSinceMs: number | null;
}

export interface Receiver {
  /** Takes over what is set now. */
  adopt(source: PositionSource): Promise<void>;
  view(typed: Position | null, source: PositionSource): PositionNow;
  stop(): Promise<void>;
}

export interface ReceiverContext {
  readonly now: () => number;
  readonly random: () => number;
  /** The station has moved. */
  readonly moved: (position: Position) => Promise<unknown>;
  readonly log: (message: string) => void;
}

const openLine = (source: Receiving): OpenLine =>
  source.by === 'serial' ? openSerialLine(source) : openTcpLine(source);

/** Keeps what a position receiver says, and tells when it moved. */
export function createReceiver({ now, random, moved, log }: ReceiverContext): Receiver {
  let running: Running | null = null;
  let wanted: PositionSource = { by: 'typed' };
  let followed: { readonly at: Position; readonly ms: number } | null = null;
  const context: LinkContext = { now, random, stateChanged: () => undefined, ready: (call) => call() };

  const follow = (position: Position) => {
    const at = now();
    if (followed && (at - followed.ms < FOLLOW_MS || bearingBetween(followed.at, position).distanceKm < MOVED_KM))
      return;
    followed = { at: position, ms: at };
    moved(position).catch((error: Error) => log(`the place of the station could not be kept: ${error.message}`));
  };

  const take = (state: Running, event: ReceiverEvent | null) => {
    if (!event) return;
    if (event.is === 'wrong') {
      state.wrong++;
      state.lastWrong = event.reason;
      return;
    }
    if (event.is === 'no fix') {
      state.lostMs ??= now();
      return;
    }
    const before = state.kept;
    state.kept = keepFix(before, event.fix, now());
    if (state.kept.doubted.length > 0) {
      state.wrong++;
      state.lastWrong = 'a fix that is too far off, or back in time, to follow on the last one';
      return;
    }
    state.lostMs = null;
    follow({ latitude: event.fix.latitude, longitude: event.fix.longitude });
  };

  const run = (source: Receiving): Running => {
    const reader = source.by === 'gpsd' ? createGpsdReader() : createFixReader();
    let splitter = createLineSplitter(MOST_LINE_OCTETS);
    const state: Running = {
      source,
      read: 0,
      wrong: 0,
      lastWrong: null,
      kept: null,
      lostMs: null,
      silentSinceMs: null,
      link: createEquipmentLink(() => openLine(source), context, {
        onUp: (write) => {
          state.silentSinceMs = now();
          if (source.by === 'gpsd') write(WATCH);
        },
        onData: (chunk) => {
          state.silentSinceMs = null;
          for (const { octets, overlong } of splitter.push(chunk)) {
            const line = latin1OfOctets(octets).trim();
            if (line === '') continue;
            state.read++;
            take(state, overlong ? { is: 'wrong', reason: 'a line without an end' } : reader.push(line));
          }
          return true;
        },
        onDown: () => {
          state.silentSinceMs = null;
          splitter = createLineSplitter(MOST_LINE_OCTETS);
        },
      }),
    };
    state.link.start();
    return state;
  };

  return {
    async adopt(source) {
      wanted = source;
      if (running && isDeepStrictEqual(running.source, source)) return;
      const was = running;
      running = null;
      await was?.link.stop();
      // Changed again while the line was closed, the later one holds.
      if (source.by !== 'typed' && wanted === source && running === null) running = run(source);
    },
    view(typed, source) {
      if (source.by === 'typed') return { source, position: typed, receiver: null };
      // Chosen and not begun yet: where we were is not where we are.
      if (!running) return { source, position: null, receiver: null };
      const { link, read, wrong, lastWrong, kept, lostMs, silentSinceMs } = running;
      const state = link.state();
      const fresh = kept !== null && lostMs === null && state.link === 'up' && now() - kept.receivedMs <= FRESH_MS;
      const toldAt = kept?.fix.toldAt ?? null;
      return {
        source,
        position: fresh ? { latitude: kept.fix.latitude, longitude: kept.fix.longitude } : null,
        receiver: {
          link: state.link,
          reason: state.reason,
          read,
          wrong,
          lastWrong,
          fix: kept && { ...kept.fix, receivedAt: new Date(kept.receivedMs).toISOString() },
          fresh,
          lostAt: kept && !fresh ? new Date(lostMs ?? kept.receivedMs).toISOString() : null,
          clockAheadS: kept && toldAt !== null ? Math.round((Date.parse(toldAt) - kept.receivedMs) / 100) / 10 : null,
          silentS: source.by === 'serial' && silentSinceMs !== null ? Math.floor((now() - silentSinceMs) / 1000) : null,
        },
      };
    },
    async stop() {
      wanted = { by: 'typed' };
      const was = running;
      running = null;
      await was?.link.stop();
    },
  };
}
