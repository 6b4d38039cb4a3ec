import { Router } from 'express';
import { bearingBetween, pointsBetween } from '@tombolo/core';
import { routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { createHeights } from '../../reach/heights';
import { serve } from '../serve';

/** No link of these bearers goes further; a longer way would touch tiles without end. */
const FURTHEST_KM = 500;

/** How far the radio reaches, reckoned. */
export function reachRoutes({ database }: StationContext): Router {
  const router = Router();
  const heights = createHeights(database);
  serve(router, routes.profile, async ({ query: { from, to, points } }) => {
    const { distanceKm } = bearingBetween(from, to);
    if (distanceKm > FURTHEST_KM)
      throw new ProblemError(
        422,
        'too-far',
        'That is too far',
        `The two are ${Math.round(distanceKm)} km apart; reach is reckoned up to ${FURTHEST_KM} km.`,
      );
    const along = pointsBetween(from, to, points);
    const { heightsM, missing } = await heights.at(along);
    return { points: along.map((point, n) => ({ distanceKm: point.distanceKm, groundM: heightsM[n]! })), missing };
  });
  serve(router, routes.ground, async ({ query }) => {
    const { heightsM, missing } = await heights.over(query);
    return { heights: Buffer.from(heightsM.buffer).toString('base64'), missing };
  });
  return router;
}
