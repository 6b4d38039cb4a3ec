import { Router } from 'express';
import { failureQuery, heardQuery } from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { listFailures, listPackets, packetDetail } from '../../heard/packets';
import { findStation, listStations } from '../../heard/stations';
import { read } from '../problem';

/** What was heard: packets with their copies, what was not understood, and stations. */
export function heardRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  router.get('/packets', async (request, response) => {
    response.json(await listPackets(database, read(heardQuery, request.query)));
  });
  router.get('/packets/:id', async (request, response) => {
    const { id } = read(z.object({ id: z.string().regex(/^\d{1,18}$/) }), request.params);
    const packet = await packetDetail(database, id);
    if (!packet)
      throw new ProblemError(404, 'no-such-packet', 'That packet does not exist', `There is no packet ${id}.`);
    response.json(packet);
  });
  router.get('/failures', async (request, response) => {
    response.json(await listFailures(database, read(failureQuery, request.query)));
  });
  router.get('/stations', async (_request, response) => {
    response.json(await listStations(database, await context.settings()));
  });
  router.get('/stations/:call', async (request, response) => {
    const { call } = read(z.object({ call: z.string().max(12) }), request.params);
    const station = await findStation(database, call.toUpperCase(), await context.settings());
    if (!station) throw new ProblemError(404, 'not-heard', 'Not heard yet', `${call} has not been heard.`);
    response.json(station);
  });
  return router;
}
