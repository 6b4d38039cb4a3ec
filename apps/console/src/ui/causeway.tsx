import Svg, { Circle, Ellipse, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg';
import { View } from 'react-native';
import { causewayInWords, type Causeway as Road, type Strip } from '@tombolo/core';
import { type, useLook } from './look';
import type { Look } from './lights';

/** Heights in px of the band of sand. */
const SMALL = { height: 18, band: 7, stone: 5 };
const LARGE = { height: 76, band: 16, stone: 12 };

/** Width of a letter of the labels, and the gap between two labels, px. */
const LETTER = 7.9;
const LABEL_GAP = 6;
const LABEL_ROW = 14;
/** Where notes stand, above the sand. */
const NOTE_Y = 12;

interface Label {
  readonly x: number;
  readonly anchor: 'start' | 'middle' | 'end';
  /** 0 is next to the stones. */
  readonly row: number;
}

/** Places labels under their stones in as few rows as keep them apart; the first and the last stay inside the picture. */
export function placeLabels(labels: readonly string[], xOf: (i: number) => number, width: number): Label[] {
  const ends: number[] = [];
  return labels.map((label, i) => {
    const length = label.length * LETTER;
    const middle = xOf(i);
    const anchor = middle - length / 2 < 0 ? 'start' : middle + length / 2 > width ? 'end' : 'middle';
    const from = anchor === 'start' ? 0 : anchor === 'end' ? width - length : middle - length / 2;
    let row = 0;
    while ((ends[row] ?? -Infinity) + LABEL_GAP > from) row++;
    ends[row] = from + length;
    return { x: anchor === 'start' ? 0 : anchor === 'end' ? width : middle, anchor, row };
  });
}

interface CausewayProps {
  road: Road;
  width: number;
  large?: boolean;
  /** Above each strip of a large one, such as a chance. */
  notes?: readonly string[];
}

/**
 * The road of an item: stones are stations, strips of sand are hops. Shape carries the meaning, so that it reads in print and
 * without colour: dotted planned or nothing heard, thin line sent, half filled heard repeated, filled accepted, rimmed acknowledged, gap broken.
 */
export function Causeway({ road, width, large = false, notes = [] }: CausewayProps) {
  const look = useLook();
  const size = large ? LARGE : SMALL;
  const margin = large ? 34 : size.stone + 1;
  const step = (width - 2 * margin) / Math.max(1, road.strips.length);
  const y = large ? 26 : size.height / 2;
  const xOf = (i: number) => margin + i * step;
  const labels = large
    ? placeLabels(
        road.stones.map(({ label }) => label),
        xOf,
        width,
      )
    : [];
  const rows = Math.max(1, ...labels.map(({ row }) => row + 1));
  const height = large ? size.height + (rows - 1) * LABEL_ROW - LABEL_ROW : size.height;
  return (
    <View role="img" aria-label={[causewayInWords(road), ...notes].join('; ')}>
      <Svg width={width} height={height} aria-hidden>
        {notes.map((note, i) => (
          <SvgText
            key={i}
            x={(xOf(i) + xOf(i + 1)) / 2}
            y={NOTE_Y}
            textAnchor="middle"
            fontFamily={type.mono}
            fontSize={13}
            fill={look.ink}
          >
            {note}
          </SvgText>
        ))}
        {road.strips.map((strip, i) => (
          <StripShape
            key={i}
            strip={strip}
            from={xOf(i) + size.stone + 1}
            to={xOf(i + 1) - size.stone - 1}
            y={y}
            band={size.band}
            look={look}
          />
        ))}
        {road.stones.map((stone, i) => (
          <G key={i}>
            <Ellipse
              cx={xOf(i)}
              cy={y}
              rx={size.stone}
              ry={size.stone * 0.82}
              fill={stone.known ? look.ink : look.paper}
              stroke={stone.known ? look.ink : look.inkSoft}
              strokeWidth={large ? 2 : 1.2}
              strokeDasharray={stone.known ? undefined : large ? '3 3' : '2 2'}
            />
            {large ? (
              <SvgText
                x={labels[i]!.x}
                y={y + 34 + labels[i]!.row * LABEL_ROW}
                textAnchor={labels[i]!.anchor}
                fontFamily={type.mono}
                fontSize={13}
                fill={stone.known ? look.ink : look.inkSoft}
              >
                {stone.label}
              </SvgText>
            ) : null}
          </G>
        ))}
      </Svg>
    </View>
  );
}

/** One hop by itself, as the mark of what proves it. */
export function StripMark({ state }: { state: Strip['state'] }) {
  const look = useLook();
  return (
    <View aria-hidden style={{ width: 28, height: 24 }}>
      <Svg width={28} height={24}>
        <StripShape strip={{ state, inferred: false }} from={2} to={26} y={12} band={9} look={look} />
      </Svg>
    </View>
  );
}

interface StripProps {
  strip: Pick<Strip, 'state' | 'inferred'>;
  from: number;
  to: number;
  y: number;
  band: number;
  look: Look;
}

function StripShape({ strip, from, to, y, band, look }: StripProps) {
  const width = Math.max(0, to - from);
  const top = y - band / 2;
  switch (strip.state) {
    case 'planned':
    case 'left': {
      const gap = band > 10 ? 9 : 5;
      const count = Math.max(1, Math.floor(width / gap));
      return (
        <G>
          {Array.from({ length: count }, (_, i) => (
            <Circle
              key={i}
              cx={from + ((i + 0.5) * width) / count}
              cy={y}
              r={band > 10 ? 1.8 : 1.1}
              fill={look.inkSoft}
            />
          ))}
        </G>
      );
    }
    case 'sent':
      return <Line x1={from} x2={to} y1={y} y2={y} stroke={look.sand} strokeWidth={band > 10 ? 3 : 1.8} />;
    case 'heard':
      return (
        <G>
          <Rect x={from} y={top} width={width} height={band} fill="none" stroke={look.sand} strokeWidth={1} />
          <Rect x={from} y={y} width={width} height={band / 2} fill={look.sand} />
        </G>
      );
    case 'accepted':
      return <Rect x={from} y={top} width={width} height={band} fill={look.sand} />;
    case 'acknowledged':
      return (
        <Rect
          x={from}
          y={top}
          width={width}
          height={band}
          rx={band / 2.5}
          fill={look.sand}
          stroke={look.ink}
          strokeWidth={band > 10 ? 2.5 : 1.6}
          strokeDasharray={strip.inferred ? (band > 10 ? '8 4' : '4 2') : undefined}
        />
      );
    case 'broken': {
      const third = width / 3;
      const jag = band / 2;
      return (
        <Path
          d={`M${from} ${y} H${from + third} l${jag} ${-jag} M${to} ${y} H${to - third} l${-jag} ${jag}`}
          stroke={look.alarm}
          strokeWidth={band > 10 ? 3 : 1.8}
          fill="none"
        />
      );
    }
  }
}
