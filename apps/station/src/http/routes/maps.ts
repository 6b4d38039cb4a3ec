import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { geoJson, mapQuery, MOST_GEOJSON_OCTETS, MOST_MAP_OCTETS, type MapView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { discardMap, eachPiece, listMaps, MOST_READ, readMap, storeMap } from '../../maps/store';
import { appendEvents } from '../../store/events';
import { read } from '../problem';

const idParameter = z.object({ id: z.uuid() });
/** Version 3 of the single-file tile archive begins so. */
const TILE_ARCHIVE = 'PMTiles\u0003';

/** Map files of the operator's own: kept in the database, served in pieces as tile archives are read. */
export function mapRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const tell = () =>
    database.transaction((manager) => appendEvents(manager, [{ type: 'map', data: {} }], new Date(context.now())));

  router.get('/maps', async (_request, response) => {
    response.json(await listMaps(database));
  });
  router.post('/maps', async (request, response) => {
    const { name, kind } = read(mapQuery, request.query);
    const most = kind === 'geojson' ? MOST_GEOJSON_OCTETS : MOST_MAP_OCTETS;
    const id = randomUUID();
    try {
      const { octets, head } = await storeMap(database, { id, name, kind, at: new Date(context.now()) }, request, most);
      if (octets > most)
        throw new ProblemError(413, 'too-large', 'That map is too large', `It may have ${most / 1024 / 1024} MB.`);
      if (kind === 'pmtiles' && head.subarray(0, 8).toString('latin1') !== TILE_ARCHIVE)
        throw refused('It is no tile archive: a file of version 3 begins with “PMTiles” and the octet 3.');
      if (kind === 'geojson') checkGeoJson(await wholeText(database, id, octets));
    } catch (error) {
      await discardMap(database, id);
      throw error;
    }
    await database.query('update map_layer set complete = true where id = $1', [id]);
    await tell();
    response.status(201).json(await one(id));
  });
  router.get('/maps/:id/content', async (request, response) => {
    const map = await one(read(idParameter, request.params).id);
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
    response.type(map.kind === 'geojson' ? 'application/geo+json' : 'application/vnd.pmtiles');
    if (range) {
      response.status(206).setHeader('Content-Range', `bytes ${from}-${to - 1}/${map.octets}`);
      return void response.send(await readMap(database, map.id, from, to));
    }
    response.setHeader('Content-Length', map.octets);
    await pipeline(Readable.from(eachPiece(database, map.id, map.octets)), response);
  });
  router.delete('/maps/:id', async (request, response) => {
    await discardMap(database, read(idParameter, request.params).id);
    await tell();
    response.status(204).end();
  });

  const one = async (id: string): Promise<MapView> => {
    const map = (await listMaps(database)).find((candidate) => candidate.id === id);
    if (!map) throw new ProblemError(404, 'no-such-map', 'That map does not exist', `There is no map ${id}.`);
    return map;
  };
  return router;
}

async function wholeText(database: DataSource, id: string, octets: number): Promise<string> {
  const pieces: Buffer[] = [];
  for await (const piece of eachPiece(database, id, octets)) pieces.push(piece);
  return Buffer.concat(pieces).toString('utf8');
}

const refused = (detail: string) => new ProblemError(422, 'no-map', 'That file is no map that can be shown', detail);

function checkGeoJson(text: string): void {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw refused(`It is not JSON: ${(error as Error).message}`);
  }
  const result = geoJson.safeParse(value);
  if (result.success) return;
  const [issue] = result.error.issues;
  throw refused(
    `It is not GeoJSON (RFC 7946): ${issue?.path.join('.') || 'the file'}: ${issue?.message ?? 'not understood'}`,
  );
}
