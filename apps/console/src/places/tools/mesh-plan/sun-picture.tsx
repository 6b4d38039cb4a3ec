import { MONTHS } from '@tombolo/core';
import { View } from 'react-native';
import { Line, Rect, Svg, Text as SvgText } from 'react-native-svg';
import { type, useLook } from '../../../ui/look';

const HEIGHT = 200;
const LEFT = 44;
const BOTTOM = 24;
const TOP = 12;

/** What a panel gives in a day of each month, beside what the node takes: a bar below the line is hollow. */
export function SunPicture({
  givenWh,
  drawnWh,
  width,
}: {
  givenWh: readonly number[];
  drawnWh: number;
  width: number;
}) {
  const look = useLook();
  const most = 1.1 * Math.max(drawnWh, ...givenWh, 0.001);
  const y = (wh: number) => TOP + (1 - wh / most) * (HEIGHT - TOP - BOTTOM);
  const step = (width - LEFT) / 12;
  const small = { fontFamily: type.mono, fontSize: 12, fill: look.inkSoft };
  const words = givenWh.map((wh, n) => `${MONTHS[n]} ${wh.toFixed(1)}`).join(', ');
  return (
    <View role="img" aria-label={`Watt-hours a day from the panel: ${words}. The node takes ${drawnWh.toFixed(1)}.`}>
      <Svg width={width} height={HEIGHT} aria-hidden>
        {givenWh.map((wh, n) => (
          <Rect
            key={MONTHS[n]}
            x={LEFT + n * step + step * 0.15}
            width={step * 0.7}
            y={y(wh)}
            height={Math.max(0, y(0) - y(wh))}
            fill={wh < drawnWh ? 'none' : look.tide}
            stroke={look.tide}
            strokeWidth={2}
          />
        ))}
        <Line
          x1={LEFT}
          x2={width}
          y1={y(drawnWh)}
          y2={y(drawnWh)}
          stroke={look.ink}
          strokeWidth={2}
          strokeDasharray="6 4"
        />
        <Line x1={LEFT} x2={width} y1={y(0)} y2={y(0)} stroke={look.inkSoft} />
        {[0, most / 2.2, most / 1.1].map((wh) => (
          <SvgText key={wh} {...small} x={LEFT - 6} y={y(wh) + 4} textAnchor="end">
            {wh.toFixed(1)}
          </SvgText>
        ))}
        {MONTHS.map((month, n) => (
          <SvgText key={month} {...small} x={LEFT + (n + 0.5) * step} y={HEIGHT - 6} textAnchor="middle">
            {month.charAt(0)}
          </SvgText>
        ))}
      </Svg>
    </View>
  );
}
