import { Router, type Response } from 'express';
import { ownStation, routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import {
  communicationsLog,
  exportMonitor,
  exportPcap,
  PLACE_FORMATS,
  placedThings,
  readingsCsv,
} from '../../exports/exports';
import { conversationPdf } from '../../exports/conversation-pdf';
import { listReadings } from '../../readings/readings';
import { listStations, trailOf } from '../../heard/stations';
import { itemsBetween } from '../../traffic/list';
import { summariesOf } from '../../traffic/views';
import { serve } from '../serve';
import { sendPieces } from '../stream';

const PLACE_ROUTES = { gpx: routes.placesGpx, kml: routes.placesKml, geojson: routes.placesGeoJson };

/** Files to hand in: what was heard, and the communications log. */
export function exportRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const stamp = () => new Date(context.now()).toISOString().slice(0, 16).replace(/[-:]/g, '');
  const attach = (response: Response, type: string, name: string) => {
    response.type(type).setHeader('Content-Disposition', `attachment; filename="${name}"`);
  };

  serve(router, routes.heardCapture, async ({ query: filter, response }) => {
    let skipped = 0;
    await sendPieces(response, behindFirst(exportPcap(database, filter, () => skipped++)), () =>
      attach(response, 'application/vnd.tcpdump.pcap', `heard-${stamp()}Z.pcap`),
    );
    if (skipped > 0)
      context.log(`capture export: ${skipped} copies from text feeds cannot be AX.25 frames and were left out`);
  });
  serve(router, routes.heardText, async ({ query: filter, response }) => {
    await sendPieces(response, exportMonitor(database, filter), () =>
      attach(response, 'text/plain; charset=utf-8', `heard-${stamp()}Z.txt`),
    );
  });
  serve(router, routes.log, async ({ query: { from, to }, response }) => {
    const at = new Date(context.now());
    async function* pages() {
      for await (const items of itemsBetween(database, new Date(from ?? 0), new Date(to ?? '9999-01-01')))
        yield await summariesOf(database, items, at);
    }
    await sendPieces(response, behindFirst(communicationsLog(pages())), () =>
      attach(response, 'text/csv; charset=utf-8', `communications-log-${stamp()}Z.csv`),
    );
  });
  serve(router, routes.conversation, async ({ query: { with: who }, response }) => {
    const at = new Date(context.now());
    async function* pages() {
      for await (const items of itemsBetween(database, new Date(0), at, who))
        yield await summariesOf(database, items, at);
    }
    const own = ownStation(await context.settings()) ?? '';
    await sendPieces(response, conversationPdf(who, own, pages(), at), () =>
      attach(response, 'application/pdf', `conversation-${stamp()}Z.pdf`),
    );
  });
  for (const [ending, { type, format }] of Object.entries(PLACE_FORMATS))
    serve(router, PLACE_ROUTES[ending as keyof typeof PLACE_ROUTES], async ({ query: { call, hours }, response }) => {
      const since = new Date(context.now() - hours * 3_600_000);
      const all = await listStations(database, await context.settings());
      const stations = call === undefined ? all : all.filter((station) => station.call === call);
      const trails = new Map<string, Awaited<ReturnType<typeof trailOf>>>();
      for (const station of stations)
        if (station.moves > 1) trails.set(station.call, await trailOf(database, station.call, since));
      const name = call === undefined ? 'stations' : call.replace(/[^A-Za-z0-9-]/g, '');
      attach(response, type, `${name || 'object'}-${stamp()}Z.${ending}`);
      response.send(
        format(
          placedThings(stations, (of) => trails.get(of) ?? []),
          new Date(context.now()),
        ),
      );
    });
  serve(router, routes.readingsCsv, async ({ query: { kind, hours }, response }) => {
    attach(response, 'text/csv; charset=utf-8', `${kind}-${stamp()}Z.csv`);
    response.send(readingsCsv(await listReadings(database, kind, new Date(context.now() - hours * 3_600_000))));
  });
  return router;
}

/** A head that is made without asking anybody, together with the first piece that is. */
async function* behindFirst<T extends Uint8Array | string>(pieces: AsyncGenerator<T>): AsyncGenerator<T | Buffer> {
  const head = await pieces.next();
  const first = await pieces.next();
  if (!head.done) yield first.done ? head.value : Buffer.concat([Buffer.from(head.value), Buffer.from(first.value)]);
  yield* pieces;
}
