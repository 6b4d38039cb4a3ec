import type { SeenTrack } from '@tombolo/core';
import { View } from 'react-native';
import { Circle, Line, Path, Svg } from 'react-native-svg';
import { useLook } from '../../../ui/look';

const EDGE = 12;
const MOST_HEIGHT = 320;

/** The track from above, north at the top: how it ran, from where it was told of, and where others believed us until they were told again. */
export function TrackPicture({ seen, width, title }: { seen: SeenTrack; width: number; title: string }) {
  const look = useLook();
  const all = [...seen.way, ...seen.believed.map(({ to }) => to)];
  const west = Math.min(...all.map(({ east }) => east));
  const east = Math.max(...all.map((point) => point.east));
  const south = Math.min(...all.map(({ north }) => north));
  const north = Math.max(...all.map((point) => point.north));
  const [wideM, highM] = [Math.max(1, east - west), Math.max(1, north - south)];
  const perM = Math.min((width - 2 * EDGE) / wideM, (MOST_HEIGHT - 2 * EDGE) / highM);
  const height = highM * perM + 2 * EDGE;
  const x = (point: { east: number }) => EDGE + (point.east - west) * perM;
  const y = (point: { north: number }) => EDGE + (north - point.north) * perM;
  const way = seen.way
    .map((point, n) => `${n === 0 ? 'M' : 'L'}${x(point).toFixed(1)} ${y(point).toFixed(1)}`)
    .join('');
  return (
    <View role="img" aria-label={title}>
      <Svg width={width} height={height} aria-hidden>
        <Path d={way} stroke={look.rule} strokeWidth={4} fill="none" strokeLinejoin="round" />
        {seen.believed.map(({ from, to }, n) => (
          <Line
            key={n}
            x1={x(from)}
            y1={y(from)}
            x2={x(to)}
            y2={y(to)}
            stroke={look.tide}
            strokeWidth={1.5}
            strokeDasharray="4 3"
          />
        ))}
        {seen.believed.map(({ from }, n) => (
          <Circle key={n} cx={x(from)} cy={y(from)} r={3} fill={look.tide} />
        ))}
      </Svg>
    </View>
  );
}
