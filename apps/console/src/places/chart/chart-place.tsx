import { ownStation, type StationView } from '@tombolo/contract';
import { router, useLocalSearchParams } from 'expo-router';
import { useCallback, useDeferredValue, useMemo } from 'react';
import { useDistanceUnit } from '../../live/preferences';
import { useChartAhead, useSettings, useStations } from '../../live/queries';
import { Button } from '../../ui/button';
import { Chips } from '../../ui/chips';
import { useNow } from '../../ui/clock';
import { Row, Stack } from '../../ui/layout';
import { useThirdColumn, useWide } from '../../ui/look';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { hoursOfTrails, useChart } from './chart-store';
import { passes } from './filter';
import { useAddressedFilter } from './filter-address';
import { MapPane } from './map-pane';
import { StationCard } from './station/station-card';
import { StationPanel } from './station/station-panel';
import { StationList } from './station-list';
import { Link, type Address } from '../../ui/link';
import { OneLine } from '../../ui/one-line';

/** Further views of what was heard. */
const VIEWS: readonly { readonly href: Address; readonly title: string }[] = [
  { href: '/chart/weather', title: 'Weather' },
  { href: '/chart/telemetry', title: 'Telemetry' },
  { href: '/chart/calling', title: 'Voice alert' },
  { href: '/chart/links', title: 'Who hears whom' },
  { href: '/chart/maps', title: 'Maps and layers' },
];

/** Words that lead to the other views: in rows on a wide screen, in a line to push along on a phone. */
function ChartViews() {
  const wide = useWide();
  const words = VIEWS.map(({ href, title }) => (
    <Link key={title} href={href} minHeight={wide ? 36 : 48} padRight={wide ? 14 : 18} justify="center">
      <Body tone="tide">{title}</Body>
    </Link>
  ));
  const role = { role: 'navigation', 'aria-label': 'Views of the chart' } as const;
  if (wide)
    return (
      <Row {...role} wrap>
        {words}
      </Row>
    );
  return <OneLine {...role}>{words}</OneLine>;
}

/** Opens a station beside the map and the list; null closes it. */
const select = (call: string | null) => router.setParams({ station: call ?? undefined });

/** Who is there, where from us, how they were heard and how to call them: map and list of the same. */
export function ChartPlace() {
  useChartAhead(useChart(hoursOfTrails));
  const wide = useWide();
  const third = useThirdColumn();
  const now = useNow(10_000);
  const settings = useSettings();
  const stations = useStations();
  const { station: selected = null } = useLocalSearchParams<{ station?: string }>();
  useAddressedFilter();
  const { filter, order, phoneShows, change } = useChart();
  const wanted = useDeferredValue(filter);
  const unit = useDistanceUnit();
  const own = settings.data ? ownStation(settings.data) : null;
  const all = useMemo(() => (stations.data ?? []).filter(({ call }) => call !== own), [stations.data, own]);
  const rows = useMemo(() => {
    const passed = all.filter((station) => passes(station, wanted, now));
    return order === 'newest' ? passed : passed.sort(nearer);
  }, [all, wanted, order, now]);
  // The same from one packet to the next, so that only rows that changed are drawn again.
  const choose = useCallback(
    (call: string) => (wide ? select(call) : router.navigate(`/chart/station?call=${encodeURIComponent(call)}`)),
    [wide],
  );

  const views = <ChartViews />;
  const noPosition =
    settings.data && !settings.data.position ? (
      <Notice title="Your own position is not set">
        <Body>Without it no distance or bearing can be given.</Body>
        <Button title="Set it in Settings" kind="plain" href="/tools/settings" />
      </Notice>
    ) : null;
  const list = (head: React.ReactElement) => (
    <StationList
      head={head}
      rows={rows}
      total={all.length}
      loading={stations.isPending}
      error={stations.isError ? stations.error : null}
      retry={() => void stations.refetch()}
      unit={unit}
      selected={selected}
      onSelect={choose}
    />
  );
  const map = <MapPane stations={rows} selected={selected} onSelect={select} settings={settings.data ?? null} />;
  const chosen = selected === null ? undefined : stations.data?.find(({ call }) => call === selected);

  if (wide)
    return (
      <Row fill minHeight={0}>
        <Stack width={320} ruledRight>
          {list(
            <Stack gap={8}>
              <Heading level={1}>Chart</Heading>
              {noPosition}
              {views}
            </Stack>,
          )}
        </Stack>
        <Stack fill minWidth={0}>
          {map}
        </Stack>
        {selected !== null ? (
          <Stack width={third ? 360 : 340} ruledLeft>
            <StationPanel key={selected} call={selected} close={() => select(null)} />
          </Stack>
        ) : null}
      </Row>
    );

  const head = (
    <Row justify="between" align="center" gap={8}>
      <Heading level={1}>Chart</Heading>
      <Chips
        label="Show"
        value={phoneShows}
        onChange={(shows) => change({ phoneShows: shows })}
        options={[
          { id: 'map', title: 'Map' },
          { id: 'list', title: 'List' },
        ]}
      />
    </Row>
  );
  if (phoneShows === 'list')
    return list(
      <Stack gap={8}>
        {head}
        {noPosition}
        {views}
      </Stack>,
    );
  return (
    <Stack fill minHeight={0}>
      <Stack padX={16} padTop={6}>
        {head}
        {views}
      </Stack>
      <Stack fill minHeight={0}>
        {map}
      </Stack>
      {chosen ? <StationCard station={chosen} unit={unit} now={now} close={() => select(null)} /> : null}
    </Stack>
  );
}

const nearer = (a: StationView, b: StationView) => (a.distanceKm ?? Infinity) - (b.distanceKm ?? Infinity);
