import { Router } from 'express';
import { routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { serialPorts } from '../../serial/ports';
import { probeSpeeds } from '../../serial/probe';
import { serve } from '../serve';

/** Serial lines of this machine. */
export function serialRoutes({ bearers }: StationContext): Router {
  const router = Router();
  serve(router, routes.serialPorts, async () => [...(await serialPorts())]);
  serve(router, routes.probeSpeeds, async ({ body: { device, talk } }) => {
    const user = bearers.running().find(({ bearer }) => bearer.device?.() === device);
    if (user)
      throw new ProblemError(
        409,
        'port-in-use',
        'A bearer uses that port',
        `“${user.name}” has ${device} open. Switch it off first: two readers take octets from each other.`,
      );
    const { tried, foundBd } = await probeSpeeds(device, talk);
    return { tried: [...tried], foundBd };
  });
  return router;
}
