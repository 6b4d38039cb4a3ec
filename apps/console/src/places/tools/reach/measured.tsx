import { useQuery } from '@tanstack/react-query';
import type { MeasuredView } from '@tombolo/contract';
import { planningRoutes } from '@tombolo/contract/routes/planning';
import { chanceOfMargin, distanceInWords, ofHundred } from '@tombolo/core';
import { ask } from '../../../live/ask';
import { useDistanceUnit } from '../../../live/preferences';
import { Stack } from '../../../ui/layout';
import { Trouble } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { decibels } from './words';

/** Smaller differences say nothing. */
const NEAR_DB = 1;

/** What was heard here by packet radio, station by station, against what was reckoned of it. */
export function Measured() {
  const unit = useDistanceUnit();
  const measured = useQuery({ queryKey: ['measured'], queryFn: () => ask(planningRoutes.measured, {}) });
  if (measured.isLoadingError) return <Trouble error={measured.error} retry={() => void measured.refetch()} />;
  if (!measured.data) return null;
  const { placed, stations, factor } = measured.data;
  return (
    <Stack above={16}>
      <Heading level={2}>Heard against reckoned</Heading>
      <Body soft>
        Packet radio of two days, of stations that stay in one place and say where, against what the map gives at 145
        MHz, with usual antennas and powers. For us those count that Equipment names.
      </Body>
      {placed ? null : <Body>Where this station is, is not known: enter it under Position.</Body>}
      {placed && stations.length === 0 ? <Body>Nobody of whom that could be said was heard in two days.</Body> : null}
      {factor && stations.length > 0 ? <Body bold>{factorWords(factor, stations.length)}</Body> : null}
      {stations.length > 0 ? (
        <Stack role="list" aria-label="Heard against reckoned" gap={8} above={8}>
          {stations.map(({ call, distanceKm, marginDb, heard, missed }) => (
            <Stack key={call} role="listitem" cited>
              <Mono bold>{call}</Mono>
              <Body>
                {`${distanceInWords(distanceKm, unit)}, ${decibels(marginDb)} dB in hand: ${ofHundred(chanceOfMargin(marginDb))} of 100 reckoned; heard ${heard}, missed ${missed}.`}
              </Body>
            </Stack>
          ))}
        </Stack>
      ) : null}
    </Stack>
  );
}

/** What the fit says, and that it is one. */
export function factorWords({ db, lowDb, highDb }: NonNullable<MeasuredView['factor']>, count: number): string {
  const of = count === 1 ? 'one station' : `${count} stations`;
  const between = `between ${decibels(lowDb)} and ${decibels(highDb)} dB in nine of ten cases`;
  return Math.abs(db) < NEAR_DB
    ? `As was reckoned: a fit over ${of} gives ${decibels(db, 1)} dB, ${between}.`
    : `${Math.abs(db).toFixed(0)} dB ${db < 0 ? 'less' : 'more'} arrives than was reckoned: a fit over ${of}, ${between}. It does not tell this antenna from theirs.`;
}
