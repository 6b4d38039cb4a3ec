import { OUR_END, ourEndOf } from '@tombolo/core';
import { bearerViews } from '../bearers/views';
import type { StationContext } from '../context';
import { listPieces } from '../equipment/pieces';
import { createHeights } from '../reach/heights';
import { createCorrections, type Corrections } from './corrections';
import { createGroundReach, PACKET_MHZ, packetReach, type GroundReach } from './map-reach';
import type { PlanningContext } from './context';

/** The ground between places is read once for each station that runs. */
const reaches = new WeakMap<object, GroundReach>();

function groundReachOf({ database }: Pick<StationContext, 'database'>): GroundReach {
  const reach = reaches.get(database) ?? createGroundReach(createHeights(database));
  reaches.set(database, reach);
  return reach;
}

/** How earlier forecasts came out is read now and then. */
const learned = new WeakMap<object, Corrections>();

function correctionsOf({ database }: Pick<StationContext, 'database'>): Corrections {
  const corrections = learned.get(database) ?? createCorrections(database);
  learned.set(database, corrections);
  return corrections;
}

/** What planning knows of this station now. */
export async function planningOf(
  context: Pick<StationContext, 'database' | 'settings' | 'now' | 'positionNow' | 'bearers'>,
): Promise<PlanningContext> {
  const settings = await context.settings();
  const nowMs = context.now();
  const reach = groundReachOf(context);
  const pieces = await listPieces(context.database);
  const ownEnd = ourEndOf(pieces, PACKET_MHZ);
  return {
    queries: context.database,
    settings,
    ownPosition: (await context.positionNow()).position,
    bearers: await bearerViews(context.database, { now: nowMs, settings, running: context.bearers.running() }),
    ownEnd: ownEnd ?? OUR_END,
    mapReach: packetReach(reach, ownEnd),
    ownEndAt: (frequencyMHz) => ourEndOf(pieces, frequencyMHz),
    groundReach: reach,
    corrections: await correctionsOf(context)(nowMs),
    nowMs,
    without: new Set(),
  };
}
