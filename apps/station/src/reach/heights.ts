import { heightIn, readHeightTile, tileNameAt, type HeightTile, type Position } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { eachPiece, listMaps } from '../maps/store';

/** So many tiles are kept in memory: of 1″ they have 26 MB each. */
const MOST_KEPT = 4;

export interface Heights {
  /** The height of each point, m; null where none is known. And the tiles that are wanting. */
  at(points: readonly Position[]): Promise<{ heightsM: (number | null)[]; missing: string[] }>;
}

/** The elevation tiles of the station, read when somebody asks, the last ones kept. A tile never changes under its identifier. */
export function createHeights(database: DataSource): Heights {
  const kept = new Map<string, Promise<HeightTile | null>>();
  const load = async (id: string, name: string, octets: number): Promise<HeightTile | null> => {
    const pieces: Buffer[] = [];
    for await (const piece of eachPiece(database, id, octets)) pieces.push(piece);
    const tile = readHeightTile(name, Buffer.concat(pieces));
    return tile.ok ? tile.value : null;
  };
  const tileOf = (id: string, name: string, octets: number) => {
    const tile = kept.get(id) ?? load(id, name, octets);
    // The one asked for last stands last.
    kept.delete(id);
    kept.set(id, tile);
    tile.catch(() => kept.delete(id));
    for (const old of kept.keys()) if (kept.size > MOST_KEPT) kept.delete(old);
    return tile;
  };
  return {
    async at(points) {
      const maps = (await listMaps(database)).filter(({ kind }) => kind === 'heights');
      const heightsM: (number | null)[] = points.map(() => null);
      const missing: string[] = [];
      // One tile after the other, so that a long way does not hold all of them at once.
      for (const name of new Set(points.map(tileNameAt))) {
        const map = maps.findLast((one) => one.name.toUpperCase().startsWith(name));
        const tile = map ? await tileOf(map.id, map.name, map.octets) : null;
        if (!tile) missing.push(name);
        else
          points.forEach((point, n) => {
            if (tileNameAt(point) === name) heightsM[n] = heightIn(tile, point);
          });
      }
      return { heightsM, missing };
    },
  };
}
