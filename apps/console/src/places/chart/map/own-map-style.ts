import { shown } from '@tombolo/core';
import type { Extent } from 'ol/extent';
import type { FeatureLike } from 'ol/Feature';
import { Point } from 'ol/geom';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import type { Look } from '../../../ui/lights';
import { type as faces } from '../../../ui/look';
import { roomFor, type NamePlace } from './name-room';

/** Tints of ground by height, mixed of paper and sand. */
function tint(look: Look, share: number): string {
  const parse = (hex: string) => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));
  const [a, b] = [parse(look.leaf), parse(look.sand)];
  return `rgb(${a.map((value, i) => Math.round(value + (b[i]! - value) * share)).join(',')})`;
}

const HIGHEST_M = 500;

/** A mark of a station reaches about so far from its place, and with its name so far down. */
const MARK_PX = 20;
const NAMED_PX = 32;

/**
 * How a feature of an own map is drawn: by its `kind` where it has one that we know (docs/formats.md), else by its geometry. Names stand where
 * no station is, as far as there is room.
 * @param isFree whether no station is within an extent of the map
 */
export function createOwnMapStyle(
  look: Look,
  isFree: (extent: Extent) => boolean,
): (feature: FeatureLike, resolution: number) => Style | undefined {
  const land = new Style({
    fill: new Fill({ color: look.leaf }),
    stroke: new Stroke({ color: look.inkSoft, width: 1.2 }),
  });
  const road = new Style({ stroke: new Stroke({ color: look.sandText, width: 2 }) });
  const closed = new Style({ stroke: new Stroke({ color: look.alarm, width: 2, lineDash: [7, 6] }) });
  const line = new Style({ stroke: new Stroke({ color: look.inkSoft, width: 1.2 }) });
  const area = new Style({
    fill: new Fill({ color: tint(look, 0.08) }),
    stroke: new Stroke({ color: look.inkSoft, width: 1 }),
  });
  const water = new Style({ fill: new Fill({ color: look.paper }) });
  const heights = new Map<number, Style>();
  const heightStyle = (heightM: number): Style => {
    let style = heights.get(heightM);
    if (!style) {
      style = new Style({
        fill: new Fill({ color: tint(look, Math.min(1, heightM / HIGHEST_M) * 0.45) }),
        stroke: new Stroke({ color: look.rule, width: 0.8 }),
      });
      heights.set(heightM, style);
    }
    return style;
  };
  const names = new Map<string, Style>();
  const nameStyle = (feature: FeatureLike, resolution: number, rank: unknown): Style => {
    const name = feature.get('name') as unknown;
    const text = typeof name === 'string' ? shown(name) : '';
    const isArea = rank === 'island';
    const sizePx = isArea ? 15 : 13;
    const place = roomOf(feature, resolution, text, { sizePx, isArea });
    const key = `${String(rank)}/${place.x}/${place.y}/${text}`;
    let style = names.get(key);
    if (!style) {
      style = new Style({
        ...(!isArea && { image: new Circle({ radius: 2.5, fill: new Fill({ color: look.inkSoft }) }) }),
        text: new Text({
          text,
          font: `${sizePx}px "${isArea ? faces.bold : faces.body}"`,
          fill: new Fill({ color: look.inkSoft }),
          stroke: new Stroke({ color: look.paper, width: 3 }),
          textAlign: place.align,
          offsetX: place.x,
          offsetY: place.y,
        }),
      });
      names.set(key, style);
    }
    return style;
  };
  const roomOf = (
    feature: FeatureLike,
    resolution: number,
    text: string,
    how: Parameters<typeof roomFor>[1],
  ): NamePlace => {
    const geometry = feature.getGeometry();
    const [x, y] = geometry instanceof Point ? geometry.getCoordinates() : [];
    return roomFor(text, how, ({ left, top, right, bottom }) =>
      x === undefined || y === undefined
        ? true
        : isFree([
            x + resolution * (left - MARK_PX),
            y - resolution * (bottom + MARK_PX),
            x + resolution * (right + MARK_PX),
            y - resolution * (top - NAMED_PX),
          ]),
    );
  };
  return (feature, resolution) => {
    switch (feature.get('kind')) {
      case 'land':
        return land;
      case 'water':
        return water;
      case 'height':
        return heightStyle(Number(feature.get('heightM')) || 0);
      case 'road':
        return road;
      case 'road closed':
        return closed;
      case 'place': {
        const rank: unknown = feature.get('rank');
        if (resolution > (rank === 'island' ? 300 : rank === 'town' ? 90 : 40)) return undefined;
        return nameStyle(feature, resolution, rank);
      }
      default:
        break;
    }
    switch (feature.getGeometry()?.getType()) {
      case 'Point':
      case 'MultiPoint':
        return nameStyle(feature, resolution, 'spot');
      case 'LineString':
      case 'MultiLineString':
        return line;
      default:
        return area;
    }
  };
}
