import Feature from 'ol/Feature';
import GeoJSON from 'ol/format/GeoJSON';
import { MultiLineString } from 'ol/geom';
import VectorImageLayer from 'ol/layer/VectorImage';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, Stroke, Style } from 'ol/style';
import type { Look } from '../../../ui/lights';
import { loadWorld } from './world';

/** The built-in outlines: land and borders, loaded when it is asked for. */
export function createWorldLayer() {
  const source = new VectorSource();
  const layer = new VectorImageLayer({ source, imageRatio: 1.5 });
  let loading = false;
  const read = ({ land, borders }: Awaited<ReturnType<typeof loadWorld>>) => {
    const format = new GeoJSON({ dataProjection: 'EPSG:4326', featureProjection: 'EPSG:3857' });
    const lines = borders.coordinates.map((line) => line.map((point) => fromLonLat(point)));
    const border = new Feature(new MultiLineString(lines));
    border.set('border', true);
    source.addFeatures([...format.readFeatures(land), border]);
  };
  return {
    layer,
    load() {
      if (loading) return;
      loading = true;
      void loadWorld().then(read);
    },
    setLook(look: Look) {
      const land = new Style({
        fill: new Fill({ color: look.leaf }),
        stroke: new Stroke({ color: look.inkSoft, width: 1 }),
      });
      const border = new Style({ stroke: new Stroke({ color: look.rule, width: 1 }) });
      layer.setStyle((feature) => (feature.get('border') ? border : land));
    },
  };
}
