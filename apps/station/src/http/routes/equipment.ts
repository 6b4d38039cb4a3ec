import { Router } from 'express';
import { equipmentFile, routes } from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { keepPiece, listPieces, readEquipmentFile, removePiece, writeEquipmentFile } from '../../equipment/pieces';
import { keepTick, listTicks } from '../../equipment/ticks';
import { serve } from '../serve';

/** What the station consists of, and what has to be keyed into it. */
export function equipmentRoutes({ database, now }: StationContext): Router {
  const router = Router();
  serve(router, routes.equipment, () => listPieces(database));
  serve(router, routes.equipmentFile, ({ response }) => {
    response.attachment('equipment.json');
    return writeEquipmentFile(database);
  });
  serve(router, routes.equipmentSchema, () => z.toJSONSchema(equipmentFile, { io: 'input', unrepresentable: 'any' }));
  serve(router, routes.readEquipment, ({ body }) => readEquipmentFile(database, body, new Date(now())));
  serve(router, routes.keepPiece, ({ params: { id }, body }) => keepPiece(database, { ...body, id }, new Date(now())));
  serve(router, routes.removePiece, ({ params: { id } }) => removePiece(database, id, new Date(now())));
  serve(router, routes.ticks, ({ params: { id } }) => listTicks(database, id));
  serve(router, routes.tick, ({ params: { id }, body }) => keepTick(database, id, body, new Date(now())));
  return router;
}
