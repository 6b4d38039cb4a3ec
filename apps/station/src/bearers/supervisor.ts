import type { Client } from 'pg';
import { createLife } from '../life';
import type { DataSource } from 'typeorm';
import { carriageOf, sendsPackets, type BearerConfig, type BearerState } from '@tombolo/contract';
import { createInTurn } from '../in-turn';
import { BearerEntity, type BearerRow } from '../store/entities';
import { appendEvents } from '../store/events';
import { keepConnection, type Lasting } from '../store/listener';
import { BEARER_LOCK, SESSION_LOCK } from '../store/locks';
import type { Heard } from '../ingest/heard';
import type { LinkStream } from '@tombolo/link-stream';
import type { Gate } from '../transmissions/gate';
import type { RefusalAccount } from '../transmissions/account';
import type { Bearer } from '../transmissions/bearer';
import { adapterOf } from './registry';

const CLAIM_EVERY_MS = 2000;

export interface SupervisorContext {
  readonly database: DataSource;
  readonly databaseUrl: string;
  readonly now: () => number;
  readonly random: () => number;
  readonly heard: (heard: Heard) => boolean;
  readonly ready: (callback: () => void) => void;
  readonly gate: Gate;
  readonly refusals: () => RefusalAccount;
  readonly onUp: () => void;
  readonly ownCall: () => string | null;
  readonly log: (message: string) => void;
}

export interface Supervisor {
  start(): Promise<void>;
  stop(): Promise<void>;
  /** Looks at the stored bearers again: new, changed, switched on or off. */
  refresh(): Promise<void>;
  /** Bearers of this process that can and may transmit now. */
  readyToTransmit(): { id: string; bearer: Bearer }[];
  /** Bearers of this process. */
  running(): { id: string; name: string; config: BearerConfig; bearer: Bearer }[];
  /** A connection over a modem; throws in words when there can be none. */
  connect(bearerId: string, peer: string, path: readonly string[]): LinkStream;
  /** The bearer that answers to what was heard on one; null when nothing may be answered there. */
  answerBearer(heardOn: string | null): string | null;
  /** The usual path of a bearer that runs here; direct for one that has none. */
  usualPath(bearerId: string): readonly string[];
  liveState(bearerId: string): BearerState | null;
  /** Holds the place of a session with a bearer for this process; false when somebody else holds one. */
  holdSession(bearerId: string): Promise<boolean>;
  freeSession(bearerId: string): Promise<void>;
  /** Lets whatever was held back go on. */
  wake(): void;
}

interface Running {
  readonly name: string;
  readonly bearer: Bearer;
  readonly config: BearerConfig;
}

/**
 * Runs the enabled bearers. Of several station processes on one database exactly one owns each bearer, by an
 * advisory lock on a connection of its own; when that process dies, another takes over.
 */
export function createSupervisor(context: SupervisorContext): Supervisor {
  const running = new Map<string, Running>();
  let locks: Lasting | null = null;
  const looking = createInTurn();
  const life = createLife();
  /** Sessions that this process holds, so that they stay its own when the connection of the locks was made anew. */
  const sessionsHeld = new Set<string>();

  const saveState = async (id: string, state: BearerState) => {
    await context.database.transaction(async (manager) => {
      await manager.getRepository(BearerEntity).update({ id }, { state });
      await appendEvents(manager, [{ type: 'bearer', data: { id } }], new Date(context.now()));
    });
  };

  const startBearer = (row: BearerRow) => {
    const saving = createInTurn();
    let unsaved: BearerState | null = null;
    const save = () =>
      void saving(async () => {
        const state = unsaved;
        if (!state) return;
        unsaved = null;
        await saveState(row.id, state).catch((error: Error) => {
          // While the database is away the state is kept here; the next look saves it.
          unsaved ??= state;
          context.log(`state of ${row.id} not saved: ${error.message}`);
        });
      });
    const bearer: Bearer = adapterOf(row.config).create(row.config, {
      id: row.id,
      now: context.now,
      random: context.random,
      heard: context.heard,
      ready: context.ready,
      closed: () => context.gate.closed(row.config.kind),
      held: context.gate.held,
      refusals: context.refusals(),
      ownCall: context.ownCall,
      database: context.database,
      log: context.log,
      wakeOutbox: context.onUp,
      stateChanged: () => {
        unsaved = bearer.state();
        save();
        if (unsaved?.link === 'up') context.onUp();
      },
    });
    running.set(row.id, {
      name: row.name,
      config: row.config,
      bearer: { ...bearer, stop: () => bearer.stop().then(saving.idle) },
    });
    bearer.start();
  };

  const stopBearer = async (id: string) => {
    const was = running.get(id);
    running.delete(id);
    await was?.bearer.stop();
    await locks
      ?.client()
      ?.query('select pg_advisory_unlock($1, hashtext($2))', [BEARER_LOCK, id])
      .catch(() => undefined);
  };
  const holds = async (client: Client, lock: number, id: string) => {
    const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock($1, hashtext($2)) as got', [
      lock,
      id,
    ]);
    return rows[0]?.got ?? false;
  };

  const look = async () => {
    if (life.over) return;
    const client = locks?.client();
    if (!client) return;
    const rows = await context.database.getRepository(BearerEntity).find({ order: { createdAt: 'ASC' } });
    for (const [id, { config }] of [...running]) {
      const row = rows.find((candidate) => candidate.id === id && candidate.enabled);
      const runs = running.get(id);
      if (!row) await stopBearer(id);
      else if (JSON.stringify(row.config) !== JSON.stringify(config)) {
        if (runs?.bearer.adopt?.(row.config)) running.set(id, { ...runs, config: row.config });
        else await stopBearer(id);
      }
    }
    for (const row of rows) {
      if (!row.enabled) continue;
      const present = running.get(row.id)?.bearer.state();
      if (present && present.link !== row.state.link) await saveState(row.id, present);
      if (running.has(row.id) || locks?.client() !== client) continue;
      if (await holds(client, BEARER_LOCK, row.id)) startBearer(row);
    }
  };

  const refresh = () =>
    looking(look).catch((error: Error) => context.log(`bearers could not be looked at: ${error.message}`));

  life.atEnd(async () => {
    await looking.idle();
    for (const id of [...running.keys()]) await stopBearer(id);
    await locks?.stop();
  });
  return {
    async start() {
      await new Promise<void>((resolve) => {
        locks = keepConnection({
          url: context.databaseUrl,
          name: 'owner of bearers',
          async onUp(client) {
            // What this process runs already, it goes on to run if nobody took it over while the database was away.
            for (const id of [...running.keys()])
              if (!(await holds(client, BEARER_LOCK, id))) {
                const was = running.get(id);
                running.delete(id);
                void was?.bearer.stop();
              }
            for (const id of sessionsHeld) await holds(client, SESSION_LOCK, id);
            resolve();
          },
          onDown: (reason) => {
            // Listening goes on: what is heard waits. Nothing is sent, for no attempt can be recorded.
            context.log(`bearers: the database is away: ${reason}`);
          },
        });
      });
      await refresh();
      life.every(CLAIM_EVERY_MS, () => void refresh());
    },
    stop: life.end,
    refresh,
    readyToTransmit: () =>
      [...running]
        .filter(
          ([, { bearer, config }]) =>
            bearer.transmit && bearer.state().link === 'up' && context.gate.closed(config.kind) === null,
        )
        .map(([id, { bearer }]) => ({ id, bearer })),
    running: () => [...running].map(([id, one]) => ({ id, ...one })),
    connect(bearerId, peer, path) {
      const connect = running.get(bearerId)?.bearer.connect;
      if (!connect) throw new Error('the modem that it goes over is switched off or gone');
      return connect(peer, path);
    },
    usualPath(bearerId) {
      const one = running.get(bearerId);
      const carriage = one && carriageOf(one.config);
      return carriage?.what === 'packets' ? carriage.path : [];
    },
    answerBearer(heardOn) {
      const one = heardOn === null ? undefined : running.get(heardOn);
      if (!one) return null;
      if (sendsPackets(one.config)) return heardOn;
      const over = adapterOf(one.config).answersOver?.(one.config) ?? null;
      const modem = over === null ? undefined : running.get(over);
      return modem && sendsPackets(modem.config) ? over : null;
    },
    liveState: (bearerId) => running.get(bearerId)?.bearer.state() ?? null,
    async holdSession(bearerId) {
      const client = locks?.client();
      if (!client || sessionsHeld.has(bearerId) || !(await holds(client, SESSION_LOCK, bearerId))) return false;
      sessionsHeld.add(bearerId);
      return true;
    },
    async freeSession(bearerId) {
      sessionsHeld.delete(bearerId);
      await locks
        ?.client()
        ?.query('select pg_advisory_unlock($1, hashtext($2))', [SESSION_LOCK, bearerId])
        .catch(() => undefined);
    },
    wake() {
      for (const { bearer } of running.values()) bearer.wake?.();
    },
  };
}
