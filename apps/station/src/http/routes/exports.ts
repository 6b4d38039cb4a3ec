import { Router, type Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { heardFilter, instant } from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { communicationsLog, exportMonitor, exportPcap } from '../../exports/exports';
import { itemsBetween } from '../../traffic/list';
import { summariesOf } from '../../traffic/views';
import { read } from '../problem';

const span = z.object({ from: instant.optional(), to: instant.optional() });

/** Files to hand in: what was heard, and the communications log. */
export function exportRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const stamp = () => new Date(context.now()).toISOString().slice(0, 16).replace(/[-:]/g, '');
  const attach = (response: Response, type: string, name: string) => {
    response.type(type).setHeader('Content-Disposition', `attachment; filename="${name}"`);
  };

  router.get('/exports/heard.pcap', async (request, response) => {
    const filter = read(heardFilter, request.query);
    attach(response, 'application/vnd.tcpdump.pcap', `heard-${stamp()}Z.pcap`);
    let skipped = 0;
    await pipeline(Readable.from(exportPcap(database, filter, () => skipped++)), response);
    if (skipped > 0)
      context.log(`capture export: ${skipped} copies from text feeds cannot be AX.25 frames and were left out`);
  });
  router.get('/exports/heard.txt', async (request, response) => {
    const filter = read(heardFilter, request.query);
    attach(response, 'text/plain; charset=utf-8', `heard-${stamp()}Z.txt`);
    await pipeline(Readable.from(exportMonitor(database, filter)), response);
  });
  router.get('/exports/log.csv', async (request, response) => {
    const { from, to } = read(span, request.query);
    const items = await itemsBetween(database, new Date(from ?? 0), new Date(to ?? '9999-01-01'));
    attach(response, 'text/csv; charset=utf-8', `communications-log-${stamp()}Z.csv`);
    response.send(communicationsLog(await summariesOf(database, items, new Date(context.now()))));
  });
  return router;
}
