import type { DataSource, EntityManager } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import { appendEvents, type NewEvent } from '../store/events';
import { failpoint } from '../store/failpoints';
import { storeFailure } from '../store/failure';
import { deriveAndWatch } from './derived/derive';
import type { Heard } from './heard';
import { applyMesh } from './mesh/apply';
import { applyToOwnTraffic } from './own-traffic';
import { repeatForOthers } from './repeat';
import { storeHeard, type Stored } from './store-heard';
import { understand, type Understood } from './understand';

export interface PipelineContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly answerBearer: (heardOn: string | null) => string | null;
  /** Where we are as far as that is known now: what answers say. */
  readonly positionNow: (settings: Settings) => Settings['position'];
  /** The usual path of the bearer that answers. */
  readonly usualPath: (bearerId: string) => readonly string[];
  readonly now: () => number;
  /** Told when something was stored that may have to be sent. */
  readonly onStored: () => void;
  readonly log: (message: string) => void;
}

type BeforeCommit = (manager: EntityManager) => Promise<unknown>;
const nothing: BeforeCommit = async () => undefined;

/** Stores one batch with all that follows from it, in one transaction. */
async function storeBatch(
  context: PipelineContext,
  batch: readonly Understood[],
  beforeCommit: BeforeCommit,
): Promise<Stored[]> {
  const settings = await context.settings();
  return context.database.transaction(async (manager) => {
    const stored = await storeHeard(manager, batch, new Date(context.now()));
    const alarms = await deriveAndWatch(manager, stored, settings, new Date(context.now()));
    const itemEvents = await applyToOwnTraffic(manager, stored, {
      settings,
      position: context.positionNow(settings),
      answerBearer: context.answerBearer,
      usualPath: context.usualPath,
      now: context.now,
    });
    const repeats = await repeatForOthers(manager, stored, settings, context.now());
    const meshEvents = await applyMesh(manager, stored, settings);
    await beforeCommit(manager);
    failpoint('ingest:written');
    await appendEvents(
      manager,
      [...heardEvents(stored), ...itemEvents, ...repeats, ...meshEvents, ...alarms],
      new Date(context.now()),
    );
    return stored;
  });
}

/** Consoles are told of each live packet; of recordings they hear by their progress. */
function heardEvents(stored: readonly Stored[]): NewEvent[] {
  const packets = new Set<string>();
  let failures = 0;
  for (const { understood, packetId } of stored) {
    if (understood.heard.importId !== null) continue;
    if (packetId !== null) packets.add(packetId);
    else failures++;
  }
  const events: NewEvent[] = [...packets].map((id) => ({ type: 'packet', data: { id } }));
  return failures > 0 ? [...events, { type: 'failure', data: { count: failures } }] : events;
}

/**
 * Stores receptions and returns what became of them. When a batch cannot be stored for a reason of its own, it is halved
 * until the one reception is found, and that one is kept as a failure: no neighbour is lost. `beforeCommit` is part of the last
 * transaction.
 */
export async function ingest(
  context: PipelineContext,
  heard: readonly Heard[],
  beforeCommit: BeforeCommit = nothing,
): Promise<Stored[]> {
  return ingestUnderstood(context, heard.map(understand), beforeCommit);
}

/** The same for what is understood already. */
export async function ingestUnderstood(
  context: PipelineContext,
  batch: readonly Understood[],
  beforeCommit: BeforeCommit = nothing,
): Promise<Stored[]> {
  if (batch.length === 0) return [];
  try {
    return await storeBatch(context, batch, beforeCommit);
  } catch (error) {
    if (storeFailure(error) !== 'data') throw error;
    if (batch.length > 1) {
      const middle = batch.length >> 1;
      const first = await ingestUnderstood(context, batch.slice(0, middle));
      return [...first, ...(await ingestUnderstood(context, batch.slice(middle), beforeCommit))];
    }
    const [only] = batch as [Understood];
    context.log(`a reception could not be stored as understood: ${(error as Error).message}`);
    if (only.heard.fault) throw error;
    const fault = { at: 0, reason: `could not be stored as understood: ${(error as Error).message}` };
    return storeBatch(context, [understand({ ...only.heard, fault })], beforeCommit);
  }
}
