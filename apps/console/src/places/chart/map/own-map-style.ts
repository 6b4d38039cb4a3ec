import { shown } from '@tombolo/core';
import type { FeatureLike } from 'ol/Feature';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import type { Look } from '../../../ui/lights';
import { type as faces } from '../../../ui/look';

/** Tints of ground by height, mixed of paper and sand. */
function tint(look: Look, share: number): string {
  const parse = (hex: string) => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16));
  const [a, b] = [parse(look.leaf), parse(look.sand)];
  return `rgb(${a.map((value, i) => Math.round(value + (b[i]! - value) * share)).join(',')})`;
}

const HIGHEST_M = 500;

/**
 * How a feature of an own map is drawn: by its `kind` where it has one that we know (docs/formats.md), else by its geometry.
 */
export function createOwnMapStyle(look: Look): (feature: FeatureLike, resolution: number) => Style | undefined {
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
  const nameStyle = (name: string, rank: unknown): Style => {
    const key = `${String(rank)}/${name}`;
    let style = names.get(key);
    if (!style) {
      const big = rank === 'island';
      style = new Style({
        ...(!big && { image: new Circle({ radius: 2.5, fill: new Fill({ color: look.inkSoft }) }) }),
        text: new Text({
          text: shown(name),
          font: `${big ? 15 : 13}px "${big ? faces.bold : faces.body}"`,
          fill: new Fill({ color: look.inkSoft }),
          stroke: new Stroke({ color: look.paper, width: 3 }),
          ...(big ? {} : { textAlign: 'left' as const, offsetX: 16, offsetY: -8 }),
        }),
      });
      names.set(key, style);
    }
    return style;
  };
  return (feature, resolution) => {
    const name = feature.get('name') as unknown;
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
        return nameStyle(typeof name === 'string' ? name : '', rank);
      }
      default:
        break;
    }
    switch (feature.getGeometry()?.getType()) {
      case 'Point':
      case 'MultiPoint':
        return nameStyle(typeof name === 'string' ? name : '', 'spot');
      case 'LineString':
      case 'MultiLineString':
        return line;
      default:
        return area;
    }
  };
}
