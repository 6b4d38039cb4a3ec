import type { CalibrationView } from '@tombolo/contract';
import { ofHundred } from '@tombolo/core';
import { View } from 'react-native';
import { Circle, Line, Svg, Text as SvgText } from 'react-native-svg';
import { type, useLook } from '../../../ui/look';

const HEIGHT = 260;
const LEFT = 40;
const BOTTOM = 36;
const TOP = 12;
const RIGHT = 12;
const MARKS = [0, 0.25, 0.5, 0.75, 1];

/** What happened against what was predicted: on the rising line a forecast is honest. The lines through the points are 95 % intervals. */
export function ReliabilityPicture({ bins, width }: { bins: CalibrationView['bins']; width: number }) {
  const look = useLook();
  const x = (chance: number) => LEFT + chance * (width - LEFT - RIGHT);
  const y = (chance: number) => TOP + (1 - chance) * (HEIGHT - TOP - BOTTOM);
  const small = { fontFamily: type.mono, fontSize: 12, fill: look.inkSoft };
  const words = bins
    .map(
      ({ count, predicted, happened }) =>
        `of ${count} that were given ${ofHundred(predicted)} of 100, ${Math.round(100 * happened)} of 100 were proved`,
    )
    .join('; ');
  return (
    <View role="img" aria-label={`Predicted and proved: ${words}`}>
      <Svg width={width} height={HEIGHT} aria-hidden>
        {MARKS.map((mark) => (
          <Line key={`across ${mark}`} x1={x(0)} x2={x(1)} y1={y(mark)} y2={y(mark)} stroke={look.rule} />
        ))}
        <Line x1={x(0)} y1={y(0)} x2={x(1)} y2={y(1)} stroke={look.inkSoft} strokeDasharray="6 4" />
        {bins.map(({ predicted, low, high }, n) => (
          <Line
            key={`line ${n}`}
            x1={x(predicted)}
            x2={x(predicted)}
            y1={y(low)}
            y2={y(high)}
            stroke={look.tide}
            strokeWidth={2}
          />
        ))}
        {bins.map(({ predicted, happened }, n) => (
          <Circle key={`point ${n}`} cx={x(predicted)} cy={y(happened)} r={5} fill={look.tide} />
        ))}
        {MARKS.map((mark) => (
          <SvgText key={`up ${mark}`} {...small} x={LEFT - 6} y={y(mark) + 4} textAnchor="end">
            {Math.round(100 * mark)}
          </SvgText>
        ))}
        {MARKS.map((mark) => (
          <SvgText key={`along ${mark}`} {...small} x={x(mark)} y={HEIGHT - BOTTOM + 16} textAnchor="middle">
            {Math.round(100 * mark)}
          </SvgText>
        ))}
        <SvgText {...small} x={x(0.5)} y={HEIGHT - 4} textAnchor="middle">
          predicted, of 100
        </SvgText>
      </Svg>
    </View>
  );
}
