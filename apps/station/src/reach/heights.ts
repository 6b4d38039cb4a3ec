import {
  heightIn,
  NOT_MEASURED,
  readHeightTile,
  tileNameAt,
  type HeightGrid,
  type HeightTile,
  type Position,
} from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { eachPiece, listMaps } from '../maps/store';

/** So many tiles are kept in memory: of 1″ they have 26 MB each. */
const MOST_KEPT = 4;

export interface Heights {
  /** The height of each point, m; null where none is known. And the tiles that are wanting. */
  at(points: readonly Position[]): Promise<{ heightsM: (number | null)[]; missing: string[] }>;
  /** The heights of an area, rows from the north, `NOT_MEASURED` where none is known. */
  over(area: Area): Promise<{ heightsM: Int16Array; missing: string[] }>;
}

type Area = Omit<HeightGrid, 'heightsM'>;

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
  const tilesOf = async () => {
    const maps = (await listMaps(database)).filter(({ kind }) => kind === 'heights');
    return async (name: string): Promise<HeightTile | null> => {
      const map = maps.findLast((one) => one.name.toUpperCase().startsWith(name));
      return map ? tileOf(map.id, map.name, map.octets) : null;
    };
  };
  return {
    async at(points) {
      const tileNamed = await tilesOf();
      const heightsM: (number | null)[] = points.map(() => null);
      const missing: string[] = [];
      // One tile after the other, so that a long way does not hold all of them at once.
      for (const name of new Set(points.map(tileNameAt))) {
        const tile = await tileNamed(name);
        if (!tile) missing.push(name);
        else
          points.forEach((point, n) => {
            if (tileNameAt(point) === name) heightsM[n] = heightIn(tile, point);
          });
      }
      return { heightsM, missing };
    },
    async over(area) {
      const tileNamed = await tilesOf();
      const heightsM = new Int16Array(area.columns * area.rows).fill(NOT_MEASURED);
      const missing: string[] = [];
      const latitudes = edgesOf(area.north, area.south, area.rows);
      const longitudes = edgesOf(area.west, area.east, area.columns);
      const [down, across] = [degreesOf(latitudes), degreesOf(longitudes)];
      for (const south of down)
        for (const west of across) {
          const name = tileNameAt({ latitude: south, longitude: west });
          const tile = await tileNamed(name);
          if (!tile) {
            missing.push(name);
            continue;
          }
          for (const [row, latitude] of latitudes.entries()) {
            if (Math.floor(latitude) !== south && latitude !== south + 1) continue;
            for (const [column, longitude] of longitudes.entries()) {
              if (Math.floor(longitude) !== west && longitude !== west + 1) continue;
              const metres = heightIn(tile, { latitude, longitude });
              if (metres !== null) heightsM[row * area.columns + column] = Math.round(metres);
            }
            if (row % ROWS_AT_ONCE === 0) await othersFirst();
          }
        }
      return { heightsM, missing };
    },
  };
}

/** After so many rows whoever else waits for this station has its turn. */
const ROWS_AT_ONCE = 20;
const othersFirst = (): Promise<void> => new Promise((done) => void setImmediate(done));

/** So many values from one to the other, both included. */
const edgesOf = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, n) => from + ((to - from) * n) / (count - 1));
/** The whole degrees that they lie in, each once; an edge that is shared belongs to the tile before it too. */
function degreesOf(values: readonly number[]): Set<number> {
  const most = Math.max(...values);
  return new Set(values.filter((value) => value < most || !Number.isInteger(value)).map(Math.floor));
}
