import type { StationView } from '@tombolo/contract';
import { shown } from '@tombolo/core';
import type { FeatureLike } from 'ol/Feature';
import { Circle, Fill, Icon, RegularShape, Stroke, Style, Text } from 'ol/style';
import { ICON_PATHS } from '../../../ui/icon-paths';
import type { Look } from '../../../ui/lights';
import { type as faces } from '../../../ui/look';
import { isReported, meaningOf, SYMBOL_ICONS } from '../symbols';

const pictureOf = (name: keyof typeof ICON_PATHS, colour: string): string =>
  `data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg" width="16" height="16" viewBox="0 0 24 24"><path fill="${colour}" d="${ICON_PATHS[name]}"/></svg>`)}`;

/** Older than this a station is drawn faint: it may be gone. */
const FAINT_AFTER_MS = 2 * 3_600_000;
/** Labels would cover each other when further out than this, metres a pixel. */
const LABELS_BELOW = 60;

/** The outline tells how it was heard, so that it reads without colour: solid direct, dashed relayed, dotted by internet. */
const DASHES: Readonly<Record<StationView['how'], number[] | undefined>> = {
  direct: undefined,
  relayed: [5, 3],
  internet: [1.5, 3],
};

/** Makes the styles of stations and clusters for one light; equal looks share one style. */
export function createStationStyles(look: Look, now: () => number) {
  const bodies = new Map<string, Style[]>();
  const clusters = new Map<number, Style>();

  const bodyOf = (station: StationView, selected: boolean): Style[] => {
    const meaning = meaningOf(station);
    const faint = now() - Date.parse(station.lastAt) > FAINT_AFTER_MS;
    const { kind } = station;
    const key = `${meaning}/${station.how}/${faint}/${kind}/${selected}`;
    const known = bodies.get(key);
    if (known) return known;
    const stroke = new Stroke({
      color: selected ? look.tide : faint ? look.inkSoft : look.ink,
      width: selected ? 3 : 1.8,
      lineDash: DASHES[station.how],
    });
    const fill = new Fill({ color: look.leaf });
    // Stations are round, objects square, nodes of a mesh six-cornered.
    const shape = isReported(station)
      ? new RegularShape({ points: 4, radius: 17, angle: Math.PI / 4, fill, stroke })
      : kind === 'node'
        ? new RegularShape({ points: 6, radius: 15, fill, stroke })
        : new Circle({ radius: 13, fill, stroke });
    const picture = new Icon({ src: pictureOf(SYMBOL_ICONS[meaning], faint ? look.inkSoft : look.ink) });
    const zIndex = selected ? 3 : 1;
    const styles = [new Style({ image: shape, zIndex }), new Style({ image: picture, zIndex })];
    bodies.set(key, styles);
    return styles;
  };

  const labelOf = (station: StationView, selected: boolean): Style =>
    new Style({
      text: new Text({
        text: shown(station.name),
        font: `13px "${selected ? faces.monoBold : faces.mono}"`,
        fill: new Fill({ color: look.ink }),
        stroke: new Stroke({ color: look.paper, width: 3 }),
        offsetY: 24,
      }),
      zIndex: selected ? 3 : 1,
    });
  const labels = new Map<string, Style>();

  const clusterOf = (count: number): Style => {
    const known = clusters.get(count);
    if (known) return known;
    const style = new Style({
      image: new Circle({
        radius: 13 + Math.min(10, Math.log2(count) * 1.6),
        fill: new Fill({ color: look.tide }),
        stroke: new Stroke({ color: look.paper, width: 2 }),
      }),
      text: new Text({
        text: String(count),
        font: `13px "${faces.monoBold}"`,
        fill: new Fill({ color: look.onTide }),
        offsetY: 1,
      }),
      zIndex: 2,
    });
    clusters.set(count, style);
    return style;
  };

  return (feature: FeatureLike, resolution: number, selected: string | null): Style | Style[] => {
    const members = feature.get('features') as FeatureLike[];
    const chosen = members.find((member) => (member.get('station') as StationView).call === selected);
    if (members.length > 1 && !chosen) return clusterOf(members.length);
    const station = (chosen ?? members[0]!).get('station') as StationView;
    const isSelected = chosen !== undefined;
    const body = bodyOf(station, isSelected);
    if (resolution > LABELS_BELOW && !isSelected) return body;
    const key = `${station.name}/${isSelected}`;
    let label = labels.get(key);
    if (!label) labels.set(key, (label = labelOf(station, isSelected)));
    return [...body, label];
  };
}
