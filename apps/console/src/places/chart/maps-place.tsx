import type { MapKind } from '@tombolo/contract';
import LinearProgress from '@rneui/themed/dist/LinearProgress';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange } from '../../live/queries';
import { exportUrl } from '../../live/exports';
import { mapApi, useMaps } from '../../live/maps';
import { Button } from '../../ui/button';
import { FileButton } from '../../ui/file-button';
import { CheckRow } from '../../ui/choice';
import { Chips } from '../../ui/chips';
import { Row, Stack } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Empty, Notice, Page, Trouble, Waiting } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { RemoveButton } from '../../ui/remove-button';
import { Body, Heading, Mono } from '../../ui/text';
import { saveFile } from '../log/save';
import { CHART_LAYERS, useChart } from './chart-store';

/** The form that a file name tells; null for what cannot be shown. */
export function mapKindOf(name: string): MapKind | null {
  const ending = name.toLowerCase().split('.').pop();
  if (ending === 'geojson' || ending === 'json') return 'geojson';
  if (ending === 'hgt') return 'heights';
  return ending === 'pmtiles' ? 'pmtiles' : null;
}

const KIND_WORDS: Readonly<Record<MapKind, string>> = {
  geojson: 'GeoJSON',
  pmtiles: 'tiles',
  heights: 'elevation',
};

const HOURS = [
  { id: '1', title: '1 h' },
  { id: '6', title: '6 h' },
  { id: '24', title: '24 h' },
] as const;

/** What the chart draws, and map files of the operator's own. */
export function MapsPlace() {
  const look = useLook();
  const { layers, hiddenMaps, trailHours, change } = useChart();
  const maps = useMaps();
  const [share, setShare] = useState<number | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const add = useChange(
    ({ file, kind }: { file: File; kind: MapKind }) => mapApi.addMap(file, file.name, kind, setShare),
    ['maps'],
  );
  const remove = useChange((id: string) => mapApi.removeMap(id), ['maps']);
  const choose = (file: File) => {
    const kind = mapKindOf(file.name);
    setRefused(
      kind
        ? null
        : `${file.name} is neither GeoJSON (.geojson), nor a tile archive (.pmtiles), nor a tile of elevation (.hgt).`,
    );
    if (!kind) return;
    setShare(0);
    add.mutate({ file, kind }, { onSettled: () => setShare(null) });
  };
  return (
    <Page title="Maps and layers">
      <Stack align="start" below={8}>
        <Button title="Back to the chart" icon="arrow-left" kind="plain" href="/chart" />
      </Stack>
      <Heading level={2}>Drawn on the chart</Heading>
      {CHART_LAYERS.map(({ id, title, hint }) => (
        <CheckRow
          key={id}
          label={title}
          hint={hint}
          checked={layers[id]}
          onChange={(on) => change({ layers: { ...layers, [id]: on } })}
        />
      ))}
      <Body bold>Trails of the last</Body>
      <Chips
        label="Trails of the last"
        value={String(trailHours)}
        onChange={(id) => change({ trailHours: Number(id) })}
        options={HOURS}
      />

      <Heading level={2} above={24}>
        Your own maps
      </Heading>
      <Body soft below={8}>
        GeoJSON (RFC 7946), or a tile archive in one file (PMTiles version 3) with pictures or shapes; and tiles of
        elevation of one degree (.hgt, 1″ or 3″), which Reach reckons with. They are kept at the station and work
        without any network.
      </Body>
      <Stack align="start" below={8}>
        <FileButton
          title="Add a map file"
          icon="map-plus"
          label="Map file"
          accept=".geojson,.json,.pmtiles,.hgt"
          onFile={choose}
          busy={add.isPending}
        />
      </Stack>
      {share !== null ? (
        <Stack role="status" below={8}>
          <Body soft>{`Sending to the station, ${Math.round(share * 100)} %`}</Body>
          <LinearProgress
            value={share}
            variant="determinate"
            color={look.sand}
            trackColor={look.rule}
            animation={false}
          />
        </Stack>
      ) : null}
      {refused || add.isError ? (
        <Notice kind="alarm" title="That map was not added">
          {refused ?? add.error?.message}
        </Notice>
      ) : null}
      {maps.isPending ? <Waiting what="maps" /> : null}
      {maps.isError ? <Trouble error={maps.error} retry={() => void maps.refetch()} /> : null}
      {maps.data?.length === 0 ? (
        <Empty icon="map-outline" title="No map of your own yet">
          The outlines of the world are built in. A file of your district shows coast, roads and names.
        </Empty>
      ) : null}
      <View role="list" aria-label="Your own maps">
        {maps.data?.map((map) => {
          const shownNow = !hiddenMaps.includes(map.id);
          return (
            <Stack role="listitem" key={map.id} padY={8} ruled gap={4}>
              <Row justify="between" gap={8}>
                <Body bold shrink={1}>
                  {map.name}
                </Body>
                <Mono soft>{`${KIND_WORDS[map.kind]}, ${octetsInWords(map.octets)}`}</Mono>
              </Row>
              <Row gap={8}>
                {map.kind === 'heights' ? null : (
                  <Button
                    title={shownNow ? 'Hide' : 'Show'}
                    about={map.name}
                    kind="plain"
                    onPress={() =>
                      change({
                        hiddenMaps: shownNow ? [...hiddenMaps, map.id] : hiddenMaps.filter((id) => id !== map.id),
                      })
                    }
                  />
                )}
                <RemoveButton about={map.name} onRemove={() => remove.mutate(map.id)} />
              </Row>
            </Stack>
          );
        })}
      </View>

      <Heading level={2} above={24}>
        Take it elsewhere
      </Heading>
      <Row wrap gap={8} above={8}>
        {(['gpx', 'kml', 'geojson'] as const).map((format) => (
          <Button
            key={format}
            title={`Save all as ${format === 'geojson' ? 'GeoJSON' : format.toUpperCase()}`}
            icon="download-outline"
            kind="plain"
            onPress={() => saveAll(format)}
          />
        ))}
      </Row>
    </Page>
  );
}

const saveAll = (format: 'gpx' | 'kml' | 'geojson') => saveFile(exportUrl(`stations.${format}`, { hours: 24 }));
