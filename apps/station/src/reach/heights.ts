import { heightIn, readHeightTile, tileNameAt, type HeightTile, type Position } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { eachPiece, listMaps } from '../maps/store';

/** So many tiles are kept in memory: of 1″ they have 26 MB each. */
const MOST_KEPT = 4;

export interface Heights {
  /** What tells the height of any of these points, and the tiles that are wanting. */
  around(points: readonly Position[]): Promise<{
    heightAt: (at: Position) => number | null;
    missing: string[];
  }>;
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
    async around(points) {
      const names = [...new Set(points.map(tileNameAt))];
      const maps = (await listMaps(database)).filter(({ kind }) => kind === 'heights');
      const tiles = new Map<string, HeightTile>();
      const missing: string[] = [];
      for (const name of names) {
        const map = maps.findLast((one) => one.name.toUpperCase().startsWith(name));
        const tile = map ? await tileOf(map.id, map.name, map.octets) : null;
        if (tile) tiles.set(name, tile);
        else missing.push(name);
      }
      return {
        heightAt: (at) => {
          const tile = tiles.get(tileNameAt(at));
          return tile ? heightIn(tile, at) : null;
        },
        missing,
      };
    },
  };
}
