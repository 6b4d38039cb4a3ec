import { Router } from 'express';
import { routes, simulation } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { eventsAfter } from '../../store/events';
import { keptView } from '../../retention/retention';
import { changeSettings } from '../../store/settings';
import { beaconState } from '../../beacon/beacon';
import { serve } from '../serve';

const SIMULATION_TIMEOUT_MS = 3000;

/** Health, settings, missed events, and the simulated district when one is attached. */
export function stationRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;

  // From memory alone: it answers whatever the database does.
  serve(router, routes.health, () => ({
    name: 'tombolo' as const,
    version: context.version,
    lastEvent: context.lastEvent(),
    now: new Date(context.now()).toISOString(),
    storing: context.storing(),
  }));
  serve(router, routes.settings, () => context.settings());
  serve(router, routes.changeSettings, async ({ body: change }) => {
    const settings = await changeSettings(database, change, new Date(context.now()));
    await context.settingsChanged();
    return settings;
  });
  serve(router, routes.positionNow, () => context.positionNow());
  serve(router, routes.waypointsNow, () => context.waypoints.view());
  serve(router, routes.beaconNow, () => beaconState(context));
  serve(router, routes.kept, () => keptView(context.retention, new Date(context.now())));
  serve(router, routes.events, ({ query }) => eventsAfter(database, query.after, query.limit));

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
        'It may have been stopped. Real bearers are not affected.',
      );
    }
  };
  serve(router, routes.simulation, async () => (context.simulationUrl === null ? null : simulated()));
  serve(router, routes.changeSimulation, ({ body }) =>
    simulated({ method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  );
  return router;
}
