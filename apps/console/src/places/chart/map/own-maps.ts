import type { MapView as OwnMap } from '@tombolo/contract';
import GeoJSON from 'ol/format/GeoJSON';
import LayerGroup from 'ol/layer/Group';
import type BaseLayer from 'ol/layer/Base';
import VectorImageLayer from 'ol/layer/VectorImage';
import VectorTileLayer from 'ol/layer/VectorTile';
import VectorSource from 'ol/source/Vector';
import { PMTilesVectorSource } from 'ol-pmtiles';
import { PMTiles, TileType } from 'pmtiles';
import type { Look } from '../../../ui/lights';
import { createOwnMapStyle } from './own-map-style';
import { createPictureLayer } from './picture-layer';

type IsFree = Parameters<typeof createOwnMapStyle>[1];

/** Draws a map of the operator's own; what cannot be drawn is said, and the rest of the chart stands. */
export function openOwnMap(
  map: OwnMap,
  url: string,
  look: Look,
  isFree: IsFree,
  trouble: (reason: string) => void,
): BaseLayer {
  return map.kind === 'geojson' ? openGeoJson(url, look, isFree, trouble) : openArchive(url, look, isFree, trouble);
}

/** Draws an own map anew, as when names are to stand elsewhere. */
export function drawAnew(layer: BaseLayer): void {
  if (layer instanceof LayerGroup) layer.getLayers().forEach(drawAnew);
  else layer.changed();
}

function openGeoJson(url: string, look: Look, isFree: IsFree, trouble: (reason: string) => void): BaseLayer {
  const source = new VectorSource();
  void fetch(url)
    .then((answer) => {
      if (!answer.ok) throw new Error(`the station answered ${answer.status}`);
      return answer.json();
    })
    .then((collection: unknown) =>
      source.addFeatures(
        new GeoJSON({ dataProjection: 'EPSG:4326', featureProjection: 'EPSG:3857' }).readFeatures(collection),
      ),
    )
    .catch((error: Error) => trouble(error.message));
  return new VectorImageLayer({ source, style: createOwnMapStyle(look, isFree), imageRatio: 1.5 });
}

/** The archive itself says whether it holds pictures or shapes. */
function openArchive(url: string, look: Look, isFree: IsFree, trouble: (reason: string) => void): BaseLayer {
  const group = new LayerGroup();
  const absolute = new URL(url, location.href).href;
  const archive = new PMTiles(absolute);
  void archive
    .getHeader()
    .then((header) => {
      if (header.tileType !== TileType.Mvt)
        return void group.getLayers().push(createPictureLayer(archive, header, look));
      const source = new PMTilesVectorSource({ url: absolute });
      group
        .getLayers()
        .push(new VectorTileLayer({ source, style: createOwnMapStyle(look, isFree), renderMode: 'hybrid' }));
    })
    .catch((error: Error) => trouble(error.message));
  return group;
}
