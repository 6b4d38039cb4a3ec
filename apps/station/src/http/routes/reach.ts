import { Router } from 'express';
import { bearingBetween, pointAt, profileBetween } from '@tombolo/core';
import { routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { createHeights } from '../../reach/heights';
import { serve } from '../serve';

/** No link of these bearers goes further; a longer way would touch tiles without end. */
const FURTHEST_KM = 500;
/** Closer than a tile is wide, so that none on the way is overlooked. */
const EVERY_KM = 20;

/** How far the radio reaches, reckoned. */
export function reachRoutes({ database }: StationContext): Router {
  const router = Router();
  const heights = createHeights(database);
  serve(router, routes.profile, async ({ query: { from, to, points } }) => {
    const { distanceKm, azimuthDeg } = bearingBetween(from, to);
    if (distanceKm > FURTHEST_KM)
      throw new ProblemError(
        422,
        'too-far',
        'That is too far',
        `The two are ${Math.round(distanceKm)} km apart; reach is reckoned up to ${FURTHEST_KM} km.`,
      );
    const along = Array.from({ length: Math.ceil(distanceKm / EVERY_KM) }, (_, n) =>
      pointAt(from, azimuthDeg, n * EVERY_KM),
    );
    const { heightAt, missing } = await heights.around([from, ...along, to]);
    return { points: profileBetween(from, to, points, heightAt), missing };
  });
  return router;
}
