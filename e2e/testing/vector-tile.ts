import { varints } from './varints';

const DELIMITED = 2;
const VARINT = 0;

/** A field of a protocol buffer message: a number, or octets with their length. */
const field = (number: number, value: number | Buffer): Buffer =>
  typeof value === 'number'
    ? Buffer.concat([varints([number * 8 + VARINT]), varints([value])])
    : Buffer.concat([varints([number * 8 + DELIMITED, value.length]), value]);

const zigzag = (n: number): number => (n < 0 ? -2 * n - 1 : 2 * n);
const EXTENT = 4096;
const POLYGON = 3;
const [MOVE_TO, LINE_TO, CLOSE] = [1, 2, 7];
const command = (id: number, count: number): number => count * 8 + id;

/**
 * A tile of shapes (Mapbox Vector Tile specification 2.1, written from the published text): one area of a kind that fills the whole
 * tile.
 */
export function vectorTile(kind: string): Buffer {
  const corners = [
    [EXTENT, 0],
    [0, EXTENT],
    [-EXTENT, 0],
  ].flat();
  const geometry = [
    command(MOVE_TO, 1),
    zigzag(0),
    zigzag(0),
    command(LINE_TO, 3),
    ...corners.map(zigzag),
    command(CLOSE, 1),
  ];
  const feature = Buffer.concat([field(2, varints([0, 0])), field(3, POLYGON), field(4, varints(geometry))]);
  const layer = Buffer.concat([
    field(15, 2),
    field(1, Buffer.from('ground')),
    field(2, feature),
    field(3, Buffer.from('kind')),
    field(4, field(1, Buffer.from(kind))),
    field(5, EXTENT),
  ]);
  return field(3, layer);
}
