import Svg, { Circle, Ellipse, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg';
import { View } from 'react-native';
import { causewayInWords, type Causeway as Road, type Strip } from '@tombolo/core';
import { type, useLook } from './look';
import type { Look } from './lights';

/** Heights in px of the band of sand. */
const SMALL = { height: 18, band: 7, stone: 5 };
const LARGE = { height: 76, band: 16, stone: 12 };

interface CausewayProps {
  road: Road;
  width: number;
  large?: boolean;
}

/**
 * The road of an item: stones are stations, strips of sand are hops. Shape carries the meaning, so that it reads in print and
 * without colour: dotted planned, thin line sent, half filled heard repeated, filled accepted, rimmed acknowledged, gap broken.
 */
export function Causeway({ road, width, large = false }: CausewayProps) {
  const look = useLook();
  const size = large ? LARGE : SMALL;
  const margin = large ? 34 : size.stone + 1;
  const step = (width - 2 * margin) / Math.max(1, road.strips.length);
  const y = large ? 26 : size.height / 2;
  const xOf = (i: number) => margin + i * step;
  return (
    <View role="img" aria-label={causewayInWords(road)}>
      <Svg width={width} height={size.height} aria-hidden>
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
                x={Math.min(width - 2, Math.max(2, xOf(i)))}
                y={y + (i % 2 === 0 || step > 86 ? 34 : 48)}
                textAnchor={i === 0 ? 'start' : i === road.stones.length - 1 ? 'end' : 'middle'}
                dx={i === 0 ? -margin + 2 : i === road.stones.length - 1 ? margin - 2 : 0}
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

interface StripProps {
  strip: Strip;
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
    case 'planned': {
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
