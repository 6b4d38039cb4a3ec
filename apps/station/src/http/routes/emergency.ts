import { ownStation, routes, transmitLocks } from '@tombolo/contract';
import { Router } from 'express';
import type { StationContext } from '../../context';
import { dropPlainPositions, emergencyState, emergencyTurn, sayItIsOver } from '../../emergency/emergency';
import { ProblemError } from '../../problem-error';
import { callForHelp } from '../../store/settings';
import { serve } from '../serve';

/** Our own call for help. */
export function emergencyRoutes(context: StationContext): Router {
  const router = Router();
  const { database, settings } = context;
  serve(router, routes.emergencyNow, () => emergencyState(context));
  serve(router, routes.callForHelp, async ({ body }) => {
    const current = await settings();
    // The antenna comes before power, whatever happened; the licence question is answered by whoever calls.
    const [lock] = transmitLocks(current);
    if (ownStation(current) === null || lock !== undefined)
      throw new ProblemError(409, 'locked', 'The transmitter is locked', `${lock ?? ''} Nothing was sent.`);
    await callForHelp(database, body, new Date(context.now()));
    await context.settingsChanged();
    await dropPlainPositions(context);
    await emergencyTurn(context);
    return emergencyState(context);
  });
  serve(router, routes.endEmergency, async () => {
    const { emergency } = await settings();
    await callForHelp(database, null, new Date(context.now()));
    await context.settingsChanged();
    if (emergency) await sayItIsOver(context, emergency);
    return emergencyState(context);
  });
  return router;
}
