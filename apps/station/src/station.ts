import { createServer } from 'node:http';
import { hostname } from 'node:os';
import type { AddressInfo } from 'node:net';
import { ownStation, type Settings } from '@tombolo/contract';
import type { EntityManager } from 'typeorm';
import type { StationContext } from './context';
import { createSupervisor } from './bearers/supervisor';
import { createApp } from './http/app';
import { judgeSilence } from './ingest/derived/alarms';
import { rebuildIfWanted, wantRebuild } from './ingest/derived/rebuild';
import { createPipeline, type PipelineContext } from './ingest/pipeline';
import { createLiveFeed } from './live/feed';
import { createOutbox } from './outbox/outbox';
import { openDatabase } from './store/database';
import { applyRules } from './relay/rules';
import { createSessions } from './sessions/manager';
import { appendEvents, pruneEvents } from './store/events';
import { readSettings } from './store/settings';

export interface StationOptions {
  readonly databaseUrl: string;
  /** 0 takes a free one. */
  readonly port: number;
  readonly webFolder: string | null;
  readonly simulationUrl: string | null;
  readonly version: string;
  /** Makes stations, trails, readings and links anew from the receptions first. */
  readonly rebuild?: boolean;
  readonly now?: () => number;
  readonly random?: () => number;
  readonly log?: (message: string) => void;
}

export interface Station {
  readonly url: string;
  readonly context: StationContext;
  stop(): Promise<void>;
}

const PRUNE_EVERY_MS = 3600_000;
const TURN_EVERY_MS = 5000;
const LOOPBACK = '127.0.0.1';

/** Starts the station on loopback; operators on other machines come with sign-in, not before. */
export async function startStation(options: StationOptions): Promise<Station> {
  const { now = Date.now, random = Math.random, log = (message) => console.error(message) } = options;
  const database = await openDatabase(options.databaseUrl);
  let cached: Promise<Settings> | null = null;
  const settings = () => {
    cached ??= readSettings(database).catch((error: unknown) => {
      cached = null;
      throw error;
    });
    return cached;
  };
  if (options.rebuild) await wantRebuild(database);
  await rebuildIfWanted(database, await settings(), now, log);
  let { txDelayMs } = await settings();
  let ownCall = ownStation(await settings());

  const pipelineContext: PipelineContext = {
    database,
    settings,
    now,
    log,
    answerBearer: (heardOn) => supervisor.answerBearer(heardOn),
    onStored: () => outbox.wake(),
  };
  const pipeline = createPipeline(pipelineContext);
  const supervisor = createSupervisor({
    database,
    databaseUrl: options.databaseUrl,
    now,
    random,
    log,
    heard: pipeline.push,
    txDelayMs: () => txDelayMs,
    onUp: () => outbox.wake(),
    ownCall: () => ownCall,
  });
  const outbox = createOutbox({
    database,
    settings,
    ready: supervisor.readyToTransmit,
    encode: supervisor.encode,
    transmit: supervisor.transmit,
    now,
    random,
    log,
    owner: `${hostname()}:${process.pid}:${Math.floor(random() * 1e9)}`,
  });
  const sessions = createSessions({ database, settings, connect: supervisor.connect, now, log });
  // Rules are looked at one turn after another: two turns at once would both count the same hour.
  let turns: Promise<void> = Promise.resolve();
  const ruleTurn = () =>
    (turns = turns
      .then(async () => applyRules(database, await settings(), new Date(now()), log))
      .then(outbox.wake)
      .catch((error: Error) => log(`standing rules: ${error.message}`)));
  const listeningSince = new Date(now());
  const silenceTurn = () =>
    (turns = turns
      .then(() => database.transaction((manager) => tellSilence(manager, new Date(now()), listeningSince)))
      .catch((error: Error) => log(`watches for silence: ${error.message}`)));
  const context: StationContext = {
    database,
    version: options.version,
    simulationUrl: options.simulationUrl,
    now,
    log,
    settings,
    settingsChanged: () => {
      cached = null;
      void settings().then((current) => {
        txDelayMs = current.txDelayMs;
        ownCall = ownStation(current);
      });
      outbox.wake();
    },
    bearersChanged: supervisor.refresh,
    wakeOutbox: outbox.wake,
    rulesChanged: () => void ruleTurn(),
    sessions,
    pipeline: pipelineContext,
  };

  const server = createServer(createApp(context, options.webFolder));
  const feed = createLiveFeed({
    database,
    databaseUrl: options.databaseUrl,
    server,
    log,
    onEvents: (events) => {
      // Another process may have changed settings or queued a text.
      if (events.some((event) => event.type === 'settings')) cached = null;
      if (events.some((event) => event.type === 'item' || event.type === 'settings')) outbox.wake();
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, LOOPBACK, resolve);
  });
  await feed.start();
  await supervisor.start();
  outbox.start();
  const turnTimer = setInterval(() => {
    void ruleTurn();
    void silenceTurn();
  }, TURN_EVERY_MS);
  const prune = setInterval(() => void pruneEvents(database).catch(() => undefined), PRUNE_EVERY_MS);

  return {
    url: `http://${LOOPBACK}:${(server.address() as AddressInfo).port}`,
    context,
    async stop() {
      clearInterval(prune);
      clearInterval(turnTimer);
      await turns;
      await sessions.stopAll();
      await outbox.stop();
      await supervisor.stop();
      await pipeline.stop();
      await feed.stop();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await database.destroy();
    },
  };
}

async function tellSilence(manager: EntityManager, at: Date, listeningSince: Date): Promise<void> {
  const events = await judgeSilence(manager, at, listeningSince);
  if (events.length > 0) await appendEvents(manager, events, at);
}
