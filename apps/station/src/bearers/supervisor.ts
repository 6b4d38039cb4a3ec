import { Client } from 'pg';
import type { DataSource } from 'typeorm';
import type { BearerConfig, BearerState } from '@tombolo/contract';
import { BearerEntity, type BearerRow } from '../store/entities';
import { appendEvents } from '../store/events';
import type { Heard } from '../ingest/heard';
import type { LinkStream } from '@tombolo/link-stream';
import type { Parsed } from '@tombolo/core';
import type { Bearer, BearerContext, EncodedLeg, OutgoingLeg } from './bearer';
import { createCalled } from './called';
import { createKissTcp } from './kiss-tcp/kiss-tcp';
import { createLineFeed } from './line-feed/line-feed';
import { createMeshMqtt } from './mesh-mqtt/mesh-mqtt';

const CLAIM_EVERY_MS = 2000;
const BEARER_LOCK = 7300;

export interface SupervisorContext {
  readonly database: DataSource;
  readonly databaseUrl: string;
  readonly now: () => number;
  readonly random: () => number;
  readonly heard: (heard: Heard) => void;
  readonly txDelayMs: () => number;
  readonly onUp: () => void;
  readonly ownCall: () => string | null;
  readonly log: (message: string) => void;
}

/** Texts by packet radio go out by this bearer. */
export const canTransmit = (config: BearerConfig): boolean => config.kind === 'kiss-tcp';

function createBearer(config: BearerConfig, context: BearerContext): Bearer {
  switch (config.kind) {
    case 'kiss-tcp':
      return createKissTcp(config, context);
    case 'line-feed':
      return createLineFeed(config, context);
    case 'board':
    case 'radio-mail':
      return createCalled(context);
    case 'mesh-mqtt':
      return createMeshMqtt(config, context);
  }
}

export interface Supervisor {
  start(): Promise<void>;
  stop(): Promise<void>;
  /** Looks at the stored bearers again: new, changed, switched on or off. */
  refresh(): Promise<void>;
  /** Bearers of this process that can transmit now, with their kinds. */
  readyToTransmit(): { id: string; kind: BearerConfig['kind'] }[];
  encode(bearerId: string, leg: OutgoingLeg, attempt: number): Parsed<EncodedLeg>;
  /** A connection over a modem; throws in words when there can be none. */
  connect(bearerId: string, peer: string, path: readonly string[]): LinkStream;
  transmit(bearerId: string, frame: Uint8Array): Promise<{ taken: true } | { taken: false; reason: string }>;
  answerBearer(heardOn: string | null): string | null;
  liveState(bearerId: string): BearerState | null;
}

/**
 * Runs the enabled bearers. Of several station processes on one database exactly one owns each bearer, by an
 * advisory lock on a connection of its own; when that process dies, another takes over.
 */
export function createSupervisor(context: SupervisorContext): Supervisor {
  const running = new Map<string, { bearer: Bearer; config: string; kind: BearerConfig['kind'] }>();
  let locks: Client | null = null;
  let timer: NodeJS.Timeout | null = null;
  let turn: Promise<void> = Promise.resolve();
  let stopped = false;

  const saveState = async (id: string, state: BearerState) => {
    await context.database.transaction(async (manager) => {
      await manager.getRepository(BearerEntity).update({ id }, { state });
      await appendEvents(manager, [{ type: 'bearer', data: { id } }], new Date(context.now()));
    });
  };

  const startBearer = (row: BearerRow) => {
    let saving: Promise<void> = Promise.resolve();
    const bearer: Bearer = createBearer(row.config, {
      id: row.id,
      now: context.now,
      random: context.random,
      heard: context.heard,
      txDelayMs: context.txDelayMs,
      ownCall: context.ownCall,
      database: context.database,
      log: context.log,
      wakeOutbox: context.onUp,
      stateChanged: () => {
        const state = bearer.state();
        saving = saving
          .then(() => saveState(row.id, state))
          .catch((error: Error) => context.log(`state of ${row.id} not saved: ${error.message}`));
        if (state.link === 'up') context.onUp();
      },
    });
    running.set(row.id, {
      bearer: { ...bearer, stop: () => bearer.stop().then(() => saving) },
      config: JSON.stringify(row.config),
      kind: row.config.kind,
    });
    bearer.start();
  };

  const stopBearer = async (id: string) => {
    await running.get(id)?.bearer.stop();
    running.delete(id);
    await locks?.query('select pg_advisory_unlock($1, hashtext($2))', [BEARER_LOCK, id]).catch(() => undefined);
  };

  const look = async () => {
    if (stopped) return;
    if (!locks) {
      const client = new Client({ connectionString: context.databaseUrl });
      client.on('error', () => {
        // Without the connection the locks are gone: somebody else may own the bearers now.
        if (locks !== client) return;
        locks = null;
        for (const { bearer } of running.values()) void bearer.stop();
        running.clear();
      });
      await client.connect();
      locks = client;
    }
    const rows = await context.database.getRepository(BearerEntity).find({ order: { createdAt: 'ASC' } });
    for (const id of running.keys()) {
      const row = rows.find((candidate) => candidate.id === id && candidate.enabled);
      if (!row || JSON.stringify(row.config) !== running.get(id)!.config) await stopBearer(id);
    }
    for (const row of rows) {
      if (!row.enabled || running.has(row.id)) continue;
      const { rows: answers } = await locks.query<{ got: boolean }>(
        'select pg_try_advisory_lock($1, hashtext($2)) as got',
        [BEARER_LOCK, row.id],
      );
      if (answers[0]?.got) startBearer(row);
    }
  };

  const refresh = () => {
    turn = turn.then(look).catch((error: Error) => context.log(`bearers could not be looked at: ${error.message}`));
    return turn;
  };

  return {
    async start() {
      await refresh();
      timer = setInterval(() => void refresh(), CLAIM_EVERY_MS);
    },
    async stop() {
      stopped = true;
      if (timer) clearInterval(timer);
      await turn;
      for (const id of [...running.keys()]) await stopBearer(id);
      await locks?.end().catch(() => undefined);
      locks = null;
    },
    refresh,
    readyToTransmit: () =>
      [...running]
        .filter(([, { bearer }]) => bearer.transmit && bearer.state().link === 'up')
        .map(([id, { kind }]) => ({ id, kind })),
    encode(bearerId, leg, attempt) {
      const encode = running.get(bearerId)?.bearer.encode;
      return encode
        ? encode(leg, attempt)
        : { ok: false, error: { at: 0, reason: 'this station does not run that bearer' } };
    },
    connect(bearerId, peer, path) {
      const connect = running.get(bearerId)?.bearer.connect;
      if (!connect) throw new Error('the modem link that it goes over is switched off or gone');
      return connect(peer, path);
    },
    async transmit(bearerId, frame) {
      const bearer = running.get(bearerId)?.bearer;
      if (!bearer?.transmit) return { taken: false, reason: 'this station does not run that bearer' };
      return bearer.transmit(frame);
    },
    answerBearer(heardOn) {
      const transmitting = [...running].filter(([, { kind }]) => kind === 'kiss-tcp').map(([id]) => id);
      return transmitting.find((id) => id === heardOn) ?? transmitting[0] ?? null;
    },
    liveState: (bearerId) => running.get(bearerId)?.bearer.state() ?? null,
  };
}
