import { bearerViews } from '../bearers/views';
import type { StationContext } from '../context';
import { createHeights } from '../reach/heights';
import { createCorrections, type Corrections } from './corrections';
import { createMapReach, type MapReach } from './map-reach';
import type { PlanningContext } from './context';

/** The ground between places is read once for each station that runs. */
const reaches = new WeakMap<object, MapReach>();

function mapReachOf({ database }: Pick<StationContext, 'database'>): MapReach {
  const reach = reaches.get(database) ?? createMapReach(createHeights(database));
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
  return {
    queries: context.database,
    settings,
    ownPosition: (await context.positionNow()).position,
    bearers: await bearerViews(context.database, { now: nowMs, settings, running: context.bearers.running() }),
    mapReach: mapReachOf(context),
    corrections: await correctionsOf(context)(nowMs),
    nowMs,
  };
}
