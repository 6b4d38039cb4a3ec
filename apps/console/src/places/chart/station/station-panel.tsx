import type { StationDetail } from '@tombolo/contract';
import { degreesAndMinutes, locatorOf, metresInWords, type DistanceUnit } from '@tombolo/core';
import { router } from 'expo-router';
import { View } from 'react-native';
import { useDistanceUnit } from '../../../live/preferences';
import { useStation } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Instant, useNow } from '../../../ui/clock';
import { Icon } from '../../../ui/icon';
import { Row, Stack } from '../../../ui/layout';
import { useLook } from '../../../ui/look';
import { Notice, Page, Trouble, Waiting } from '../../../ui/page';
import { whereWords } from '../../../ui/quantity';
import { Body, Heading, Mono } from '../../../ui/text';
import { age } from '../../../ui/time';
import { useChart } from '../chart-store';
import { meaningOf, SYMBOL_ICONS } from '../symbols';
import { motionWords } from '../words';
import { ReadingCharts } from '../boards/reading-charts';
import { CallCard } from './call-card';
import { HeardCard } from './heard-card';
import { KeepCard } from './keep-card';
import { RawPackets } from './raw-packets';
import { TrailCard } from './trail-card';

/** Everything about one station or object. */
export function StationPanel({ call, close }: { call: string; close?: () => void }) {
  const station = useStation(call);
  const unit = useDistanceUnit();
  if (station.isPending)
    return (
      <Page title={call}>
        <Waiting what="the station" />
      </Page>
    );
  if (station.isLoadingError)
    return (
      <Page title={call}>
        <Trouble error={station.error} retry={() => void station.refetch()} />
        {close ? <Button title="Close" kind="plain" onPress={close} /> : null}
      </Page>
    );
  return <StationPage station={station.data} unit={unit} close={close} />;
}

interface StationPageProps {
  station: StationDetail;
  unit: DistanceUnit;
  close?: () => void;
}

export function StationPage({ station, unit, close }: StationPageProps) {
  const now = useNow();
  const look = useLook();
  const meaning = meaningOf(station);
  const weather = station.readings.find(({ kind }) => kind === 'weather');
  const telemetry = station.readings.find(({ kind }) => kind === 'telemetry');
  return (
    <Page title={station.name} aside={close ? <Button title="Close" kind="plain" onPress={close} /> : undefined}>
      <Row gap={10} align="center" below={8}>
        <Icon name={SYMBOL_ICONS[meaning]} size={28} color={look.inkSoft} />
        <Body fill>
          {station.kind === 'node'
            ? `Node of a mesh, number ${station.call}`
            : station.kind === 'station'
              ? capital(meaning)
              : `${capital(station.kind)}, reported by ${station.owner ?? '?'}`}
        </Body>
        <Body soft>{`${age(station.lastAt, now)} ago`}</Body>
      </Row>
      {station.conflict ? <Notice kind="alarm" title={station.conflict} /> : null}
      {station.live ? null : <Notice title="Taken off the map by its owner" />}
      {station.message ? <Told name="State set by its operator" words={station.message} /> : null}
      {station.comment ? <Told name="Says" words={station.comment} /> : null}
      {station.status ? <Told name="Status" words={station.status} /> : null}
      <WhereRows station={station} unit={unit} />
      <HeardCard station={station} />
      <CallCard station={station} />
      {weather ? <ReadingCharts readings={weather} title="Weather" now={now} /> : null}
      {telemetry ? <ReadingCharts readings={telemetry} title="Telemetry" now={now} /> : null}
      <TrailCard station={station} unit={unit} now={now} />
      <KeepCard station={station} />
      <RawPackets station={station} />
    </Page>
  );
}

const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1);

function Told({ name, words }: { name: string; words: string }) {
  return (
    <Stack padY={6} ruled>
      <Body soft size={15} line={20}>
        {name}
      </Body>
      <Body>{words}</Body>
    </Stack>
  );
}

function WhereRows({ station, unit }: { station: StationDetail; unit: DistanceUnit }) {
  const { latitude, longitude, positionAt } = station;
  const follow = useChart((chart) => chart.follow);
  const change = useChart((chart) => chart.change);
  if (latitude === null || longitude === null || positionAt === null)
    return <Told name="Where" words="It has not told its position." />;
  const motion = motionWords(station, unit);
  const where = whereWords(station, unit);
  return (
    <View>
      <Heading level={2} above={12}>
        Where
      </Heading>
      {where ? <Told name="From us" words={where} /> : null}
      <Told
        name={`Position${station.ambiguity > 0 ? ', blurred on purpose' : ''}`}
        words={`${degreesAndMinutes({ latitude, longitude })} – ${locatorOf({ latitude, longitude })}`}
      />
      {motion ? <Told name="Motion" words={motion} /> : null}
      {station.altitudeM !== null ? <Told name="Altitude" words={metresInWords(station.altitudeM, unit)} /> : null}
      <Row gap={8} align="center" above={8} wrap>
        <Mono soft>told at</Mono>
        <Instant iso={positionAt} seconds />
        <Button
          title={follow === station.call ? 'Stop following' : 'Follow on the map'}
          kind="plain"
          onPress={() => {
            change({ follow: follow === station.call ? null : station.call, phoneShows: 'map' });
            router.navigate(`/chart?station=${encodeURIComponent(station.call)}`);
          }}
        />
      </Row>
    </View>
  );
}
