import type { GroundView, MapView, ProfileView } from '@tombolo/contract';
import { apiOf, createDatabase, startTestStation, type Api } from '../testing/harness';

let database: Awaited<ReturnType<typeof createDatabase>>;
let station: Awaited<ReturnType<typeof startTestStation>>;
let api: Api;
beforeAll(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url);
  api = apiOf(station);
});
afterAll(async () => {
  await station.stop();
  await database.drop();
});

const SIDE = 1201;
/** A tile whose heights are the number of the column, or a hole. */
function tile(heightOf: (row: number, column: number) => number): Uint8Array<ArrayBuffer> {
  const octets = new Uint8Array(SIDE * SIDE * 2);
  const view = new DataView(octets.buffer);
  for (let row = 0; row < SIDE; row++)
    for (let column = 0; column < SIDE; column++) view.setInt16(2 * (row * SIDE + column), heightOf(row, column));
  return octets;
}
const add = (name: string, octets: Uint8Array<ArrayBuffer>) =>
  api.send(`/maps?name=${name}&kind=heights`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: octets,
  });
const profile = (from: string, to: string, points = 5) =>
  api.get<ProfileView>(`/reach/profile?from=${from}&to=${to}&points=${points}`);
const heights = async (from: string, to: string) =>
  (await profile(from, to)).points.map(({ groundM }) => (groundM === null ? null : Math.round(groundM)));

describe('the ground between two places', () => {
  it('is not known before there is a tile, and says which is wanting', async () => {
    const view = await profile('41.5,-43.9', '41.5,-44.1');
    expect(view.points.map(({ groundM }) => groundM)).toEqual([null, null, null, null, null]);
    expect(view.missing).toEqual(['N41W044', 'N41W045']);
  });

  it('is read from the tiles that are there, across their edge, with a hole left a hole', async () => {
    expect(
      (
        await add(
          'N41W044.hgt',
          tile((_, column) => column),
        )
      ).status,
    ).toBe(201);
    const first = await profile('41.5,-43.9', '41.5,-44.1');
    expect(first.missing).toEqual(['N41W045']);
    expect(Math.round(first.points[0]!.groundM!)).toBe(120);
    expect(first.points.at(-1)!.groundM).toBeNull();
    expect(
      (
        await add(
          'n41w045.hgt',
          tile((row) => (row < 600 ? -32768 : 7)),
        )
      ).status,
    ).toBe(201);
    expect(await heights('41.2,-43.9', '41.2,-44.1')).toEqual([120, 60, expect.any(Number), 7, 7]);
    expect((await heights('41.9,-44.2', '41.9,-44.3')).every((metres) => metres === null)).toBe(true);
  });

  it('overlooks no tile that the way only touches', async () => {
    // It cuts the corner of N42W044 for less than a kilometre of 28.
    expect((await profile('41.9,-43.11', '42.1,-42.9', 401)).missing).toEqual(['N42W044', 'N42W043']);
  });

  it('is told for an area, row by row from the north, over several tiles and with what is wanting', async () => {
    const ground = async (query: string) => {
      const view = await api.get<GroundView>(`/reach/ground?${query}`);
      const octets = Buffer.from(view.heights, 'base64');
      return { ...view, metres: Array.from({ length: octets.length / 2 }, (_, n) => octets.readInt16LE(2 * n)) };
    };
    const both = await ground('south=41.1&north=41.3&west=-44.1&east=-43.9&columns=3&rows=2');
    // West the tile of sevens, on the shared meridian both tell 0 or 7, east a twelfth of a tile: 120 columns.
    expect(both.metres).toEqual([7, expect.any(Number), 120, 7, expect.any(Number), 120]);
    expect([0, 7]).toContain(both.metres[1]);
    expect(both.missing).toEqual([]);
    const open = await ground('south=41.5&north=42.5&west=-43.5&east=-43.4&columns=2&rows=3');
    expect(open.metres).toEqual([-32768, -32768, 600, 720, 600, 720]);
    expect(open.missing).toEqual(['N42W044']);
    // An edge that lies on the tile's own edge asks for no neighbour.
    expect((await ground('south=41&north=42&west=-44&east=-43&columns=5&rows=5')).missing).toEqual([]);
    for (const query of [
      'south=42&north=41&west=-44&east=-43&columns=2&rows=2',
      'south=41&north=42&west=-43&east=-44&columns=2&rows=2',
      'south=41&north=42&west=-44&east=-43&columns=1&rows=2',
      'south=41&north=42&west=-44&east=-43&columns=20000&rows=20000',
      'south=0&north=42&west=-44&east=-43&columns=2&rows=2',
      'south=a&north=42&west=-44&east=-43&columns=2&rows=2',
      '',
    ])
      expect(await api.get(`/reach/ground?${query}`)).toMatchObject({ status: 422 });
  });

  it('is forgotten with its tile', async () => {
    const maps = await api.get<MapView[]>('/maps');
    const west = maps.find(({ name }) => name === 'n41w045.hgt')!;
    expect(west).toMatchObject({ kind: 'heights', octets: SIDE * SIDE * 2 });
    expect((await api.send(`/maps/${west.id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await profile('41.2,-44.2', '41.2,-44.3')).missing).toEqual(['N41W045']);
  });

  it('refuses files that are no tiles, a second one of a name, and places that are none', async () => {
    const flat = tile(() => 0);
    expect((await add('hills.hgt', flat)).status).toBe(422);
    expect((await add('N41W046.hgt', flat.subarray(1))).status).toBe(422);
    expect((await add('N41W046.hgt', new Uint8Array(3601 * 3601 * 2 + 1))).status).toBe(413);
    const again = await add('n41w044.HGT', flat);
    expect(again.status).toBe(422);
    expect(await again.json()).toMatchObject({ detail: expect.stringContaining('there already') });
    expect((await api.get<MapView[]>('/maps')).map(({ name }) => name)).toEqual(['N41W044.hgt']);
    for (const [from, to] of [
      ['41.5', '41.5,-44.1'],
      ['91,0', '41.5,-44.1'],
      [',', '1,1'],
      ['1,1,1', '1,1'],
      ['NaN,1', '1,1'],
      ['0,0', '10,10'],
    ])
      expect(await api.get(`/reach/profile?from=${from}&to=${to}`)).toMatchObject({ status: 422 });
    expect(await api.get('/reach/profile?from=1,1&to=1,1.1&points=100000')).toMatchObject({ status: 422 });
  });

  it('is there for the same place twice, at the poles and at the date line', async () => {
    for (const [from, to] of [
      ['41.5,-43.9', '41.5,-43.9'],
      ['90,0', '89,0'],
      ['-90,0', '-89,0'],
      ['10,179.9', '10,-179.9'],
      ['10,180', '10,-180'],
    ] as const) {
      const view = await profile(from, to);
      expect(view.points).toHaveLength(5);
      expect(view.points.every(({ distanceKm }) => Number.isFinite(distanceKm))).toBe(true);
    }
  });
});
