import { Router } from 'express';
import { routes, servicesFile } from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { sayBelongs } from '../../services/belongs';
import { importServices, keepService, listServices, removeService } from '../../services/directory';
import { joinedServices } from '../../services/joined';
import { serviceTexts, tryPattern } from '../../services/texts';
import { knownItem } from '../../traffic/views';
import { serve } from '../serve';

/** Services that are reached by message, and what they answer. */
export function serviceRoutes({ database, now }: StationContext): Router {
  const router = Router();
  const at = () => new Date(now());
  serve(router, routes.services, () => listServices(database));
  serve(router, routes.servicesSchema, () => z.toJSONSchema(servicesFile, { io: 'input', unrepresentable: 'any' }));
  serve(router, routes.servicesFile, async () => ({
    format: 'tombolo services' as const,
    version: 1 as const,
    services: (await listServices(database)).map(({ revision: _revision, ...service }) => service),
  }));
  serve(router, routes.joinedServices, () => joinedServices(database, now()));
  serve(router, routes.importServices, ({ body }) => importServices(database, body.services, at()));
  serve(router, routes.keepService, ({ params: { address }, body }) => keepService(database, address, body, at()));
  serve(router, routes.removeService, ({ params: { address } }) => removeService(database, address, at()));
  serve(router, routes.serviceTexts, ({ params: { address } }) => serviceTexts(database, address));
  serve(router, routes.tryPattern, ({ params: { address }, body }) => tryPattern(database, address, body.pattern));
  serve(router, routes.belongsTo, async ({ params: { id }, body: { question } }) => {
    await sayBelongs(database, id, question, at());
    return knownItem(database, id, at());
  });
  return router;
}
