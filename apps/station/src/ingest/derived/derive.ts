import { ownStation, type Settings } from '@tombolo/contract';
import type { Queries } from '../../store/database';
import type { NewEvent } from '../../store/events';
import { noteNodes } from '../mesh/nodes';
import type { Stored } from '../store-heard';
import { judgeWatches } from './alarms';
import { countLinks } from './links';
import { keepReadings } from './readings';
import { updateStations } from './stations';
import { appendTrails } from './trails';

/** All that follows from receptions and could be made anew from them. Gives the stations of which something was measured live. */
export async function derive(
  queries: Queries,
  stored: readonly Stored[],
  settings: Settings,
  now: Date,
): Promise<ReadonlySet<string>> {
  const { points, states } = await updateStations(queries, stored, now);
  await appendTrails(queries, points);
  await noteNodes(queries, stored);
  await countLinks(queries, stored, { call: ownStation(settings), position: settings.position }, states);
  return keepReadings(queries, stored);
}

/** The same, and alarms for what is watched: only of what was heard live, since a recording warns nobody. */
export async function deriveAndWatch(
  queries: Queries,
  stored: readonly Stored[],
  settings: Settings,
  now: Date,
): Promise<NewEvent[]> {
  const measured = await derive(queries, stored, settings, now);
  return judgeWatches(queries, measured, now);
}
