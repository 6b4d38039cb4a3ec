import {
  bulgeM,
  distanceInWords,
  fresnelRadiusM,
  metresInWords,
  type DistanceUnit,
  type ProfilePoint,
} from '@tombolo/core';
import { View } from 'react-native';
import { Line, Path, Svg, Text as SvgText } from 'react-native-svg';
import { type, useLook } from '../../../ui/look';

const LEFT = 44;
const RIGHT = 8;
const TOP = 14;
const BOTTOM = 20;
const HEIGHT = 220;

interface ProfilePictureProps {
  profile: readonly ProfilePoint[];
  /** Of the antennas above the ground at either end. */
  fromM: number;
  toM: number;
  frequencyMHz: number;
  width: number;
  unit: DistanceUnit;
  title: string;
}

/** The ground with the bulge of the earth in it, the straight line between the antennas, and the first Fresnel zone around that. */
export function ProfilePicture({ profile, fromM, toM, frequencyMHz, width, unit, title }: ProfilePictureProps) {
  const look = useLook();
  const d = profile.at(-1)?.distanceKm ?? 0;
  if (d <= 0) return null;
  const ground = profile.map(({ distanceKm, groundM }) => ({
    km: distanceKm,
    m: Math.max(0, groundM ?? 0) + bulgeM(distanceKm, d - distanceKm),
  }));
  const [start, end] = [ground[0]!.m + fromM, ground.at(-1)!.m + toM];
  const zone = ground.map(({ km }) => {
    const line = (start * (d - km) + end * km) / d;
    return { km, line, radius: km > 0 && km < d ? fresnelRadiusM(km, d - km, frequencyMHz) : 0 };
  });
  const high = Math.max(...ground.map(({ m }) => m), ...zone.map(({ line, radius }) => line + radius));
  const low = Math.min(0, ...zone.map(({ line, radius }) => line - radius));
  const x = (km: number) => LEFT + (km / d) * (width - LEFT - RIGHT);
  const y = (m: number) => TOP + (1 - (m - low) / Math.max(1, high - low)) * (HEIGHT - TOP - BOTTOM);
  const along = (points: readonly { km: number; m: number }[]) =>
    points.map(({ km, m }, n) => `${n === 0 ? 'M' : 'L'}${x(km).toFixed(1)} ${y(m).toFixed(1)}`).join('');
  const floor = HEIGHT - BOTTOM;
  const small = { fontFamily: type.mono, fontSize: 12, fill: look.inkSoft };
  const top = Math.max(...ground.map(({ m }) => m));
  return (
    <View role="img" aria-label={title}>
      <Svg width={width} height={HEIGHT} aria-hidden>
        <Path d={`${along(ground)}L${x(d)} ${floor}L${x(0)} ${floor}Z`} fill={look.rule} />
        <Path d={along(ground)} stroke={look.inkSoft} strokeWidth={1.5} fill="none" />
        {[1, -1].map((side) => (
          <Path
            key={side}
            d={along(zone.map(({ km, line, radius }) => ({ km, m: line + side * radius })))}
            stroke={look.sand}
            strokeWidth={1}
            strokeDasharray="4 3"
            fill="none"
          />
        ))}
        <Line x1={x(0)} y1={y(start)} x2={x(d)} y2={y(end)} stroke={look.tide} strokeWidth={2} />
        <Line x1={x(0)} y1={y(ground[0]!.m)} x2={x(0)} y2={y(start)} stroke={look.ink} strokeWidth={3} />
        <Line x1={x(d)} y1={y(ground.at(-1)!.m)} x2={x(d)} y2={y(end)} stroke={look.ink} strokeWidth={3} />
        <SvgText {...small} x={LEFT - 6} y={y(0) + 4} textAnchor="end">
          {metresInWords(0, unit)}
        </SvgText>
        {y(0) - y(top) > 16 ? (
          <SvgText {...small} x={LEFT - 6} y={y(top) + 4} textAnchor="end">
            {metresInWords(top, unit)}
          </SvgText>
        ) : null}
        <SvgText {...small} x={x(0)} y={HEIGHT - 5} textAnchor="start">
          0
        </SvgText>
        <SvgText {...small} x={x(d)} y={HEIGHT - 5} textAnchor="end">
          {distanceInWords(d, unit)}
        </SvgText>
      </Svg>
    </View>
  );
}
