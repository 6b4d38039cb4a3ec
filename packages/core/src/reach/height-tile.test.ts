import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { heightIn, readHeightTile, tileNameAt, type HeightTile } from './height-tile';

const SIDE = 1201;
const tileOf = (name: string, octets: Uint8Array): HeightTile => {
  const tile = readHeightTile(name, octets);
  if (!tile.ok) throw new Error(tile.error.reason);
  return tile.value;
};
/** Heights by row from the north and column from the west. */
function octetsOf(metres: (row: number, column: number) => number): Uint8Array {
  const view = new DataView(new ArrayBuffer(SIDE * SIDE * 2));
  for (let row = 0; row < SIDE; row++)
    for (let column = 0; column < SIDE; column++) view.setInt16(2 * (row * SIDE + column), metres(row, column));
  return new Uint8Array(view.buffer);
}
const slope = (row: number, column: number) => ((row * 7 + column * 3) % 900) - 100;

describe('a tile of elevation', () => {
  it('is named by its south-west corner, all around the earth', () => {
    for (const [latitude, longitude, name] of [
      [41.2, -43.4, 'N41W044'],
      [0, 0, 'N00E000'],
      [-0.1, -0.1, 'S01W001'],
      [-33.9, 151.2, 'S34E151'],
      [90, 180, 'N89E179'],
      [-90, -180, 'S90W180'],
    ] as const)
      expect(tileNameAt({ latitude, longitude })).toBe(name);
  });

  it('holds what another reader finds at the same places', () => {
    const octets = octetsOf(slope);
    const folder = mkdtempSync(join(tmpdir(), 'tile-'));
    writeFileSync(join(folder, 'N41W044.hgt'), octets);
    const points = [
      [0, 0],
      [0, 1200],
      [1200, 0],
      [1200, 1200],
      [17, 940],
      [600, 601],
    ] as const;
    const coordinates = points.map(([row, column]) => ({ latitude: 42 - row / 1200, longitude: -44 + column / 1200 }));
    // gdallocationinfo of Debian's gdal-bin, a general reader of raster files: it takes the corner from the name, as we do.
    const told = execFileSync('gdallocationinfo', ['-valonly', '-wgs84', join(folder, 'N41W044.hgt')], {
      input: coordinates.map(({ longitude, latitude }) => `${longitude} ${latitude}\n`).join(''),
      encoding: 'utf8',
    });
    rmSync(folder, { recursive: true });
    const tile = tileOf('N41W044.hgt', octets);
    const heights = coordinates.map((at) => heightIn(tile, at));
    expect(heights.map((metres) => Math.round(metres! * 1e6) / 1e6)).toEqual(told.trim().split('\n').map(Number));
  });

  it('is told between its samples, and not where one that counts is wanting', () => {
    const tile = tileOf(
      'n41w044',
      octetsOf((row, column) => (row === 10 && column === 10 ? -32768 : column)),
    );
    const at = (row: number, column: number) =>
      heightIn(tile, { latitude: 42 - row / 1200, longitude: -44 + column / 1200 });
    expect(at(100.5, 20.25)).toBeCloseTo(20.25, 6);
    expect(at(9.5, 9.5)).toBeNull();
    expect(at(10, 10)).toBeNull();
    expect(at(11, 11)).toBeCloseTo(11, 6);
    expect(heightIn(tile, { latitude: 42.01, longitude: -43.5 })).toBeNull();
    expect(heightIn(tile, { latitude: NaN, longitude: -43.5 })).toBeNull();
    // What no mountain is, is no measurement.
    expect(
      heightIn(
        tileOf(
          'N41W044',
          octetsOf(() => 32767),
        ),
        { latitude: 41.5, longitude: -43.5 },
      ),
    ).toBeNull();
  });

  it('says what is wrong with a file that is none', () => {
    for (const [name, octets] of [
      ['heights.hgt', SIDE * SIDE * 2],
      ['N41W044.hgt', SIDE * SIDE * 2 - 1],
      ['N41W044.hgt', 0],
      ['N90W044.hgt', SIDE * SIDE * 2],
      ['N41E180.hgt', SIDE * SIDE * 2],
      ['../N41W044.hgt', SIDE * SIDE * 2],
    ] as const)
      expect(readHeightTile(name, new Uint8Array(octets))).toMatchObject({
        ok: false,
        error: { reason: expect.stringMatching(/\S/) },
      });
  });
});
