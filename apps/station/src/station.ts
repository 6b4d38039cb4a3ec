import { hostname } from 'node:os';
import { ownStation } from '@tombolo/contract';
import type { BackupAccess } from './backup/access';
import type { StationContext } from './context';
import { createLife, type Life } from './life';
import { createSupervisor } from './bearers/supervisor';
import type { HeavyFiles } from './heavy/files';
import { createHold } from './hold';
import { createApp } from './http/app';
import { closeServer, createWebServer, listenOnLoopback } from './http/server';
import { wantRebuild } from './ingest/derived/rebuild';
import { jobKinds, STANDING_RULES } from './job-kinds';
import { createJobs } from './jobs/jobs';
import { makeMonthsAhead } from './retention/months';
import { BACKUP_JOB } from './backup/plan';
import type { PipelineContext } from './ingest/ingest';
import { createPipeline } from './ingest/pipeline';
import { openSpool, SPOOL_OCTETS } from './ingest/spool';
import { createLiveFeed } from './live/feed';
import { openDatabase, type Purpose } from './store/database';
import { createSessions } from './sessions/manager';
import { pathOfAnswer } from './planning/answer-road';
import { planningOf } from './planning/of-station';
import { createPositionEquipment } from './position/position-equipment';
import { createKnownSettings } from './store/known-settings';
import { changeSettings } from './store/settings';
import { watchStoring } from './store/storing';
import { createRefusals } from './transmissions/account';
import { createGate } from './transmissions/gate';
import { createOutbox } from './transmissions/outbox';

export interface StationOptions {
  /** As the role that works in the database and does not own it. */
  readonly databaseUrl: string;
  /** 0 takes a free one. */
  readonly port: number;
  readonly webFolder: string | null;
  readonly simulationUrl: string | null;
  readonly version: string;
  /** Makes stations, trails, readings and links anew from the receptions. */
  readonly rebuild?: boolean;
  /** Room on the disk for what is heard while the database is away; without it memory alone is there. */
  readonly spool?: { readonly path: string; readonly octets?: number } | null;
  readonly backup?: BackupAccess | null;
  /** Folder for backups that are made by the clock. */
  readonly backupFolder?: string | null;
  /** Folder for months of what was heard, before they are dropped; without it none is. */
  readonly archive?: string | null;
  readonly heavy: HeavyFiles;
  readonly now?: () => number;
  readonly random?: () => number;
  readonly log?: (message: string) => void;
}

export interface Station {
  readonly url: string;
  readonly context: StationContext;
  stop(): Promise<void>;
}

const LOOK_AT_HOLD_MS = 5000;

/** Starts the station on loopback; operators on other machines come with sign-in, not before. */
export async function startStation(options: StationOptions): Promise<Station> {
  const life = createLife();
  try {
    return await begin(options, life);
  } catch (error) {
    // What had begun already holds connections, a port, perhaps a radio.
    await life.end().catch(() => undefined);
    throw error;
  }
}

/** Begins one thing after the other; each ends before what it stands on. */
async function begin(options: StationOptions, life: Life): Promise<Station> {
  const { now = Date.now, random = Math.random, log = (message) => console.error(message) } = options;
  const open = async (purpose: Purpose) => {
    const source = await openDatabase(options.databaseUrl, purpose);
    life.atEnd(() => source.destroy());
    return source;
  };
  const database = await open('work');
  const pages = await open('pages');
  const known = createKnownSettings({ database, now });
  const settings = known.read;
  if (options.rebuild) await wantRebuild(database);
  // Without them what is heard lies with the rest, and moves when they are made.
  await makeMonthsAhead(database, new Date(now())).catch((error: Error) => log(`months: ${error.message}`));
  const owner = `${hostname()}:${process.pid}:${Math.floor(random() * 1e9)}`;

  const gate = createGate(known.last);
  const refusals = createRefusals({ database, settings: known.last, now });
  const storing = watchStoring({ database, now, log, onChange: (state) => feed.tellStoring(state) });
  life.atEnd(storing.stop);
  const spool = options.spool
    ? await openSpool(options.spool.path, options.spool.octets ?? SPOOL_OCTETS).catch((error: Error) => {
        log(`no room was set aside for what is heard while the database is away: ${error.message}`);
        return null;
      })
    : null;
  const pipelineContext: PipelineContext = {
    database,
    settings,
    now,
    log,
    positionNow: (current) => positionEquipment.positionIn(current).position,
    answerBearer: (heardOn) => supervisor.answerBearer(heardOn),
    usualPath: (bearerId) => supervisor.usualPath(bearerId),
    onStored: () => outbox.wake(),
  };
  const pipeline = createPipeline({
    ...pipelineContext,
    storing,
    spool,
  });
  life.atEnd(pipeline.stop);
  const supervisor = createSupervisor({
    database,
    databaseUrl: options.databaseUrl,
    now,
    random,
    log,
    heard: pipeline.push,
    ready: pipeline.ready,
    gate,
    refusals: () => refusals,
    onUp: () => outbox.wake(),
    ownCall: () => {
      const current = known.last();
      return current ? ownStation(current) : null;
    },
  });
  life.atEnd(supervisor.stop);
  const outbox = createOutbox({
    database,
    settings,
    ready: supervisor.readyToTransmit,
    now,
    random,
    log,
    owner,
    pathOfAnswer: async (answer) => pathOfAnswer(await planning(), answer),
  });
  life.atEnd(outbox.stop);
  const planning = () => planningOf({ database, settings, now, positionNow, bearers: supervisor });
  const sessions = createSessions({
    database,
    settings,
    connect: supervisor.connect,
    hold: supervisor.holdSession,
    free: supervisor.freeSession,
    closed: gate.closed,
    stored: pipeline.idle,
    now,
    log,
  });
  life.atEnd(sessions.stopAll);
  const retention = { database, settings, archive: options.archive ?? null };
  const backupPlan = {
    database,
    settings,
    access: options.backup ?? null,
    folder: options.backupFolder ?? null,
    version: options.version,
    now,
  };
  const positionEquipment = createPositionEquipment({
    database: pages,
    settings,
    now,
    random,
    log,
    moved: async (position) => {
      await changeSettings(database, { position }, new Date(now()));
      await settingsChanged();
    },
  });
  life.atEnd(positionEquipment.stop);
  const { positionNow, waypoints } = positionEquipment;
  const jobs = createJobs({
    database,
    owner,
    now,
    log,
    ready: () => storing.state().storing,
    failed: storing.failed,
    kinds: jobKinds({
      database,
      databaseUrl: options.databaseUrl,
      heavy: options.heavy,
      settings,
      supervisor,
      retention,
      backupPlan,
      positionNow,
      planning,
      wakeOutbox: () => outbox.wake(),
      listeningSince: new Date(now()),
      now,
      log,
    }),
  });
  life.atEnd(jobs.stop);
  const settingsChanged = async () => {
    try {
      await known.readAnew();
      outbox.wake();
      supervisor.wake();
      await positionEquipment.adopt(await settings());
    } catch {
      // The database is away: what was known holds until it is back.
    }
  };
  const hold = createHold({ database: pages, known, supervisor, settingsChanged, failed: storing.failed });
  const context: StationContext = {
    database: pages,
    version: options.version,
    simulationUrl: options.simulationUrl,
    backup: options.backup ?? null,
    backupPlan,
    heavy: options.heavy,
    now,
    log,
    settings,
    settingsChanged,
    positionNow,
    waypoints,
    bearersChanged: supervisor.refresh,
    bearers: supervisor,
    wakeOutbox: outbox.wake,
    rulesChanged: () => jobs.hurry(STANDING_RULES),
    // The first one is made now, and not on some day.
    backupPlanChanged: () => jobs.hurry(BACKUP_JOB),
    sessions,
    pipeline: pipelineContext,
    retention,
    storing: storing.state,
    lastEvent: () => feed.last(),
    holdView: hold.view,
    hold: hold.set,
  };

  const server = createWebServer(createApp(context, options.webFolder));
  const feed = createLiveFeed({
    database: pages,
    databaseUrl: options.databaseUrl,
    server,
    log,
    storing: storing.state,
    onEvents: (events) => {
      // Another process may have changed settings or queued a text.
      if (events.some((event) => event.type === 'settings')) void settingsChanged();
      if (events.some((event) => event.type === 'item')) outbox.wake();
    },
  });
  const url = await listenOnLoopback(server, options.port);
  life.atEnd(() => closeServer(server));
  life.atEnd(feed.stop);
  server.on('error', (error) => log(`HTTP: ${error.message}`));
  await feed.start();
  storing.start();
  await supervisor.start();
  await positionEquipment.adopt(await settings());
  await pipeline.start();
  outbox.start();
  jobs.start();
  life.every(LOOK_AT_HOLD_MS, () => {
    if (storing.state().storing) hold.storePending();
  });
  return { url, context, stop: life.end };
}
