import { Router } from 'express';
import { ownStation, routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { createAllStations } from '../../heard/all-stations';
import { listLinks } from '../../heard/links';
import { listFailures, listPackets, packetDetail } from '../../heard/packets';
import { listReadings } from '../../readings/readings';
import { changeStation, findStation, listStations, listTrails } from '../../heard/stations';
import { appendEvents } from '../../store/events';
import { serve, Worded } from '../serve';

const HOUR_MS = 3_600_000;

/** What was heard: packets with their copies, what was not understood, stations with their trails, links and readings. */
export function heardRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const ago = (hours: number) => new Date(context.now() - hours * HOUR_MS);
  serve(router, routes.packets, ({ query }) => listPackets(database, query));
  serve(router, routes.packet, async ({ params: { id } }) => {
    const packet = await packetDetail(database, id, ownStation(await context.settings()));
    if (!packet)
      throw new ProblemError(404, 'no-such-packet', 'That packet does not exist', `There is no packet ${id}.`);
    return packet;
  });
  serve(router, routes.failures, ({ query }) => listFailures(database, query));
  const allStations = createAllStations();
  serve(router, routes.stations, async ({ query: { since } }) => {
    const settings = await context.settings();
    return since
      ? listStations(database, settings, new Date(since))
      : new Worded(await allStations(database, settings));
  });
  serve(router, routes.station, ({ params }) => station(params.call));
  serve(router, routes.changeStation, async ({ params: { call }, body: change }) => {
    const at = new Date(context.now());
    await database.transaction(async (manager) => {
      if (!(await changeStation(manager, keyOf(call), change, at))) throw notHeard(call);
      await appendEvents(manager, [{ type: 'station', data: { call: keyOf(call) } }], at);
    });
    return station(call);
  });
  serve(router, routes.trails, ({ query: { hours, since } }) =>
    listTrails(database, ago(hours), since ? new Date(since) : undefined),
  );
  serve(router, routes.heardLinks, () => listLinks(database));
  serve(router, routes.readings, ({ query: { kind, hours } }) => listReadings(database, kind, ago(hours)));

  const station = async (call: string) => {
    const found = await findStation(database, keyOf(call), await context.settings(), new Date(context.now()));
    if (!found) throw notHeard(call);
    return found;
  };
  return router;
}

/** Calls are upper case; names of objects are as they are. */
const keyOf = (call: string) => (/^[;)]/.test(call) ? call : call.toUpperCase());
const notHeard = (call: string) => new ProblemError(404, 'not-heard', 'Not heard yet', `${call} has not been heard.`);
