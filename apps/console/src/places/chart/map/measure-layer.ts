import { geodesicLine } from '@tombolo/core';
import Feature from 'ol/Feature';
import { LineString, Point } from 'ol/geom';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style } from 'ol/style';
import type { Look } from '../../../ui/lights';
import type { MapPoint } from '../chart-store';

/** The shortest line between two taps, and the taps themselves. */
export function createMeasureLayer() {
  const source = new VectorSource();
  const layer = new VectorLayer({ source, zIndex: 5 });
  return {
    layer,
    update(points: readonly MapPoint[], look: Look) {
      source.clear();
      const dot = new Style({
        image: new Circle({
          radius: 6,
          fill: new Fill({ color: look.tide }),
          stroke: new Stroke({ color: look.paper, width: 2 }),
        }),
      });
      for (const { latitude, longitude } of points) {
        const feature = new Feature(new Point(fromLonLat([longitude, latitude])));
        feature.setStyle(dot);
        source.addFeature(feature);
      }
      const [from, to] = points;
      if (!from || !to) return;
      const line = new Feature(new LineString(geodesicLine(from, to, 48).map(([x, y]) => fromLonLat([x, y]))));
      line.setStyle(new Style({ stroke: new Stroke({ color: look.tide, width: 3 }) }));
      source.addFeature(line);
    },
  };
}
