import type { GroundView, NetView } from '@tombolo/contract';
import { meanOf, NO_WAY, type Change, type Difference, type Position } from '@tombolo/core';
import { useMemo } from 'react';
import { View } from 'react-native';
import { Circle, G, Line, Path, Rect, Svg, Text as SvgText } from 'react-native-svg';
import { type, useLook } from '../../../ui/look';
import { gridOf, type Area } from '../reach/area';
import { heightOf } from '../reach/coverage-picture';
import { landOf } from '../reach/drawn-cells';
import { labelsOf, type Label } from './net-labels';

/** A hop that carries fewer is not drawn. */
const DRAWN_CHANCE = 0.3;

/** Of the font in which calls are written, at its size here, px. */
const LETTERS = { width: 8, height: 12 };

interface NetPictureProps {
  area: Area;
  ground: GroundView;
  net: NetView;
  changes: readonly Change[];
  rows: readonly Difference[];
  /** Places that were found. */
  found: readonly Position[];
  width: number;
  title: string;
}

/** The net over the land, north at the top: who repeats, who is reached, who is cut off, and where one more would stand. */
export function NetPicture({ area, ground, net, changes, rows, found, width, title }: NetPictureProps) {
  const look = useLook();
  const land = useMemo(() => landOf(gridOf(area, ground)), [area, ground]);
  const height = width * heightOf(area);
  const x = ({ longitude }: Position) => ((longitude - area.west) / (area.east - area.west)) * width;
  const y = ({ latitude }: Position) => ((area.north - latitude) / (area.north - area.south)) * height;
  const off = new Set(changes.flatMap((one) => (one.what === 'off' ? [one.call] : [])));
  const moved = new Map(
    changes.flatMap((one) => (one.what === 'changed' || one.what === 'added' ? [[one.call, one.place] as const] : [])),
  );
  const cut = new Set(
    changes.flatMap((one) => (one.what === 'cut' ? [`${one.from}>${one.to}`, `${one.to}>${one.from}`] : [])),
  );
  const stations = [
    ...net.stations.map((one) => ({ ...one, place: moved.get(one.call) ?? one.place })),
    ...changes.flatMap((one) =>
      one.what === 'added' ? [{ call: one.call, label: one.call, place: one.place, repeats: true }] : [],
    ),
  ]
    .flatMap((one) => (one.place ? [{ ...one, place: one.place }] : []))
    // We lie on top of whoever stands beside us.
    .sort((a, b) => Number(a.call === net.own) - Number(b.call === net.own));
  const placeOf = new Map(stations.map(({ call, place }) => [call, place]));
  const lost = new Set(rows.flatMap(({ call, after }) => (after < NO_WAY ? [call] : [])));
  const hops = net.hops.filter(
    ({ from, to, belief, seen }) =>
      seen &&
      meanOf(belief) >= DRAWN_CHANCE &&
      !off.has(from) &&
      !off.has(to) &&
      !cut.has(`${from}>${to}`) &&
      !moved.has(from) &&
      !moved.has(to) &&
      placeOf.has(from) &&
      placeOf.has(to),
  );
  // Named first: us, what is gone, and who repeats.
  const rank = ({ call, repeats }: (typeof stations)[number]) =>
    call === net.own ? 0 : off.has(call) || lost.has(call) ? 1 : repeats ? 2 : 3;
  const labels = labelsOf(
    [...stations]
      .sort((a, b) => rank(a) - rank(b))
      .map((one) => ({ key: one.call, x: x(one.place), y: y(one.place), text: one.label })),
    { width, height },
    LETTERS,
  );
  return (
    <View role="img" aria-label={title}>
      <Svg width={width} height={height} aria-hidden>
        <Rect width={width} height={height} fill={look.leaf} stroke={look.rule} strokeWidth={1} />
        <G scale={`${width / land.columns}, ${height / land.rows}`}>
          <Path d={land.paths[0] ?? ''} fill={look.rule} />
        </G>
        {hops.map(({ from, to, belief }) => (
          <Line
            key={`${from}>${to}`}
            x1={x(placeOf.get(from)!)}
            y1={y(placeOf.get(from)!)}
            x2={x(placeOf.get(to)!)}
            y2={y(placeOf.get(to)!)}
            stroke={look.tide}
            strokeWidth={0.6 + 1.4 * meanOf(belief)}
            opacity={0.6}
          />
        ))}
        {found.map((place, n) => (
          <Rect
            key={n}
            x={x(place) - 7}
            y={y(place) - 7}
            width={14}
            height={14}
            fill="none"
            stroke={look.tide}
            strokeWidth={3}
          />
        ))}
        {stations.map(({ call, label: called, place, repeats }) => {
          const gone = off.has(call) || lost.has(call);
          return (
            <G key={call}>
              {repeats && call !== net.own ? (
                <Rect
                  x={x(place) - 5}
                  y={y(place) - 5}
                  width={10}
                  height={10}
                  fill={gone ? look.leaf : look.ink}
                  stroke={gone ? look.alarm : look.ink}
                  strokeWidth={2}
                />
              ) : (
                <Circle
                  cx={x(place)}
                  cy={y(place)}
                  r={call === net.own ? 6 : 4}
                  fill={gone ? look.leaf : call === net.own ? look.sand : look.ink}
                  stroke={gone ? look.alarm : look.ink}
                  strokeWidth={2}
                />
              )}
              {gone ? (
                <Path
                  d={`M${x(place) - 7} ${y(place) - 7}l14 14m0-14l-14 14`}
                  stroke={look.alarm}
                  strokeWidth={2}
                  fill="none"
                />
              ) : null}
              <Named label={labels.get(call)}>{called}</Named>
            </G>
          );
        })}
      </Svg>
    </View>
  );
}

/** A name with the paper around it, where there is room for it. */
function Named({ label, children }: { label: Label | undefined; children: string }) {
  const look = useLook();
  if (!label) return null;
  return [3, 0].map((halo) => (
    <SvgText
      key={halo}
      fontFamily={type.mono}
      fontSize={LETTERS.height}
      fill={look.ink}
      stroke={look.paper}
      strokeWidth={halo}
      x={label.x}
      y={label.y}
      textAnchor={label.anchor}
    >
      {children}
    </SvgText>
  ));
}
