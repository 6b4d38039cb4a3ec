import type { Settings, StationView, WaypointsNow, WaypointsOut } from '@tombolo/contract';
import { encodeWaypoint, octetsOfText } from '@tombolo/core';
import { isDeepStrictEqual } from 'node:util';
import type { DataSource } from 'typeorm';
import { createEquipmentLink, type EquipmentLink, type LinkContext, type OpenLine } from '../bearers/equipment-link';
import { openSerialLine } from '../bearers/serial-line';
import { openTcpLine } from '../bearers/tcp-line';
import { listStations } from '../heard/stations';

/** How often it is looked for places that changed. */
const LOOK_EVERY_MS = 5000;
/** A line of 4800 Bd bears some ten sentences a second: more at once would wait in the cable. */
const MOST_AT_ONCE = 40;

export interface WaypointsContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly now: () => number;
  readonly random: () => number;
  readonly log: (message: string) => void;
}

export interface WaypointSender {
  /** Takes over what is set now. */
  adopt(out: WaypointsOut | null): Promise<void>;
  view(): WaypointsNow;
  stop(): Promise<void>;
}

interface Running {
  readonly out: WaypointsOut;
  readonly link: EquipmentLink;
  readonly timer: NodeJS.Timeout;
  given: number;
  lastMs: number | null;
}

/** Whether a receiver gets a thing: on the chart, placed, of a kind and near enough. */
export const isWanted = (
  station: StationView,
  { kinds, withinKm }: Pick<WaypointsOut, 'kinds' | 'withinKm'>,
): boolean =>
  station.live &&
  station.latitude !== null &&
  station.longitude !== null &&
  kinds.includes(station.kind) &&
  (withinKm === null || (station.distanceKm !== null && station.distanceKm <= withinKm));

/** Gives what is heard to a navigation receiver: each place when it is new, and again when it changed; all when the line is new. */
export function createWaypointSender({ database, settings, now, random, log }: WaypointsContext): WaypointSender {
  let running: Running | null = null;
  let wanted: WaypointsOut | null = null;
  const context: LinkContext = { now, random, stateChanged: () => undefined, ready: (call) => call() };
  const openLine = ({ to }: WaypointsOut): OpenLine => (to.by === 'serial' ? openSerialLine(to) : openTcpLine(to));

  const run = (out: WaypointsOut): Running => {
    /** When each place was given as it was told then. */
    let told = new Map<string, string | null>();
    let busy = false;
    const give = async () => {
      if (busy || state.link.state().link !== 'up') return;
      busy = true;
      try {
        const due = (await listStations(database, await settings())).filter(
          (station) => isWanted(station, out) && told.get(station.call) !== station.positionAt,
        );
        for (const station of due.slice(0, MOST_AT_ONCE)) {
          const { latitude, longitude, name, call, positionAt } = station;
          const octets = octetsOfText(encodeWaypoint(name || call, { latitude: latitude!, longitude: longitude! }));
          const { verdict } = await state.link.write(octets);
          if (verdict !== 'given') break;
          told.set(call, positionAt);
          state.given++;
          state.lastMs = now();
        }
      } catch (error) {
        log(`waypoints: ${(error as Error).message}`);
      } finally {
        busy = false;
      }
    };
    const state: Running = {
      out,
      given: 0,
      lastMs: null,
      timer: setInterval(() => void give(), LOOK_EVERY_MS),
      link: createEquipmentLink(() => openLine(out), context, {
        onUp: () => {
          // Whoever was switched off may have forgotten all.
          told = new Map();
          state.given = 0;
          // The link tells that it is up when this is over.
          queueMicrotask(() => void give());
        },
        // What it says is not asked for.
        onData: () => true,
        onDown: () => undefined,
      }),
    };
    state.link.start();
    return state;
  };
  const end = async () => {
    const was = running;
    running = null;
    if (was) clearInterval(was.timer);
    await was?.link.stop();
  };

  return {
    async adopt(out) {
      wanted = out;
      if (isDeepStrictEqual(running?.out ?? null, out)) return;
      await end();
      // Changed again while the line was closed, the later one holds.
      if (out && wanted === out && running === null) running = run(out);
    },
    view() {
      const state = running?.link.state();
      return {
        out: wanted,
        link: state?.link ?? 'off',
        reason: state?.reason ?? null,
        given: running?.given ?? 0,
        lastAt: running?.lastMs == null ? null : new Date(running.lastMs).toISOString(),
      };
    },
    async stop() {
      wanted = null;
      await end();
    },
  };
}
