import TileState from 'ol/TileState';
import type { Header, PMTiles } from 'pmtiles';
import { looks } from '../../../ui/lights';
import { createPictureLayer, glassOf, loadPicture } from './picture-layer';

type Archive = Pick<PMTiles, 'getZxy'>;
const archiveOf = (tiles: Record<string, Uint8Array>): Archive => ({
  getZxy: async (z, x, y) => {
    const data = tiles[`${z}/${x}/${y}`];
    return data && { data: data.buffer as ArrayBuffer };
  },
});
const tileOf = () => {
  const states: number[] = [];
  const image = document.createElement('img');
  return {
    states,
    image,
    tile: { getImage: () => image, setImage: () => undefined, setState: (state: number) => void states.push(state) },
  };
};

describe('a picture of a raster archive', () => {
  const made: Blob[] = [];
  const freed: string[] = [];
  beforeEach(() => {
    made.length = 0;
    freed.length = 0;
    URL.createObjectURL = (blob) => `blob:${made.push(blob as Blob)}`;
    URL.revokeObjectURL = (url) => void freed.push(url);
  });

  it('is taken by its place in the pyramid, and its memory is given back when it is drawn', async () => {
    const { tile, image, states } = tileOf();
    await loadPicture(archiveOf({ '3/5/2': Uint8Array.of(1, 2, 3) }), tile, '3/5/2', null);
    expect(image.src).toBe('blob:1');
    expect(made[0]!.size).toBe(3);
    expect(freed).toEqual([]);
    image.dispatchEvent(new Event('load'));
    image.dispatchEvent(new Event('load'));
    expect(freed).toEqual(['blob:1']);
    expect(states).toEqual([]);
  });
  it('that cannot be shown gives its memory back as well', async () => {
    const { tile, image } = tileOf();
    await loadPicture(archiveOf({ '0/0/0': Uint8Array.of(9) }), tile, '0/0/0', null);
    image.dispatchEvent(new Event('error'));
    expect(freed).toEqual(['blob:1']);
  });
  it('that is not there leaves a gap, and one that cannot be read is an error', async () => {
    const gap = tileOf();
    await loadPicture(archiveOf({}), gap.tile, '4/1/1', null);
    expect(gap.states).toEqual([TileState.EMPTY]);
    const broken = tileOf();
    await loadPicture({ getZxy: () => Promise.reject(new Error('short')) }, broken.tile, '4/1/1', null);
    expect(broken.states).toEqual([TileState.ERROR]);
  });
  it('is asked for inside the bounds of the archive alone, named by zoom, column and row', () => {
    const header = { minLon: -44, minLat: 41, maxLon: -43, maxLat: 42, minZoom: 4, maxZoom: 11 } as Header;
    const layer = createPictureLayer(archiveOf({}), header, looks.day);
    // EPSG:3857 of the corner, by its definition: 6378137 m times the longitude in radians.
    expect(layer.getExtent()![0]).toBeCloseTo((-44 * Math.PI * 6_378_137) / 180, 3);
    const source = layer.getSource()!;
    expect(source.getTileGrid()!.getMinZoom()).toBe(4);
    expect(source.getTileGrid()!.getMaxZoom()).toBe(11);
  });
  it('is seen through dark glass by the dark lights, and as it is by day', async () => {
    expect(glassOf(looks.day)).toBeNull();
    expect(glassOf(looks.dusk)).toBe(looks.dusk.rule);
    expect(glassOf(looks.watch)).toBe(looks.watch.rule);
    // A picture that the browser cannot read is an error, not a white tile.
    globalThis.createImageBitmap = () => Promise.reject(new Error('no picture'));
    const { tile, states } = tileOf();
    await loadPicture(archiveOf({ '0/0/0': Uint8Array.of(9) }), tile, '0/0/0', looks.watch.rule);
    expect(states).toEqual([TileState.ERROR]);
    expect(made).toEqual([]);
  });
});
