import { heightAt, type HeightGrid } from './heights';

export const TILE_NAME = 'N41W044.hgt';
const SIDE = 1201;

/** The district as a tile of elevation (3″), as survey data sets come: the sea is 0. */
export function makeTile(grid: HeightGrid): Uint8Array {
  const octets = new Uint8Array(SIDE * SIDE * 2);
  for (let row = 0; row < SIDE; row++)
    for (let column = 0; column < SIDE; column++) {
      const metres = Math.max(0, Math.round(heightAt(grid, 42 - row / (SIDE - 1), -44 + column / (SIDE - 1))));
      const at = 2 * (row * SIDE + column);
      octets[at] = metres >> 8;
      octets[at + 1] = metres & 0xff;
    }
  return octets;
}
