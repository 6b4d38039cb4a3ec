import Feature from 'ol/Feature';
import { LineString, Point, Polygon } from 'ol/geom';
import VectorLayer from 'ol/layer/Vector';
import { fromLonLat } from 'ol/proj';
import VectorSource from 'ol/source/Vector';
import { Fill, Stroke, Style, Text } from 'ol/style';
import {
  bearingBetween,
  graticule as graticuleOf,
  inUnit,
  locatorSquares,
  ring,
  ringRadiiKm,
  type Bounds,
  type DistanceUnit,
  type GridRoom,
} from '@tombolo/core';
import type { Look } from '../../../ui/lights';
import { type as faces } from '../../../ui/look';
import type { MapPoint } from '../chart-store';

const UNITS: readonly DistanceUnit[] = ['km', 'mi', 'nmi'];

/** Graticule, locator squares and range rings: computed for what is in sight, each time the chart comes to rest. */
export function createGridLayers() {
  const lines = new VectorSource();
  const squares = new VectorSource();
  const circles = new VectorSource();
  const graticule = new VectorLayer({ source: lines });
  const locators = new VectorLayer({ source: squares });
  const rings = new VectorLayer({ source: circles });
  let own: MapPoint | null = null;
  let kmPerUnit = 1;

  const label = (text: string, look: Look, more: Partial<ConstructorParameters<typeof Text>[0]> = {}) =>
    new Text({
      text,
      font: `12px "${faces.mono}"`,
      fill: new Fill({ color: look.inkSoft }),
      stroke: new Stroke({ color: look.paper, width: 3 }),
      ...more,
    });

  function drawGraticule(bounds: Bounds, look: Look, room: GridRoom): void {
    const stroke = new Stroke({ color: look.rule, width: 1 });
    for (const { points, label: text } of graticuleOf(bounds, room)) {
      const feature = new Feature(new LineString(points.map(([x, y]) => fromLonLat([x, y]))));
      feature.setStyle(new Style({ stroke }));
      const meridian = points[0]![0] === points[1]![0];
      // Labels stand at the left and lower edge, inside.
      const tag = new Feature(new Point(fromLonLat([...points[0]!])));
      tag.setStyle(
        new Style({
          text: label(
            text,
            look,
            meridian ? { offsetY: -10, textAlign: 'left', offsetX: 4 } : { textAlign: 'left', offsetX: 4, offsetY: -8 },
          ),
        }),
      );
      lines.addFeatures([feature, tag]);
    }
  }

  function drawLocators(bounds: Bounds, look: Look): void {
    const stroke = new Stroke({ color: look.sand, width: 1, lineDash: [2, 4] });
    for (const { locator, west, south, width, height } of locatorSquares(bounds)) {
      const corners = [
        [west, south],
        [west + width, south],
        [west + width, Math.min(85, south + height)],
        [west, Math.min(85, south + height)],
        [west, south],
      ].map(([x = 0, y = 0]) => fromLonLat([x, Math.max(-85, y)]));
      const feature = new Feature(new Polygon([corners]));
      feature.setStyle(new Style({ stroke, text: label(locator, look, { fill: new Fill({ color: look.sandText }) }) }));
      squares.addFeature(feature);
    }
  }

  function drawRings(bounds: Bounds, look: Look): void {
    if (!own) return;
    const { distanceKm } = bearingBetween(
      { latitude: (bounds.north + bounds.south) / 2, longitude: bounds.west },
      { latitude: (bounds.north + bounds.south) / 2, longitude: bounds.east },
    );
    const unit = UNITS.find((candidate) => Math.abs(inUnit(1, candidate) * kmPerUnit - 1) < 1e-9) ?? 'km';
    const stroke = new Stroke({ color: look.tide, width: 1, lineDash: [8, 6] });
    for (const radiusKm of ringRadiiKm(distanceKm / 2, kmPerUnit)) {
      const points = ring(own, radiusKm).map(([x, y]) => fromLonLat([x, y]));
      const line = new Feature(new LineString(points));
      line.setStyle(new Style({ stroke }));
      const tag = new Feature(new Point(points[0]!));
      tag.setStyle(new Style({ text: label(`${Math.round(inUnit(radiusKm, unit))} ${unit}`, look, { offsetY: -9 }) }));
      circles.addFeatures([line, tag]);
    }
    const here = new Feature(new Point(fromLonLat([own.longitude, own.latitude])));
    here.setStyle(
      new Style({ text: label('✛', look, { font: `20px "${faces.bold}"`, fill: new Fill({ color: look.tide }) }) }),
    );
    circles.addFeature(here);
  }

  return {
    graticule,
    locators,
    rings,
    setOwn(point: MapPoint | null, unit: number) {
      own = point;
      kmPerUnit = unit;
    },
    update(bounds: Bounds, look: Look, room: GridRoom) {
      for (const source of [lines, squares, circles]) source.clear(true);
      if (graticule.getVisible()) drawGraticule(bounds, look, room);
      if (locators.getVisible()) drawLocators(bounds, look);
      if (rings.getVisible()) drawRings(bounds, look);
      for (const source of [lines, squares, circles]) source.changed();
    },
  };
}
