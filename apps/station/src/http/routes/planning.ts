import { Router } from 'express';
import { offOf, routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { audienceBy } from '../../planning/audience';
import { everybodysWays } from '../../planning/everybody';
import { measuredReach } from '../../planning/measured';
import { netOf } from '../../planning/net';
import { planningOf } from '../../planning/of-station';
import { judgePredictions } from '../../planning/predictions';
import { proposeWays } from '../../planning/propose';
import { serve } from '../serve';

/** Which way will most likely arrive, and how honest that was. */
export function planningRoutes(context: StationContext): Router {
  const router = Router();
  serve(router, routes.ways, async ({ body }) => proposeWays(await planningOf(context), body));
  serve(router, routes.everybody, async ({ query: { off, from } }) =>
    everybodysWays(await planningOf(context), offOf(off), from),
  );
  serve(router, routes.predictions, () => judgePredictions(context.database, context.now()));
  serve(router, routes.net, async ({ query: { bearerId } }) => netOf(await planningOf(context), bearerId ?? null));
  serve(router, routes.audience, async ({ query: { bearerId } }) => audienceBy(await planningOf(context), bearerId));
  serve(router, routes.measured, async () => measuredReach(await planningOf(context)));
  return router;
}
