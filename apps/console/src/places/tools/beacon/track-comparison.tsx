import {
  counted,
  denseTrack,
  distanceInWords,
  inUnit,
  metresInWords,
  type BeaconScheme,
  type DistanceUnit,
  type TrackPoint,
} from '@tombolo/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { useDistanceUnit } from '../../../live/preferences';
import { useStation, useStations } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Stack } from '../../../ui/layout';
import { LineChart } from '../../../ui/line-chart';
import { Measured } from '../../../ui/measured';
import { Notice, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { TrackPicture } from './track-picture';
import { TrackFromFile, type NamedTrack } from './track-from-file';
import { useComparison } from './use-comparison';
import { schemeWords } from './written-plan';

/** Every so many seconds it is asked whether a report is due. */
const STEP_S = 5;
const MOST_OFFERED = 5;
/** Ten hours, a point a second: more is thinned out before it is compared. */
const MOST_COMPARED = 36_000;

function thinned<T>(points: readonly T[]): readonly T[] {
  const step = Math.ceil(points.length / MOST_COMPARED);
  return step <= 1 ? points : points.filter((_, n) => n % step === 0);
}

const OTHERS: readonly BeaconScheme[] = [
  { by: 'time', everyS: 30 },
  { by: 'time', everyS: 120 },
  { by: 'time', everyS: 600 },
];

const metres = (m: number, unit: DistanceUnit): string =>
  m < 1000 ? metresInWords(m, unit) : distanceInWords(m / 1000, unit);

/** What others would see of a station that moved here, under this scheme and under some that are common. */
export function TrackComparison({ scheme }: { scheme: BeaconScheme }) {
  const stations = useStations();
  const [chosen, choose] = useState<string | null>(null);
  const [file, setFile] = useState<NamedTrack | null>(null);
  const fileTrack = useMemo(() => denseTrack(thinned(file?.points ?? []), STEP_S), [file]);
  // What moves tells its speed.
  const movers = (stations.data ?? [])
    .filter(({ kind, speedKnots }) => kind === 'station' && speedKnots !== null && speedKnots > 0)
    .sort((a, b) => (a.call < b.call ? -1 : 1))
    .slice(0, MOST_OFFERED);
  const call = chosen ?? movers[0]?.call ?? null;
  return (
    <Stack below={16}>
      <Heading level={3}>Compared on a track</Heading>
      {stations.data && movers.length === 0 ? (
        <Body soft>No station that moves has been heard yet: its track would be compared here.</Body>
      ) : null}
      {movers.length > 1 ? (
        <Choice<string>
          label="Whose track"
          options={movers.map((mover) => ({ id: mover.call, title: mover.call }))}
          value={call ?? ''}
          onChange={choose}
        />
      ) : null}
      <TrackFromFile take={setFile} />
      {file ? (
        <>
          <Compared
            scheme={scheme}
            track={fileTrack}
            title={`Of ${file.name}`}
            none={`The track of ${file.name} is too short to compare on.`}
          />
          {file.leftOut > 0 ? (
            <Body soft>{`${counted(file.leftOut, 'point')} without a time that goes on left out.`}</Body>
          ) : null}
          <Stack align="start">
            <Button title="Close the file" kind="plain" onPress={() => setFile(null)} />
          </Stack>
        </>
      ) : call ? (
        <OnTrack key={call} call={call} scheme={scheme} />
      ) : null}
    </Stack>
  );
}

function OnTrack({ call, scheme }: { call: string; scheme: BeaconScheme }) {
  const station = useStation(call);
  const trail = station.data?.trail;
  const track = useMemo(
    () =>
      denseTrack(
        (trail ?? []).filter(({ fault }) => fault === null).map((point) => ({ ...point, atMs: Date.parse(point.at) })),
        STEP_S,
      ),
    [trail],
  );
  if (station.isPending) return <Waiting what="the track" />;
  if (station.isLoadingError) return <Trouble error={station.error} retry={() => void station.refetch()} />;
  return (
    <Compared
      scheme={scheme}
      track={track}
      title={`Of ${call}, straight on between what was heard`}
      none={`The track of ${call} is too short to compare on.`}
    />
  );
}

/** What others would have seen of a track: figures for each scheme, and the error of this plan over time. */
function Compared({
  scheme,
  track,
  title,
  none,
}: {
  scheme: BeaconScheme;
  track: readonly TrackPoint[];
  title: string;
  none: string;
}) {
  const unit = useDistanceUnit();
  const schemes = [scheme, ...OTHERS];
  const { rows, left, fault } = useComparison(schemes, track);
  const drawn = rows.find(({ n }) => n === 0)?.drawn ?? null;
  const errors = (drawn?.errors ?? []).map(({ atMs, errorM }) => ({
    at: new Date(atMs).toISOString(),
    value: unit === 'km' ? errorM : inUnit(errorM / 1000, unit),
  }));
  const first = track[0];
  if (!first) return <Body soft>{none}</Body>;
  const hours = (track.at(-1)!.atMs - first.atMs) / 3_600_000;
  return (
    <View>
      <Body soft below={4}>
        {`${title}, ${hours < 1 ? `${Math.round(hours * 60)} min` : `${hours.toFixed(1)} h`}.`}
      </Body>
      <View role="list" aria-label="Schemes compared">
        {rows.map(({ n, outcome }) =>
          outcome ? (
            <Stack key={n} role="listitem" padY={6} ruled>
              <Body bold={n === 0}>{`${n === 0 ? 'This plan: ' : ''}${schemeWords(schemes[n]!)}`}</Body>
              <Body
                soft
              >{`${outcome.sent} reports; others are off by ${metres(outcome.meanErrorM, unit)} on average, by no more than ${metres(outcome.error95M, unit)} in 95 of 100 moments`}</Body>
            </Stack>
          ) : null,
        )}
      </View>
      {fault ? (
        <Notice kind="alarm" title="Not compared">
          {fault}
        </Notice>
      ) : left > 0 ? (
        <Waiting what={`the comparison, ${left} of ${schemes.length} left`} />
      ) : null}
      {drawn ? (
        <>
          <Body soft above={8}>
            From above, north at the top: the way, each report, and dashed where others believe us until the next one
          </Body>
          <Measured>
            {(width) => (
              <TrackPicture
                seen={drawn.seen}
                width={width}
                title={`The track from above, with ${counted(drawn.seen.believed.length, 'report')} of this plan`}
              />
            )}
          </Measured>
        </>
      ) : null}
      <Body soft above={8}>{`How far others are off by this plan, ${unit === 'km' ? 'm' : unit}`}</Body>
      <Measured>
        {(width) => (
          <LineChart
            title="How far others are off by this plan"
            unit={unit === 'km' ? 'm' : unit}
            decimals={unit === 'km' ? 0 : 2}
            points={errors}
            width={width}
          />
        )}
      </Measured>
    </View>
  );
}
