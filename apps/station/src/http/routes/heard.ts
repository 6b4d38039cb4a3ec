import { Router, json } from 'express';
import {
  failureQuery,
  heardQuery,
  ownStation,
  readingsQuery,
  stationChange,
  stationsQuery,
  trailsQuery,
} from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { listLinks } from '../../heard/links';
import { listFailures, listPackets, packetDetail } from '../../heard/packets';
import { listReadings } from '../../heard/readings';
import { changeStation, findStation, listStations, listTrails } from '../../heard/stations';
import { appendEvents } from '../../store/events';
import { read } from '../problem';

const HOUR_MS = 3_600_000;

/** What was heard: packets with their copies, what was not understood, stations with their trails, links and readings. */
export function heardRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const ago = (hours: number) => new Date(context.now() - hours * HOUR_MS);
  router.get('/packets', async (request, response) => {
    response.json(await listPackets(database, read(heardQuery, request.query)));
  });
  router.get('/packets/:id', async (request, response) => {
    const { id } = read(z.object({ id: z.string().regex(/^\d{1,18}$/) }), request.params);
    const packet = await packetDetail(database, id, ownStation(await context.settings()));
    if (!packet)
      throw new ProblemError(404, 'no-such-packet', 'That packet does not exist', `There is no packet ${id}.`);
    response.json(packet);
  });
  router.get('/failures', async (request, response) => {
    response.json(await listFailures(database, read(failureQuery, request.query)));
  });
  router.get('/stations', async (request, response) => {
    const { since } = read(stationsQuery, request.query);
    response.json(await listStations(database, await context.settings(), since ? new Date(since) : undefined));
  });
  router.get('/stations/:call', async (request, response) => {
    response.json(await station(read(callParameter, request.params).call));
  });
  router.patch('/stations/:call', json(), async (request, response) => {
    const { call } = read(callParameter, request.params);
    const change = read(stationChange, request.body);
    const at = new Date(context.now());
    await database.transaction(async (manager) => {
      if (!(await changeStation(manager, keyOf(call), change, at))) throw notHeard(call);
      await appendEvents(manager, [{ type: 'station', data: { call: keyOf(call) } }], at);
    });
    response.json(await station(call));
  });
  router.get('/trails', async (request, response) => {
    const { hours, since } = read(trailsQuery, request.query);
    response.json(await listTrails(database, ago(hours), since ? new Date(since) : undefined));
  });
  router.get('/heard-links', async (_request, response) => {
    response.json(await listLinks(database));
  });
  router.get('/readings', async (request, response) => {
    const { kind, hours } = read(readingsQuery, request.query);
    response.json(await listReadings(database, kind, ago(hours)));
  });

  const station = async (call: string) => {
    const found = await findStation(database, keyOf(call), await context.settings(), new Date(context.now()));
    if (!found) throw notHeard(call);
    return found;
  };
  return router;
}

const callParameter = z.object({ call: z.string().max(12) });
/** Calls are upper case; names of objects are as they are. */
const keyOf = (call: string) => (/^[;)]/.test(call) ? call : call.toUpperCase());
const notHeard = (call: string) => new ProblemError(404, 'not-heard', 'Not heard yet', `${call} has not been heard.`);
