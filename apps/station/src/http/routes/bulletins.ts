import { routes } from '@tombolo/contract';
import { Router } from 'express';
import { heardBulletins } from '../../bulletins/heard';
import { bulletinsTurn, endBulletin, keepBulletin, listBulletins } from '../../bulletins/own';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { serve } from '../serve';

/** Bulletins and announcements: heard, and ours. */
export function bulletinRoutes(context: StationContext): Router {
  const router = Router();
  const { database, now } = context;
  const one = async (id: string) => {
    const found = (await listBulletins(context)).find((bulletin) => bulletin.id === id);
    if (!found)
      throw new ProblemError(404, 'no-such-bulletin', 'That bulletin does not exist', 'It is not one of ours.');
    return found;
  };
  serve(router, routes.heardBulletins, async () =>
    heardBulletins(database, (await context.positionNow()).position, new Date(now())),
  );
  serve(router, routes.ownBulletins, () => listBulletins(context));
  serve(router, routes.keepOwnBulletin, async ({ params: { id }, body }) => {
    await keepBulletin(database, id, body, new Date(now()));
    await bulletinsTurn(context);
    return one(id);
  });
  serve(router, routes.endOwnBulletin, async ({ params: { id }, body: { revision } }) => {
    await endBulletin(database, id, revision, new Date(now()));
    return one(id);
  });
  return router;
}
