import { Circle, G, Line, Path, Svg, Text as SvgText } from 'react-native-svg';
import { View } from 'react-native';
import { type, useLook } from './look';
import { utcTime } from './time';

export interface ChartPoint {
  readonly at: string;
  readonly value: number;
}

interface LineChartProps {
  /** Says what is drawn. */
  title: string;
  unit: string;
  decimals: number;
  points: readonly ChartPoint[];
  width: number;
  height?: number;
  /** A limit that is watched for, drawn across. */
  limit?: number | null;
  now?: number;
}

const LEFT = 52;
const RIGHT = 8;
const TOP = 8;
const BOTTOM = 20;

/** Where a line runs: lowest and highest value with a little air, and the same for time. */
export function chartScale(points: readonly ChartPoint[], width: number, height: number, limit: number | null = null) {
  const values = points.map(({ value }) => value);
  if (limit !== null) values.push(limit);
  let low = Math.min(...values);
  let high = Math.max(...values);
  if (high - low < 1e-9) {
    // A steady value runs through the middle.
    low -= 1;
    high += 1;
  }
  const air = (high - low) * 0.08;
  const [bottom, top] = [low - air, high + air];
  const first = Date.parse(points[0]!.at);
  const span = Math.max(1, Date.parse(points.at(-1)!.at) - first);
  const single = points.length === 1;
  return {
    low,
    high,
    x: (at: string) => (single ? width / 2 : LEFT + ((Date.parse(at) - first) / span) * (width - LEFT - RIGHT)),
    y: (value: number) => TOP + (1 - (value - bottom) / (top - bottom)) * (height - TOP - BOTTOM),
  };
}

/** A value over time: one line, its lowest and highest value, and its first and last time. */
export function LineChart({ title, unit, decimals, points, width, height = 96, limit = null, now }: LineChartProps) {
  const look = useLook();
  const last = points.at(-1);
  if (!last) return null;
  const { low, high, x, y } = chartScale(points, width, height, limit);
  const words = (value: number) => `${value.toFixed(decimals)}${unit ? ` ${unit}` : ''}`;
  const path = points
    .map(({ at, value }, i) => `${i === 0 ? 'M' : 'L'}${x(at).toFixed(1)} ${y(value).toFixed(1)}`)
    .join('');
  const values = points.map(({ value }) => value);
  const label = `${title}: now ${words(last.value)}, lowest ${words(Math.min(...values))}, highest ${words(Math.max(...values))}, ${points.length} values since ${utcTime(points[0]!.at, now)}`;
  const small = { fontFamily: type.mono, fontSize: 12, fill: look.inkSoft };
  return (
    <View role="img" aria-label={label}>
      <Svg width={width} height={height} aria-hidden>
        {[low, high].map((value) => (
          <G key={value}>
            <Line x1={LEFT} x2={width - RIGHT} y1={y(value)} y2={y(value)} stroke={look.rule} strokeWidth={1} />
            <SvgText {...small} x={LEFT - 6} y={y(value) + 4} textAnchor="end">
              {value.toFixed(decimals)}
            </SvgText>
          </G>
        ))}
        {limit !== null ? (
          <Line
            x1={LEFT}
            x2={width - RIGHT}
            y1={y(limit)}
            y2={y(limit)}
            stroke={look.alarm}
            strokeWidth={1.5}
            strokeDasharray="6 4"
          />
        ) : null}
        <Path d={path} stroke={look.tide} strokeWidth={2} fill="none" strokeLinejoin="round" />
        <Circle cx={x(last.at)} cy={y(last.value)} r={3.5} fill={look.tide} />
        <SvgText {...small} x={LEFT} y={height - 5} textAnchor="start">
          {utcTime(points[0]!.at, now)}
        </SvgText>
        <SvgText {...small} x={width - RIGHT} y={height - 5} textAnchor="end">
          {utcTime(last.at, now)}
        </SvgText>
      </Svg>
    </View>
  );
}
