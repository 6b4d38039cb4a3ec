import { routes } from '@tombolo/contract';
import { Router } from 'express';
import type { StationContext } from '../../context';
import { endObject, keepObject, listObjects, objectsTurn } from '../../objects/objects';
import { ProblemError } from '../../problem-error';
import { serve } from '../serve';

/** Things that we put on the map of all. */
export function ownObjectRoutes(context: StationContext): Router {
  const router = Router();
  const { database, settings, now } = context;
  const one = async (id: string) => {
    const found = (await listObjects(context)).find((thing) => thing.id === id);
    if (!found) throw new ProblemError(404, 'no-such-object', 'That thing does not exist', 'It is not one of ours.');
    return found;
  };
  serve(router, routes.ownObjects, () => listObjects(context));
  serve(router, routes.keepOwnObject, async ({ params: { id }, body }) => {
    await keepObject(database, id, body, await settings(), new Date(now()));
    await objectsTurn(context);
    return one(id);
  });
  serve(router, routes.endOwnObject, async ({ params: { id }, body: { revision } }) => {
    await endObject(database, id, revision, new Date(now()));
    await objectsTurn(context);
    return one(id);
  });
  return router;
}
