import type { Server } from 'node:http';
import { Client } from 'pg';
import type { DataSource } from 'typeorm';
import { WebSocketServer, type WebSocket } from 'ws';
import { z } from 'zod';
import type { LiveEvent } from '@tombolo/contract';
import { isFriendly } from '../http/friendly';
import { EVENT_CHANNEL, eventsAfter, lastEvent, oldestEvent } from '../store/events';

const PAGE = 500;
/** A console that does not read holds at most this much before it is cut off; it resumes by number. */
const MOST_BUFFERED = 4 * 1024 * 1024;
const PING_EVERY_MS = 30_000;

export interface LiveFeed {
  start(): Promise<void>;
  stop(): Promise<void>;
}

export interface LiveFeedContext {
  readonly database: DataSource;
  readonly databaseUrl: string;
  readonly server: Server;
  readonly log: (message: string) => void;
  /** Called for each event of any process, e.g. to look at the outbox. */
  readonly onEvents: (events: readonly LiveEvent[]) => void;
}

const afterParameter = z.coerce.number().int().min(0).optional();

/**
 * Pushes events to consoles. Every process listens for all, so a console may be connected to any. A console asks with
 * `?after=N` for what it missed; when that is gone it is told to reload (`reset`).
 */
export function createLiveFeed(context: LiveFeedContext): LiveFeed {
  const { database } = context;
  const sockets = new Map<WebSocket, { after: number; alive: boolean }>();
  const upgrade = new WebSocketServer({ noServer: true, maxPayload: 1024 });
  let seen = 0;
  let listener: Client | null = null;
  let pumping: Promise<void> | null = null;
  let again = false;
  let stopped = false;
  let ping: NodeJS.Timeout | null = null;

  const deliver = (socket: WebSocket, events: readonly LiveEvent[]) => {
    const state = sockets.get(socket);
    if (!state) return;
    for (const event of events) {
      if (event.seq <= state.after) continue;
      if (socket.bufferedAmount > MOST_BUFFERED) return socket.terminate();
      socket.send(JSON.stringify(event));
      state.after = event.seq;
    }
  };

  const pump = async () => {
    do {
      again = false;
      const events = await eventsAfter(database, seen, PAGE);
      if (events.length > 0) {
        seen = events.at(-1)!.seq;
        for (const socket of sockets.keys()) deliver(socket, events);
        context.onEvents(events);
      }
      if (events.length === PAGE) again = true;
    } while (again && !stopped);
  };
  const wake = () => {
    if (stopped) return;
    if (pumping) again = true;
    else
      pumping = pump()
        .catch((error: Error) => context.log(`live feed: ${error.message}`))
        .finally(() => {
          pumping = null;
          if (again && !stopped) wake();
        });
  };

  const listen = async () => {
    if (stopped) return;
    const client = new Client({ connectionString: context.databaseUrl });
    client.on('error', (error) => {
      context.log(`live feed lost the database: ${error.message}`);
      setTimeout(() => void listen().catch(() => undefined), 1000).unref();
    });
    client.on('notification', wake);
    try {
      await client.connect();
      await client.query(`listen ${EVENT_CHANNEL}`);
      listener = client;
      wake();
    } catch (error) {
      context.log(`live feed cannot listen: ${(error as Error).message}`);
      await client.end().catch(() => undefined);
      if (!stopped) setTimeout(() => void listen(), 1000).unref();
    }
  };

  const welcome = async (socket: WebSocket, after: number | undefined) => {
    const last = await lastEvent(database);
    const state = { after: Math.min(after ?? last, last), alive: true };
    sockets.set(socket, state);
    socket.on('close', () => sockets.delete(socket));
    socket.on('error', () => socket.terminate());
    socket.on('pong', () => (state.alive = true));
    const oldest = await oldestEvent(database);
    const gone = after !== undefined && (after > last || (oldest !== null && after < oldest - 1));
    if (gone) {
      state.after = last;
      const reset: LiveEvent = { seq: last, type: 'reset', at: new Date().toISOString(), data: {} };
      socket.send(JSON.stringify(reset));
      return;
    }
    for (;;) {
      const events = await eventsAfter(database, state.after, PAGE);
      deliver(socket, events);
      if (events.length < PAGE || socket.readyState !== socket.OPEN) return;
    }
  };

  return {
    async start() {
      seen = await lastEvent(database);
      await listen();
      context.server.on('upgrade', (request, socket, head) => {
        const url = new URL(request.url ?? '/', 'http://localhost');
        const after = afterParameter.safeParse(url.searchParams.get('after') ?? undefined);
        if (url.pathname !== '/api/v1/live' || !after.success || !isFriendly(request)) {
          socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n');
          return;
        }
        upgrade.handleUpgrade(request, socket, head, (opened) => {
          welcome(opened, after.data).catch((error: Error) => {
            context.log(`live feed: ${error.message}`);
            opened.terminate();
          });
        });
      });
      ping = setInterval(() => {
        for (const [socket, state] of sockets) {
          if (!state.alive) socket.terminate();
          state.alive = false;
          socket.ping();
        }
      }, PING_EVERY_MS);
    },
    async stop() {
      stopped = true;
      if (ping) clearInterval(ping);
      await pumping;
      for (const socket of sockets.keys()) socket.close(1001);
      for (const socket of sockets.keys()) socket.terminate();
      upgrade.close();
      await listener?.end().catch(() => undefined);
    },
  };
}
