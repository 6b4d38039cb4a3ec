import { routes } from '@tombolo/contract';
import { Router } from 'express';
import type { StationContext } from '../../context';
import { changeTracker, trackersState, trackersTurn } from '../../trackers/trackers';
import { serve } from '../serve';

/** Trackers from elsewhere. */
export function trackerRoutes(context: StationContext): Router {
  const router = Router();
  serve(router, routes.trackers, () => trackersState(context));
  serve(router, routes.changeTracker, async ({ params: { unit }, body }) => {
    await changeTracker(context.database, unit, body, new Date(context.now()));
    await trackersTurn(context);
    return trackersState(context);
  });
  return router;
}
