import { LessThan, type DataSource } from 'typeorm';
import type { MapKind, MapView } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { MapChunkEntity, MapLayerEntity } from '../store/entities';

/** Size of a stored piece: a tile directory is read with one or two. */
const CHUNK_OCTETS = 256 * 1024;
/** No piece is larger; readers of tile archives ask for little. */
export const MOST_READ = 8 * 1024 * 1024;

/** Stores a map as it comes, piece by piece; stops behind `most`. Gives its size and its first piece. */
export async function storeMap(
  database: DataSource,
  map: { readonly id: string; readonly name: string; readonly kind: MapKind; readonly at: Date },
  content: AsyncIterable<Buffer>,
  most: number,
): Promise<{ octets: number; head: Buffer }> {
  const layers = database.getRepository(MapLayerEntity);
  const chunks = database.getRepository(MapChunkEntity);
  await layers.insert({ id: map.id, name: map.name, kind: map.kind, createdAt: map.at });
  let waiting: Buffer[] = [];
  let waitingOctets = 0;
  let octets = 0;
  let n = 0;
  let head: Buffer = Buffer.alloc(0);
  const put = async (piece: Buffer) => {
    if (n === 0) head = piece;
    await chunks.insert({ mapId: map.id, n: n++, content: piece });
  };
  for await (const part of content) {
    octets += part.length;
    if (octets > most) return { octets, head };
    waiting.push(part);
    waitingOctets += part.length;
    if (waitingOctets < CHUNK_OCTETS) continue;
    let joined = Buffer.concat(waiting);
    for (; joined.length >= CHUNK_OCTETS; joined = joined.subarray(CHUNK_OCTETS))
      await put(joined.subarray(0, CHUNK_OCTETS));
    waiting = [joined];
    waitingOctets = joined.length;
  }
  if (waitingOctets > 0) await put(Buffer.concat(waiting));
  await layers.update({ id: map.id }, { octets: String(octets) });
  return { octets, head };
}

/** Octets [from, to) of a map. */
export async function readMap(queries: Queries, id: string, from: number, to: number): Promise<Buffer> {
  const end = Math.min(to, from + MOST_READ);
  const first = Math.floor(from / CHUNK_OCTETS);
  const rows = await rowsOf<{ content: Buffer }>(
    queries,
    'select content from map_chunk where map_id = $1 and n between $2 and $3 order by n',
    [id, first, Math.floor((end - 1) / CHUNK_OCTETS)],
  );
  return Buffer.concat(rows.map(({ content }) => content)).subarray(
    from - first * CHUNK_OCTETS,
    end - first * CHUNK_OCTETS,
  );
}

/** Taken in pieces of this size, a large map neither needs much memory nor holds up anything else. */
const PIECE_OCTETS = 512 * 1024;

/** A whole map, piece by piece. */
export async function* eachPiece(queries: Queries, id: string, octets: number): AsyncGenerator<Buffer> {
  for (let from = 0; from < octets; from += PIECE_OCTETS)
    yield await readMap(queries, id, from, Math.min(octets, from + PIECE_OCTETS));
}

export async function listMaps(database: DataSource): Promise<MapView[]> {
  const rows = await database
    .getRepository(MapLayerEntity)
    .find({ where: { complete: true }, order: { createdAt: 'ASC', id: 'ASC' } });
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    kind: row.kind,
    octets: Number(row.octets),
    createdAt: row.createdAt.toISOString(),
  }));
}

/** A map is whole, and may be seen. */
export const concludeMap = (database: DataSource, id: string): Promise<unknown> =>
  database.getRepository(MapLayerEntity).update({ id }, { complete: true });

export const discardMap = (database: DataSource, id: string): Promise<unknown> =>
  database.getRepository(MapLayerEntity).delete({ id });

/** Lets go what was cut off while it came. */
export const discardUnfinishedMaps = (database: DataSource, before: Date): Promise<unknown> =>
  database.getRepository(MapLayerEntity).delete({ complete: false, createdAt: LessThan(before) });
