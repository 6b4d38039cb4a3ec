import { fail, ok, type Parsed } from '../result';

/** Header of a tile archive, version 3 of its published specification: 127 octets, numbers little endian. */
export interface TileArchiveHead {
  readonly rootOffset: number;
  readonly rootOctets: number;
  /** 1 none, 2 gzip; others are not read here. */
  readonly internalCompression: number;
}

export const TILE_ARCHIVE_HEAD_OCTETS = 127;
/** The root directory lies within the first 16 384 octets, so that one request brings it. */
export const TILE_ARCHIVE_BEGINNING_OCTETS = 16_384;
const MAGIC = 'PMTiles';

const SECTIONS = [
  ['the root directory', 8],
  ['the metadata', 24],
  ['the leaf directories', 40],
  ['the tiles', 56],
] as const;

/** Reads a header and checks that all it speaks of lies within the file: an archive may claim any number. */
export function readTileArchiveHead(head: Uint8Array, fileOctets: number): Parsed<TileArchiveHead> {
  if (head.length < TILE_ARCHIVE_HEAD_OCTETS)
    return fail(head.length, `a tile archive begins with ${TILE_ARCHIVE_HEAD_OCTETS} octets of header`);
  const magic = String.fromCharCode(...head.subarray(0, 7));
  if (magic !== MAGIC || head[7] !== 3)
    return fail(0, 'it is no tile archive: a file of version 3 begins with “PMTiles” and the octet 3');
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  for (const [name, at] of SECTIONS) {
    const offset = view.getBigUint64(at, true);
    const length = view.getBigUint64(at + 8, true);
    if (offset + length > BigInt(fileOctets))
      return fail(at, `${name} would end at octet ${offset + length}, but the file has ${fileOctets}`);
  }
  const rootOffset = Number(view.getBigUint64(8, true));
  const rootOctets = Number(view.getBigUint64(16, true));
  if (rootOctets === 0 || rootOffset + rootOctets > TILE_ARCHIVE_BEGINNING_OCTETS)
    return fail(8, `the root directory has to lie within the first ${TILE_ARCHIVE_BEGINNING_OCTETS} octets`);
  const internalCompression = head[97]!;
  if (internalCompression !== 1 && internalCompression !== 2)
    return fail(97, 'its directories are compressed in a way that is not read here');
  return ok({ rootOffset, rootOctets, internalCompression });
}
