import { Router } from 'express';
import { asksWho, equipmentFile, ownStation, planOf, routes, ticksOf } from '@tombolo/contract';
import { setUpSheet, sheetDifferences } from '@tombolo/core';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { keepPiece, listPieces, readEquipmentFile, removePiece, writeEquipmentFile } from '../../equipment/pieces';
import { noSuchPiece } from '../../equipment/pieces';
import { keepTick, listTicks } from '../../equipment/ticks';
import { sheetPdf } from '../../exports/sheet-pdf';
import { bearerViews } from '../../bearers/views';
import { sendPieces } from '../stream';
import { serve } from '../serve';

/** What the station consists of, and what has to be keyed into it. */
export function equipmentRoutes({ database, settings, bearers, now }: StationContext): Router {
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
  serve(router, routes.sheet, async ({ params: { id }, query: { who, symbol, reports }, response }) => {
    const pieces = await listPieces(database);
    const piece = pieces.find((one) => one.id === id);
    if (!piece) throw noSuchPiece();
    const current = await settings();
    const views = await bearerViews(database, { now: now(), settings: current, running: bearers.running() });
    const ours = { who: '', symbol: current.symbol, reports };
    const sheetOf = (holder: typeof ours) => setUpSheet(piece, pieces, planOf(holder, current, views));
    const own = ownStation(current);
    const typed = asksWho(piece, pieces) ? who.trim().toUpperCase() : '';
    const whose = typed || (own ?? 'us');
    const lines = sheetOf({ who: typed, symbol: symbol ?? current.symbol, reports });
    const at = new Date(now());
    const sheet = sheetPdf({
      piece: piece.name,
      whose,
      own: own ?? '',
      lines,
      ticks: ticksOf(await listTicks(database, id), whose),
      differences: whose === (own ?? 'us') ? null : sheetDifferences(sheetOf(ours), lines),
      at,
    });
    await sendPieces(response, sheet, () => {
      response.type('application/pdf');
      response.setHeader(
        'Content-Disposition',
        `attachment; filename="set-up-sheet-${whose.replace(/[^A-Za-z0-9-]/g, '')}.pdf"`,
      );
    });
  });
  serve(router, routes.ticks, ({ params: { id } }) => listTicks(database, id));
  serve(router, routes.tick, ({ params: { id }, body }) => keepTick(database, id, body, new Date(now())));
  return router;
}
