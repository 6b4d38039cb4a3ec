import TileState from 'ol/TileState';
import type ImageTile from 'ol/ImageTile';
import TileLayer from 'ol/layer/Tile';
import { transformExtent } from 'ol/proj';
import XYZ from 'ol/source/XYZ';
import type { Header, PMTiles } from 'pmtiles';

/**
 * The pictures of a raster archive, drawn on the canvas as everything else; the ready-made source for such archives draws by WebGL
 * (docs/decisions/chart-on-a-canvas.md).
 */
export function createPictureLayer(archive: Pick<PMTiles, 'getZxy'>, header: Header): TileLayer {
  const { minLon, minLat, maxLon, maxLat, minZoom, maxZoom } = header;
  return new TileLayer({
    extent: transformExtent([minLon, minLat, maxLon, maxLat], 'EPSG:4326', 'EPSG:3857'),
    source: new XYZ({
      minZoom,
      maxZoom,
      tileUrlFunction: (coordinate) => coordinate.join('/'),
      tileLoadFunction: (tile, name) => void loadPicture(archive, tile as ImageTile, name),
    }),
  });
}

/** Fills a tile named `z/x/y`; one that the archive does not hold stays empty. */
export async function loadPicture(
  archive: Pick<PMTiles, 'getZxy'>,
  tile: Pick<ImageTile, 'getImage' | 'setState'>,
  name: string,
): Promise<void> {
  const [z = 0, x = 0, y = 0] = name.split('/').map(Number);
  try {
    const found = await archive.getZxy(z, x, y);
    if (!found) return tile.setState(TileState.EMPTY);
    const image = tile.getImage() as HTMLImageElement;
    const url = URL.createObjectURL(new Blob([found.data]));
    const done = () => URL.revokeObjectURL(url);
    image.addEventListener('load', done, { once: true });
    image.addEventListener('error', done, { once: true });
    image.src = url;
  } catch {
    tile.setState(TileState.ERROR);
  }
}
