import type { ReadingsView } from '@tombolo/contract';
import { useState } from 'react';
import { useDistanceUnit } from '../../../live/preferences';
import { useAlarms, useReadings, useStations, useWatches } from '../../../live/queries';
import { exportUrl } from '../../../live/exports';
import { Button } from '../../../ui/button';
import { Chips } from '../../../ui/chips';
import { useNow } from '../../../ui/clock';
import { Row, Stack } from '../../../ui/layout';
import { useWide } from '../../../ui/look';
import { Empty, Page, Trouble, Waiting } from '../../../ui/page';
import { whereWords } from '../../../ui/quantity';
import { Body } from '../../../ui/text';
import { saveFile } from '../../log/save';
import { AlarmList } from './alarm-list';
import { ReadingCharts } from './reading-charts';
import { WatchForm } from './watch-form';
import { WatchList } from './watch-list';

const SPANS = [
  { id: '3', title: '3 h' },
  { id: '12', title: '12 h' },
  { id: '48', title: '2 d' },
] as const;

const WORDS = {
  weather: {
    title: 'Weather',
    what: 'weather',
    empty: 'No weather heard yet',
    teach: 'Weather stations report about every 10 minutes; the first are expected within that time.',
  },
  telemetry: {
    title: 'Telemetry',
    what: 'telemetry',
    empty: 'No telemetry heard yet',
    teach: 'Stations that measure report every few minutes, and tell now and then what their channels mean.',
  },
} as const;

/** All that stations of one kind measure, with trends, and what they are watched for. */
export function ReadingsBoard({ kind }: { kind: ReadingsView['kind'] }) {
  const words = WORDS[kind];
  const wide = useWide();
  const now = useNow(30_000);
  const [hours, setHours] = useState<(typeof SPANS)[number]['id']>('12');
  const [watching, setWatching] = useState<string | null>(null);
  const readings = useReadings(kind, Number(hours));
  const watches = useWatches();
  const alarms = useAlarms();
  const stations = useStations();
  const unit = useDistanceUnit();
  const rows = readings.data ?? [];
  const ours = (watches.data ?? []).filter(({ quantity }) => quantity.startsWith(kind));
  return (
    <Page title={words.title} maxWidth={1080}>
      <Row wrap gap={8} below={8}>
        <Button title="Back to the chart" icon="arrow-left" kind="plain" href="/chart" />
        <Button
          title="Save as CSV"
          icon="download-outline"
          kind="plain"
          onPress={() => saveFile(exportUrl('readings.csv', { kind, hours: Number(hours) }))}
        />
      </Row>
      <Chips label="Time shown" value={hours} onChange={setHours} options={SPANS} />
      {readings.isPending ? <Waiting what={words.what} /> : null}
      {readings.isError ? <Trouble error={readings.error} retry={() => void readings.refetch()} /> : null}
      {readings.data && rows.length === 0 ? (
        <Empty icon={kind === 'weather' ? 'weather-windy' : 'gauge'} title={words.empty}>
          {words.teach}
        </Empty>
      ) : null}
      <AlarmList alarms={alarms.data ?? []} calls={new Set(rows.map(({ call }) => call))} />
      {rows.map((station) => {
        const heard = stations.data?.find(({ call }) => call === station.call);
        const where = heard ? whereWords(heard, unit) : null;
        return (
          <Stack key={station.call} role="region" aria-label={station.call} ruledAbove padBottom={16} above={12}>
            <ReadingCharts
              readings={station}
              title={station.call}
              now={now}
              watches={watches.data ?? []}
              columns={wide ? 2 : 1}
            />
            {heard ? <Body soft>{[heard.comment, where].filter(Boolean).join(' – ')}</Body> : null}
            <Row wrap gap={8} above={8}>
              <Button
                title="Watch it"
                about={station.call}
                icon="bell-plus-outline"
                kind="plain"
                onPress={() => setWatching(watching === station.call ? null : station.call)}
              />
              <Button
                title="All about it"
                about={station.call}
                kind="plain"
                href={`/chart/station?call=${encodeURIComponent(station.call)}`}
              />
            </Row>
            {watching === station.call ? <WatchForm readings={station} done={() => setWatching(null)} /> : null}
          </Stack>
        );
      })}
      <WatchList watches={ours} readings={rows} />
    </Page>
  );
}
