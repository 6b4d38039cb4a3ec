import { varints } from './varints';

const HEADER = 127;
/** Kinds of tiles, as the header of an archive tells them. */
export const TILE_TYPES = { shapes: 1, png: 2 } as const;
const UNCOMPRESSED = 1;

/**
 * The smallest tile archive: one tile for the whole world at zoom 0, nothing compressed. Written from the published
 * specification of the format (PMTiles version 3); the reader under test is the format's own library.
 */
export function tileArchive(tile: Buffer, type: keyof typeof TILE_TYPES): Buffer {
  const metadata = Buffer.from('{}');
  // One entry: tile 0, run of one, its length, and its place plus one.
  const directory = varints([1, 0, 1, tile.length, 1]);
  const header = Buffer.alloc(HEADER);
  header.write('PMTiles', 0, 'latin1');
  header.writeUInt8(3, 7);
  const offsets = [
    HEADER,
    directory.length,
    HEADER + directory.length,
    metadata.length,
    0,
    0,
    HEADER + directory.length + metadata.length,
    tile.length,
    1,
    1,
    1,
  ];
  offsets.forEach((value, i) => header.writeBigUInt64LE(BigInt(value), 8 + 8 * i));
  header.writeUInt8(1, 96);
  header.writeUInt8(UNCOMPRESSED, 97);
  header.writeUInt8(UNCOMPRESSED, 98);
  header.writeUInt8(TILE_TYPES[type], 99);
  // Zoom 0 only; the whole world in ten-millionths of a degree.
  header.writeUInt8(0, 100);
  header.writeUInt8(0, 101);
  [-180, -85, 180, 85].forEach((degrees, i) => header.writeInt32LE(degrees * 1e7, 102 + 4 * i));
  return Buffer.concat([header, directory, metadata, tile]);
}
