import { ownStation, type Settings } from '@tombolo/contract';
import type { Queries } from '../../store/database';
import type { NewEvent } from '../../store/events';
import { noteNodes } from '../mesh/nodes';
import type { Stored } from '../store-heard';
import { judgeWatches } from './alarms';
import { judgeEmergencies } from './emergencies';
import { createLinkCount } from './links';
import { createReadings } from './readings';
import { createStationFold } from './stations';
import { appendTrails } from './trails';

/** What follows from receptions and could be made anew from them: gathered as they come, and written when told. */
export interface Derivation {
  /** Stations of which something was measured live. */
  readonly measured: ReadonlySet<string>;
  add(queries: Queries, stored: readonly Stored[]): Promise<void>;
  /** Writes what is only ever added, points and readings, so that it need not be held until the end; more may be gathered meanwhile. */
  pour(queries: Queries): Promise<void>;
  write(queries: Queries, now: Date): Promise<void>;
}

export function createDerivation(settings: Settings): Derivation {
  const stations = createStationFold();
  const links = createLinkCount({ call: ownStation(settings), position: settings.position });
  const readings = createReadings();
  const pour = async (queries: Queries) => {
    await appendTrails(queries, stations.takePoints());
    await readings.write(queries);
  };
  return {
    measured: readings.live,
    async add(queries, stored) {
      await stations.add(queries, stored);
      await links.add(queries, stored);
      await noteNodes(queries, stored);
      readings.add(stored);
    },
    pour,
    async write(queries, now) {
      // Before the states are let go.
      await links.write(queries, stations.states);
      await stations.write(queries, now);
      await pour(queries);
    },
  };
}

/** Derives at once, and raises alarms for what is watched: only of what was heard live, since a recording warns nobody. */
export async function deriveAndWatch(
  queries: Queries,
  stored: readonly Stored[],
  settings: Settings,
  now: Date,
): Promise<NewEvent[]> {
  const derivation = createDerivation(settings);
  await derivation.add(queries, stored);
  await derivation.write(queries, now);
  return [
    ...(await judgeWatches(queries, derivation.measured, now)),
    ...(await judgeEmergencies(queries, stored, settings.call || null, now)),
  ];
}
