import type { Position } from '../geo/geodesic';
import { fail, ok, type Parsed } from '../result';

/**
 * One degree of elevation as survey data sets come: rows from the north edge, each from the west, big-endian signed 16 bits of metres above
 * the sea, the edges shared with the neighbours; −32768 where nothing was measured. 1201 samples a side (3″) or 3601 (1″).
 */
export interface HeightTile {
  /** Of its south-west corner, degrees. */
  readonly south: number;
  readonly west: number;
  readonly side: number;
  readonly octets: Uint8Array;
}

const NAME = /^([NS])(\d{2})([EW])(\d{3})(?:\.hgt)?$/i;
const SIDES = [1201, 3601] as const;
const VOID = -32768;
/** Nothing on earth is higher or lower; what is was not measured. */
const HIGHEST_M = 9000;
const LOWEST_M = -500;
/** Less than this is the rounding of degrees. */
const NO_WEIGHT = 1e-9;
export const MOST_TILE_OCTETS = 3601 * 3601 * 2;

/** The name of the tile that a point lies in, by its south-west corner, such as N41W044. */
export function tileNameAt({ latitude, longitude }: Position): string {
  const south = Math.min(89, Math.floor(latitude));
  const west = Math.min(179, Math.floor(longitude));
  const padded = (degrees: number, digits: number) => String(Math.abs(degrees)).padStart(digits, '0');
  return `${south < 0 ? 'S' : 'N'}${padded(south, 2)}${west < 0 ? 'W' : 'E'}${padded(west, 3)}`;
}

/** A tile from its file. Says what is wrong with a name or a size that is none. */
export function readHeightTile(name: string, octets: Uint8Array): Parsed<HeightTile> {
  const named = NAME.exec(name.trim());
  if (!named) return fail(0, 'the name of a tile tells its south-west corner, such as N41W044.hgt');
  const [, ns, lat, ew, lon] = named;
  const south = Number(lat) * (ns!.toUpperCase() === 'S' ? -1 : 1) + 0;
  const west = Number(lon) * (ew!.toUpperCase() === 'W' ? -1 : 1) + 0;
  if (south < -90 || south > 89 || west < -180 || west > 179) return fail(0, `there is no ${name.trim()} on earth`);
  const side = SIDES.find((one) => one * one * 2 === octets.length);
  if (!side)
    return fail(
      octets.length,
      `a tile has ${SIDES.map((one) => one * one * 2).join(' or ')} octets, this file ${octets.length}`,
    );
  return ok({ south, west, side, octets });
}

/** Metres above the sea of one sample; null where nothing was measured. */
function sampleM({ octets, side }: HeightTile, row: number, column: number): number | null {
  const at = 2 * (row * side + column);
  const raw = (octets[at]! << 8) | octets[at + 1]!;
  const metres = raw > 0x7fff ? raw - 0x10000 : raw;
  return metres === VOID || metres > HIGHEST_M || metres < LOWEST_M ? null : metres;
}

/**
 * Metres above the sea at a point, between the four samples around it. Null outside of the tile, and where one of them that counts was not
 * measured: a hole is not filled with a guess.
 */
export function heightIn(tile: HeightTile, { latitude, longitude }: Position): number | null {
  const last = tile.side - 1;
  const x = (longitude - tile.west) * last;
  const y = (tile.south + 1 - latitude) * last;
  if (!(x >= 0 && x <= last && y >= 0 && y <= last)) return null;
  const [column, row] = [Math.min(last - 1, Math.floor(x)), Math.min(last - 1, Math.floor(y))];
  const [u, v] = [x - column, y - row];
  let sum = 0;
  for (const [down, right, weight] of [
    [0, 0, (1 - u) * (1 - v)],
    [0, 1, u * (1 - v)],
    [1, 0, (1 - u) * v],
    [1, 1, u * v],
  ] as const) {
    if (weight < NO_WEIGHT) continue;
    const metres = sampleM(tile, row + down, column + right);
    if (metres === null) return null;
    sum += weight * metres;
  }
  return sum;
}
