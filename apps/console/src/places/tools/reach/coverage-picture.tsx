import type { Position, Served } from '@tombolo/core';
import { View } from 'react-native';
import { Circle, Defs, G, Path, Pattern, Rect, Svg, Text as SvgText } from 'react-native-svg';
import { type, useLook } from '../../../ui/look';
import type { Area } from './area';
import type { DrawnCells } from './drawn-cells';

/** How each is drawn, in words: by hatching, so that it is told without colour. */
export const HATCHED_WORDS: Readonly<Record<Served, string>> = {
  well: 'filled',
  mostly: 'close lines',
  'now and then': 'wide lines',
  hardly: 'plain',
};
/** Distance of the lines on the screen, in px; 0 is filled. */
const HATCHES = [0, 5, 11] as const;

interface CoveragePictureProps {
  area: Area;
  land: DrawnCells;
  served: DrawnCells;
  station: Position & { readonly call: string };
  stations: readonly (Position & { readonly call: string })[];
  width: number;
  title: string;
}

/** The ground from above, north at the top, and over it how well each place is served. */
export function CoveragePicture({ area, land, served, station, stations, width, title }: CoveragePictureProps) {
  const look = useLook();
  const height = width * heightOf(area);
  const x = ({ longitude }: Position) => ((longitude - area.west) / (area.east - area.west)) * width;
  const y = ({ latitude }: Position) => ((area.north - latitude) / (area.north - area.south)) * height;
  const scale = [width / served.columns, height / served.rows] as const;
  const inside = stations.filter(
    (one) =>
      one.call !== station.call &&
      one.latitude > area.south &&
      one.latitude < area.north &&
      one.longitude > area.west &&
      one.longitude < area.east,
  );
  const label = { fontFamily: type.mono, fontSize: 12, fill: look.ink, stroke: look.paper, strokeWidth: 3 };
  return (
    <View role="img" aria-label={title}>
      <Svg width={width} height={height} aria-hidden>
        <Defs>
          {HATCHES.map((gap, n) => (
            <Pattern
              key={n}
              id={`served-${n}`}
              patternUnits="userSpaceOnUse"
              // A pattern is measured in the cells that it fills.
              width={gap === 0 ? 1 : gap / scale[0]}
              height={gap === 0 ? 1 : gap / scale[1]}
            >
              <Rect width={1000} height={gap === 0 ? 1 : 1.6 / scale[1]} fill={look.tide} />
            </Pattern>
          ))}
        </Defs>
        <Rect width={width} height={height} fill={look.leaf} stroke={look.rule} strokeWidth={1} />
        <G scale={`${width / land.columns}, ${height / land.rows}`}>
          <Path d={land.paths[0] ?? ''} fill={look.rule} />
        </G>
        <G scale={`${scale[0]}, ${scale[1]}`} opacity={0.55}>
          {served.paths.map((path, n) => (
            <Path key={n} d={path} fill={n === 0 ? look.tide : `url(#served-${n})`} />
          ))}
        </G>
        {inside.map((one) => (
          <G key={one.call}>
            <Circle cx={x(one)} cy={y(one)} r={3} fill={look.ink} />
          </G>
        ))}
        {inside.map((one) => (
          <G key={one.call}>
            <SvgText {...label} x={x(one) + 5} y={y(one) + 4}>
              {one.call}
            </SvgText>
            <SvgText {...label} strokeWidth={0} x={x(one) + 5} y={y(one) + 4}>
              {one.call}
            </SvgText>
          </G>
        ))}
        <Circle cx={x(station)} cy={y(station)} r={6} fill={look.sand} stroke={look.ink} strokeWidth={2} />
      </Svg>
    </View>
  );
}

/** Height of an area for its width, as it is on the ground. */
export function heightOf({ south, north, west, east }: Area): number {
  const wide = (east - west) * Math.cos((((south + north) / 2) * Math.PI) / 180);
  return Math.min(2, (north - south) / Math.max(1e-6, wide));
}
