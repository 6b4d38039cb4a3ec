import type { ReadingsView, Series, Watch } from '@tombolo/contract';
import { trendPerHour, trendWord } from '@tombolo/core';
import { useDistanceUnit } from '../../../live/preferences';
import { Row, Stack } from '../../../ui/layout';
import { LineChart } from '../../../ui/line-chart';
import { Measured } from '../../../ui/measured';
import { Body, Heading, Mono } from '../../../ui/text';
import { age } from '../../../ui/time';
import { inChosenUnit, shownWind } from './wind';

/** The trend is taken over the last hours: long enough for a slow instrument, short enough to be now. */
export const TREND_HOURS = 3;

/** `rising fast, +2.4 m/s an hour`; null with too few readings or where a trend has no meaning. */
export function trendWords(series: Series, now: number): string | null {
  if (series.unit === '°') return null;
  const readings = series.points.map(({ at, value }) => ({ atMs: Date.parse(at), value }));
  const perHour = trendPerHour(readings, now - TREND_HOURS * 3_600_000);
  if (perHour === null) return null;
  // Without a known pace the spread of the values themselves is the measure.
  const values = series.points.map(({ value }) => value);
  const spread = Math.max(...values) - Math.min(...values);
  // What never changed is steady, whatever rounding makes of its slope.
  if (spread < 1e-9) return 'steady';
  const [slow, fast] = series.pace ?? [spread * 0.03, spread * 0.3];
  const word = trendWord(perHour, slow, fast);
  if (word === 'steady') return word;
  const size = `${perHour > 0 ? '+' : '−'}${Math.abs(perHour).toFixed(Math.max(1, series.decimals))}`;
  return `${word}, ${size}${series.unit ? ` ${series.unit}` : ''} an hour`;
}

interface ReadingChartsProps {
  readings: ReadingsView;
  title: string;
  now: number;
  watches?: readonly Watch[];
  /** How many a row. */
  columns?: number;
}

/** What a station measured, each quantity with its trend in words and its line. */
export function ReadingCharts({ readings, title, now, watches = [], columns = 1 }: ReadingChartsProps) {
  const unit = useDistanceUnit();
  return (
    <Stack above={16}>
      <Heading level={2}>{title}</Heading>
      {readings.kind === 'telemetry' && !readings.defined ? (
        <Body soft>It has not said what its channels mean: values are as sent.</Body>
      ) : null}
      {readings.project ? <Body soft>{readings.project}</Body> : null}
      <Measured>
        {(width) => (
          <Row wrap columnGap={24}>
            {readings.series.map((told) => {
              const series = inChosenUnit(told, unit);
              const last = series.points.at(-1)!;
              const trend = trendWords(series, now);
              const limit = watches.find(
                (watch) =>
                  watch.call === readings.call &&
                  watch.quantity === series.quantity &&
                  (watch.threshold.when === 'above' || watch.threshold.when === 'below'),
              )?.threshold.limit;
              const chartWidth = Math.floor((width - 24 * (columns - 1)) / columns);
              return (
                <Stack key={series.quantity} width={chartWidth} padY={8}>
                  <Row justify="between" gap={8}>
                    <Body shrink={1}>{series.name}</Body>
                    <Mono bold>{`${last.value.toFixed(series.decimals)}${series.unit ? ` ${series.unit}` : ''}`}</Mono>
                  </Row>
                  <Body soft size={15} line={20}>
                    {`${trend ? `${trend}; ` : ''}${age(last.at, now)} ago`}
                  </Body>
                  <LineChart
                    title={series.name}
                    unit={series.unit}
                    decimals={series.decimals}
                    points={series.points}
                    width={chartWidth}
                    limit={limit === undefined ? null : limit * (shownWind(series.quantity, unit)?.perMs ?? 1)}
                    now={now}
                  />
                </Stack>
              );
            })}
          </Row>
        )}
      </Measured>
      {readings.digital.length > 0 ? (
        <Row role="list" aria-label="States" wrap gap={8} above={4}>
          {readings.digital
            .filter(({ name, label }) => label !== '' || !/^Bit \d$/.test(name))
            .map(({ name, label, active }) => (
              <Stack role="listitem" key={name} framed={active ? 'ink' : 'rule'} padX={10} padY={4}>
                <Body bold={active} soft={!active}>
                  {`${name} ${active ? label || 'on' : `not ${label || 'on'}`}`}
                </Body>
              </Stack>
            ))}
        </Row>
      ) : null}
    </Stack>
  );
}
