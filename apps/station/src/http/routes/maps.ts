import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { MOST_TILE_OCTETS, readHeightTile, TILE_ARCHIVE_BEGINNING_OCTETS } from '@tombolo/core';
import { routes, MOST_GEOJSON_OCTETS, MOST_MAP_OCTETS, type MapKind, type MapView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import type { StationContext } from '../../context';
import { runHeavy } from '../../heavy/heavy';
import { ProblemError } from '../../problem-error';
import { concludeMap, discardMap, eachPiece, listMaps, MOST_READ, readMap, storeMap } from '../../maps/store';
import { appendEvents } from '../../store/events';
import { serve } from '../serve';

const MOST_OCTETS: Readonly<Record<MapKind, number>> = {
  geojson: MOST_GEOJSON_OCTETS,
  pmtiles: MOST_MAP_OCTETS,
  heights: MOST_TILE_OCTETS,
};
const TYPES: Readonly<Record<MapKind, string>> = {
  geojson: 'application/geo+json',
  pmtiles: 'application/vnd.pmtiles',
  heights: 'application/octet-stream',
};

/** Map files of the operator's own: kept in the database, served in pieces as tile archives are read. */
export function mapRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const tell = () =>
    database.transaction((manager) => appendEvents(manager, [{ type: 'map', data: {} }], new Date(context.now())));

  serve(router, routes.maps, () => listMaps(database));
  serve(router, routes.addMap, async ({ query: { name, kind }, request }) => {
    const most = MOST_OCTETS[kind];
    const id = randomUUID();
    try {
      const { octets, head } = await storeMap(database, { id, name, kind, at: new Date(context.now()) }, request, most);
      if (octets > most)
        throw new ProblemError(413, 'too-large', 'That map is too large', `It may have ${most / 1024 / 1024} MB.`);
      if (!request.complete) throw refused('It was cut off on its way here.');
      const problem =
        kind === 'heights'
          ? await faultOfHeights(name, octets)
          : await runHeavy(
              context.heavy.check,
              kind === 'geojson'
                ? { kind, octets: await whole(database, id, octets) }
                : { kind, octets: head.subarray(0, TILE_ARCHIVE_BEGINNING_OCTETS), fileOctets: octets },
            );
      if (problem !== null) throw refused(problem);
    } catch (error) {
      await discardMap(database, id);
      throw error;
    }
    await concludeMap(database, id);
    await tell();
    return one(id);
  });
  serve(router, routes.mapContent, async ({ params, request, response }) => {
    const map = await one(params.id);
    const range = /^bytes=(\d+)-(\d*)$/.exec(request.headers.range ?? '');
    const from = range ? Number(range[1]) : 0;
    // A longer piece than is given at once is cut, as a server may do (RFC 9110, 15.3.7).
    const to = Math.min(map.octets, from + MOST_READ, range?.[2] ? Number(range[2]) + 1 : map.octets);
    if (from >= to) {
      response.status(416).setHeader('Content-Range', `bytes */${map.octets}`);
      return void response.end();
    }
    response.setHeader('Accept-Ranges', 'bytes');
    // Compressed on the way, a piece would not be the piece that was asked for.
    response.setHeader('Cache-Control', 'private, max-age=86400, immutable, no-transform');
    response.setHeader('ETag', `"${map.id}"`);
    response.type(TYPES[map.kind]);
    if (range) {
      response.status(206).setHeader('Content-Range', `bytes ${from}-${to - 1}/${map.octets}`);
      return void response.send(await readMap(database, map.id, from, to));
    }
    response.setHeader('Content-Length', map.octets);
    await pipeline(Readable.from(eachPiece(database, map.id, map.octets)), response);
  });
  serve(router, routes.removeMap, async ({ params }) => {
    await discardMap(database, params.id);
    await tell();
  });

  /** Name and size tell whether it is a tile; any octets are heights. A second one of a name would leave open which holds. */
  const faultOfHeights = async (name: string, octets: number): Promise<string | null> => {
    const tile = readHeightTile(name, new Uint8Array(octets));
    if (!tile.ok) return `${tile.error.reason[0]!.toUpperCase()}${tile.error.reason.slice(1)}.`;
    const same = (await listMaps(database)).some(
      (map) => map.kind === 'heights' && map.name.slice(0, 7).toUpperCase() === name.trim().slice(0, 7).toUpperCase(),
    );
    return same ? 'A tile of these heights is there already: remove it first.' : null;
  };

  const one = async (id: string): Promise<MapView> => {
    const map = (await listMaps(database)).find((candidate) => candidate.id === id);
    if (!map) throw new ProblemError(404, 'no-such-map', 'That map does not exist', `There is no map ${id}.`);
    return map;
  };
  return router;
}

async function whole(database: DataSource, id: string, octets: number): Promise<Uint8Array> {
  const all = new Uint8Array(new SharedArrayBuffer(octets));
  let at = 0;
  for await (const piece of eachPiece(database, id, octets)) {
    all.set(piece, at);
    at += piece.length;
  }
  return all;
}

const refused = (detail: string) => new ProblemError(422, 'no-map', 'That file is no map that can be shown', detail);
