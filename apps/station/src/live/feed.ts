import type { IncomingMessage, Server } from 'node:http';
import { createLife } from '../life';
import type { Duplex } from 'node:stream';
import type { DataSource } from 'typeorm';
import { WebSocketServer, type WebSocket } from 'ws';
import { z } from 'zod';
import type { LiveEvent, Storing } from '@tombolo/contract';
import { isFriendly } from '../http/friendly';
import { EVENT_CHANNEL, eventsAfter, lastEvent, oldestEvent } from '../store/events';
import { keepConnection } from '../store/listener';

const PAGE = 500;
/** A console that does not read holds at most this much before it is cut off; it resumes by number. */
const MOST_BUFFERED = 1024 * 1024;
const PING_EVERY_MS = 30_000;
/** More consoles at once are turned away: each costs memory. */
export const MOST_CONSOLES = 64;

export interface LiveFeed {
  start(): Promise<void>;
  /** Tells every console at once, database or not, whether what is heard is stored. */
  tellStoring(state: Storing): void;
  /** The last event that was passed on. */
  last(): number;
  stop(): Promise<void>;
}

export interface LiveFeedContext {
  readonly database: DataSource;
  readonly databaseUrl: string;
  readonly server: Server;
  readonly log: (message: string) => void;
  readonly storing: () => Storing;
  /** Called for each event of any process, e.g. to look at the outbox. */
  readonly onEvents: (events: readonly LiveEvent[]) => void;
}

const afterParameter = z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).optional();

/** What an upgrade asks for; null for anything that is no such request, however it is written. */
function wanted(request: IncomingMessage): { after: number | undefined } | null {
  try {
    const url = new URL(request.url ?? '/', 'http://station');
    const after = afterParameter.safeParse(url.searchParams.get('after') ?? undefined);
    return url.pathname === '/api/v1/live' && url.host === 'station' && after.success ? { after: after.data } : null;
  } catch {
    return null;
  }
}

/**
 * Pushes events to consoles. Every process listens for all, so a console may be connected to any. A console asks with
 * `?after=N` for what it missed; when that is gone it is told to reload (`reset`).
 */
export function createLiveFeed(context: LiveFeedContext): LiveFeed {
  const { database } = context;
  /** `after` is null until the console has caught up with what it missed. */
  const sockets = new Map<WebSocket, { after: number | null; asked: number | undefined; alive: boolean }>();
  const upgrade = new WebSocketServer({ noServer: true, maxPayload: 1024, perMessageDeflate: false });
  let seen = 0;
  let pumping: Promise<void> | null = null;
  let again = false;
  const life = createLife();

  const say = (socket: WebSocket, event: LiveEvent) => {
    if (socket.readyState !== socket.OPEN) return;
    if (socket.bufferedAmount > MOST_BUFFERED) return socket.terminate();
    socket.send(JSON.stringify(event), () => undefined);
  };
  const storingEvent = (state: Storing): LiveEvent => ({
    seq: seen,
    type: 'storing',
    at: new Date().toISOString(),
    data: { ...state },
  });

  /** In turn with the pump, so that nothing falls between what is read here and what is pushed. */
  const catchUp = async (socket: WebSocket) => {
    const state = sockets.get(socket);
    if (!state || state.after !== null) return;
    const last = await lastEvent(database);
    seen = Math.max(seen, last);
    const { asked } = state;
    const oldest = await oldestEvent(database);
    const gone = asked !== undefined && (asked > last || (oldest !== null && asked < oldest - 1));
    let after = asked === undefined || gone ? last : asked;
    if (gone) say(socket, { seq: last, type: 'reset', at: new Date().toISOString(), data: {} });
    while (after < last && socket.readyState === socket.OPEN) {
      const events = await eventsAfter(database, after, PAGE);
      if (events.length === 0) break;
      for (const event of events) say(socket, event);
      after = events.at(-1)!.seq;
    }
    state.after = after;
  };

  const pump = async () => {
    do {
      again = false;
      for (const [socket, state] of sockets) if (state.after === null) await catchUp(socket);
      const events = await eventsAfter(database, seen, PAGE);
      if (events.length > 0) {
        seen = events.at(-1)!.seq;
        for (const [socket, state] of sockets) {
          if (state.after === null) continue;
          for (const event of events) {
            if (event.seq <= state.after) continue;
            say(socket, event);
            state.after = event.seq;
          }
        }
        context.onEvents(events);
      }
      if (events.length === PAGE) again = true;
    } while (again && !life.over);
  };
  const wake = () => {
    if (life.over) return;
    if (pumping) again = true;
    else
      pumping = pump()
        .catch((error: Error) => {
          again = false;
          // Said by the watch over the database; consoles that wait catch up when it is back.
          context.log(`live feed: ${error.message}`);
        })
        .finally(() => {
          pumping = null;
          if (again && !life.over) wake();
        });
  };

  const welcome = (socket: WebSocket, asked: number | undefined) => {
    // First of all: from here on an error of this connection is nobody else's.
    socket.on('error', () => socket.terminate());
    socket.on('close', () => sockets.delete(socket));
    const state = { after: null, asked, alive: true };
    sockets.set(socket, state);
    socket.on('pong', () => (state.alive = true));
    say(socket, storingEvent(context.storing()));
    wake();
  };

  const refuse = (socket: Duplex, status: string) => {
    socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\n\r\n`, () => socket.destroy());
  };
  const onUpgrade = (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    // A refused connection may be reset, and so may one that is about to be taken.
    socket.on('error', () => socket.destroy());
    const asked = wanted(request);
    if (!asked || !isFriendly(request)) return refuse(socket, '403 Forbidden');
    if (sockets.size >= MOST_CONSOLES) return refuse(socket, '503 Service Unavailable');
    try {
      upgrade.handleUpgrade(request, socket, head, (opened) => welcome(opened, asked.after));
    } catch (error) {
      context.log(`live feed: ${(error as Error).message}`);
      socket.destroy();
    }
  };

  return {
    async start() {
      seen = await lastEvent(database);
      const listener = keepConnection({
        url: context.databaseUrl,
        name: 'listener',
        async onUp(client) {
          client.on('notification', wake);
          await client.query(`listen ${EVENT_CHANNEL}`);
          wake();
        },
        onDown: (reason) => context.log(`live feed lost the database: ${reason}`),
      });
      life.atEnd(listener.stop);
      life.atEnd(() => {
        for (const socket of sockets.keys()) socket.close(1001);
        for (const socket of sockets.keys()) socket.terminate();
        upgrade.close();
      });
      life.atEnd(() => pumping);
      upgrade.on('wsClientError', (_error, socket) => socket.destroy());
      context.server.on('upgrade', onUpgrade);
      life.atEnd(() => context.server.off('upgrade', onUpgrade));
      life.every(PING_EVERY_MS, () => {
        for (const [socket, state] of sockets) {
          if (!state.alive) socket.terminate();
          state.alive = false;
          if (socket.readyState === socket.OPEN) socket.ping(() => undefined);
        }
        // Should a notification have been lost with its connection.
        wake();
      });
    },
    tellStoring(state) {
      for (const socket of sockets.keys()) say(socket, storingEvent(state));
    },
    last: () => seen,
    stop: life.end,
  };
}
