import { Router, json } from 'express';
import { simulation, simulationChange, settingsChange } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { eventsAfter } from '../../store/events';
import { changeSettings } from '../../store/settings';
import { z } from 'zod';
import { read } from '../problem';

const SIMULATION_TIMEOUT_MS = 3000;

/** Health, settings, missed events, and the simulated district when one is attached. */
export function stationRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;

  // From memory alone: it answers whatever the database does.
  router.get('/health', (_request, response) => {
    response.json({
      name: 'tombolo',
      version: context.version,
      lastEvent: context.lastEvent(),
      now: new Date(context.now()).toISOString(),
      storing: context.storing(),
    });
  });
  router.get('/settings', async (_request, response) => {
    response.json(await context.settings());
  });
  router.patch('/settings', json(), async (request, response) => {
    const change = read(settingsChange, request.body);
    const settings = await changeSettings(database, change, new Date(context.now()));
    context.settingsChanged();
    response.json(settings);
  });
  router.get('/events', async (request, response) => {
    const query = read(
      z.object({
        after: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
        limit: z.coerce.number().int().min(1).max(1000).default(200),
      }),
      request.query,
    );
    response.json(await eventsAfter(database, query.after, query.limit));
  });

  const simulated = async (init?: RequestInit) => {
    if (context.simulationUrl === null)
      throw new ProblemError(404, 'no-simulation', 'No simulated district', 'This station runs without stand-ins.');
    try {
      const answer = await fetch(context.simulationUrl, {
        ...init,
        signal: AbortSignal.timeout(SIMULATION_TIMEOUT_MS),
      });
      return simulation.parse(await answer.json());
    } catch {
      throw new ProblemError(
        502,
        'simulation-away',
        'The simulated district does not answer',
        'It may have been stopped. Real links are not affected.',
      );
    }
  };
  router.get('/simulation', async (_request, response) => {
    response.json(context.simulationUrl === null ? null : await simulated());
  });
  router.put('/simulation', json(), async (request, response) => {
    const change = read(simulationChange, request.body);
    const body = JSON.stringify(change);
    response.json(await simulated({ method: 'PUT', headers: { 'content-type': 'application/json' }, body }));
  });
  return router;
}
