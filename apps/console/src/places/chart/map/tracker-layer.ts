import type { Tracker } from '@tombolo/contract';
import { shown } from '@tombolo/core';
import Feature from 'ol/Feature';
import { Point } from 'ol/geom';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, RegularShape, Stroke, Style, Text } from 'ol/style';
import type { Look } from '../../../ui/lights';
import { type as faces } from '../../../ui/look';

/** What the chart shows of a tracker that is not on the air as an object. */
export type ChartTracker = Pick<Tracker, 'unit' | 'name' | 'latitude' | 'longitude' | 'stale' | 'emergency'>;

/** Trackers from elsewhere: three-cornered, since nobody heard them; faint where they are old. */
export function createTrackerLayer() {
  const source = new VectorSource();
  const layer = new VectorLayer({ source, zIndex: 1 });
  return {
    layer,
    update(trackers: readonly ChartTracker[], look: Look) {
      source.clear(true);
      source.addFeatures(
        trackers.map(({ name, latitude, longitude, stale, emergency }) => {
          const colour = emergency ? look.alarm : stale ? look.inkSoft : look.ink;
          const feature = new Feature(new Point(fromLonLat([longitude, latitude])));
          feature.setStyle(
            new Style({
              image: new RegularShape({
                points: 3,
                radius: 11,
                fill: new Fill({ color: look.leaf }),
                stroke: new Stroke({ color: colour, width: 2 }),
              }),
              text: new Text({
                text: shown(name),
                font: `13px "${faces.mono}"`,
                offsetY: 20,
                fill: new Fill({ color: colour }),
                stroke: new Stroke({ color: look.paper, width: 3 }),
              }),
            }),
          );
          return feature;
        }),
      );
    },
  };
}
