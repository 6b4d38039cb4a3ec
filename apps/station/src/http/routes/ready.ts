import { Router } from 'express';
import { routes } from '@tombolo/contract';
import { seenOutcomes } from '@tombolo/core';
import { bearerViews } from '../../bearers/views';
import type { StationContext } from '../../context';
import { keepOwnCause, keepRun, listOwnCauses, listRuns, removeOwnCause } from '../../ready/runs';
import { stationSees } from '../../ready/sees';
import { serve } from '../serve';

/** The ready check: what the station sees by itself, and what was found here. */
export function readyRoutes({ database, settings, bearers, positionNow, now }: StationContext): Router {
  const router = Router();
  serve(router, routes.seen, async ({ query: { bearerId } }) => {
    const current = await settings();
    const views = await bearerViews(database, { now: now(), settings: current, running: bearers.running() });
    return seenOutcomes(await stationSees(database, current, views, await positionNow(), bearerId, now()));
  });
  serve(router, routes.checkRuns, () => listRuns(database));
  serve(router, routes.keepCheckRun, ({ body }) => keepRun(database, body, new Date(now())));
  serve(router, routes.ownCauses, () => listOwnCauses(database));
  serve(router, routes.keepOwnCause, ({ params: { id }, body }) =>
    keepOwnCause(database, { ...body, id }, new Date(now())),
  );
  serve(router, routes.removeOwnCause, ({ params: { id } }) => removeOwnCause(database, id, new Date(now())));
  return router;
}
