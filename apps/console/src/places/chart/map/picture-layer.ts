import TileState from 'ol/TileState';
import type ImageTile from 'ol/ImageTile';
import TileLayer from 'ol/layer/Tile';
import { transformExtent } from 'ol/proj';
import XYZ from 'ol/source/XYZ';
import type { Header, PMTiles } from 'pmtiles';
import { luminance } from '../../../ui/contrast';
import type { Look } from '../../../ui/lights';

/**
 * The pictures of a raster archive, drawn on the canvas as everything else; the ready-made source for such archives draws by WebGL
 * (docs/decisions/chart-on-a-canvas.md).
 */
export function createPictureLayer(archive: Pick<PMTiles, 'getZxy'>, header: Header, look: Look): TileLayer {
  const glass = glassOf(look);
  const { minLon, minLat, maxLon, maxLat, minZoom, maxZoom } = header;
  return new TileLayer({
    extent: transformExtent([minLon, minLat, maxLon, maxLat], 'EPSG:4326', 'EPSG:3857'),
    source: new XYZ({
      minZoom,
      maxZoom,
      tileUrlFunction: (coordinate) => coordinate.join('/'),
      tileLoadFunction: (tile, name) => void loadPicture(archive, tile as ImageTile, name, glass),
    }),
  });
}

/** By the dark lights pictures are seen as through a glass of this colour, so that no white paper dazzles; null by day. */
export const glassOf = (look: Look): string | null => (luminance(look.paper) < luminance(look.ink) ? look.rule : null);

/** Fills a tile named `z/x/y`; one that the archive does not hold stays empty. */
export async function loadPicture(
  archive: Pick<PMTiles, 'getZxy'>,
  tile: Pick<ImageTile, 'getImage' | 'setImage' | 'setState'>,
  name: string,
  glass: string | null,
): Promise<void> {
  const [z = 0, x = 0, y = 0] = name.split('/').map(Number);
  try {
    const found = await archive.getZxy(z, x, y);
    if (!found) return tile.setState(TileState.EMPTY);
    const picture = new Blob([found.data]);
    if (glass !== null) return tile.setImage(await throughGlass(picture, glass));
    const image = tile.getImage() as HTMLImageElement;
    const url = URL.createObjectURL(picture);
    const done = () => URL.revokeObjectURL(url);
    image.addEventListener('load', done, { once: true });
    image.addEventListener('error', done, { once: true });
    image.src = url;
  } catch {
    tile.setState(TileState.ERROR);
  }
}

/** Each pixel times the colour of the glass; what is clear stays clear. */
async function throughGlass(picture: Blob, glass: string): Promise<HTMLCanvasElement> {
  const bitmap = await createImageBitmap(picture);
  const canvas = document.createElement('canvas');
  canvas.width = bitmap.width;
  canvas.height = bitmap.height;
  const context = canvas.getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  context.globalCompositeOperation = 'multiply';
  context.fillStyle = glass;
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.globalCompositeOperation = 'destination-in';
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return canvas;
}
