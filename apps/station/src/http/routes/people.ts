import { Router } from 'express';
import { routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { endTacticalName, giveTacticalName, listTacticalNames } from '../../people/tactical';
import { keepPeople, keepPerson, listPeople, removePerson } from '../../people/people';
import { serve } from '../serve';

/** People who are reached through the station, and the names of stations by their task. */
export function peopleRoutes({ database, now }: StationContext): Router {
  const router = Router();
  serve(router, routes.people, () => listPeople(database));
  serve(router, routes.keepPerson, ({ params: { id }, body }) => keepPerson(database, id, body, new Date(now())));
  serve(router, routes.keepPeople, ({ body }) => keepPeople(database, body, new Date(now())));
  serve(router, routes.removePerson, ({ params: { id } }) => removePerson(database, id, new Date(now())));
  serve(router, routes.tacticalNames, () => listTacticalNames(database));
  serve(router, routes.giveTacticalName, ({ body }) => giveTacticalName(database, body, new Date(now())));
  serve(router, routes.endTacticalName, ({ params: { id } }) => endTacticalName(database, id, new Date(now())));
  return router;
}
