import type { Settings, StationView } from '@tombolo/contract';
import { useDistanceUnit } from '../../live/preferences';
import { bearingBetween, compassPoint, distanceInWords, kmOf, locatorOf, type DistanceUnit } from '@tombolo/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { followDevice, leaveDevice, useDevicePosition } from '../../live/device-position';
import { useHeardLinks } from '../../live/queries';
import { mapApi, useMaps } from '../../live/maps';
import { useTrackers } from '../../live/trackers';
import { useTrails } from '../../live/trails';
import { Button } from '../../ui/button';
import { Row } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Waiting } from '../../ui/page';
import { Body, Mono } from '../../ui/text';
import { useChart, type MapPoint } from './chart-store';
import { FollowWords } from './follow-words';
import { MovedWords, StationHere } from './station-here';
import type { ChartView } from './map/chart-view';
import { MapFrame, MapTool, MapTools, OverMap } from '../../ui/over-map';

const ChartMap = lazy(() => import('./map/chart-map'));

interface MapPaneProps {
  stations: readonly StationView[];
  selected: string | null;
  onSelect: (call: string | null) => void;
  settings: Settings | null;
}

/** The map with its tools: nearer, farther, all, follow, measure. */
export function MapPane({ stations, selected, onSelect, settings }: MapPaneProps) {
  const look = useLook();
  const { layers, hiddenMaps, trailHours, measured, follow, change } = useChart();
  const trails = useTrails(trailHours, layers.trails);
  const links = useHeardLinks(layers.links);
  const maps = useMaps();
  const trackers = useTrackers();
  const view = useRef<ChartView | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const unit = useDistanceUnit();
  const device = useDevicePosition(({ position }) => position);
  const station = settings?.position ?? null;
  const own = device.state === 'known' ? device : station;

  const shownCalls = useMemo(() => new Set(stations.map(({ call }) => call)), [stations]);
  const shownTrails = useMemo(
    () => (trails.data ?? NONE).filter(({ call }) => shownCalls.has(call)),
    [trails.data, shownCalls],
  );
  const shownMaps = useMemo(
    () => (maps.data ?? NONE).filter(({ id, kind }) => kind !== 'heights' && !hiddenMaps.includes(id)),
    [maps.data, hiddenMaps],
  );
  // One that is on the air stands there as the object that it is.
  const shownTrackers = useMemo(
    () =>
      (trackers.data?.units ?? NONE).filter(
        ({ unit, bridged, stale }) => (!bridged || stale) && !unit.startsWith(NODE_UNIT),
      ),
    [trackers.data],
  );
  const asking = device.state === 'asking';
  const followed = useMemo(
    // While the device is asked nothing moves: the chart would jump twice.
    () => followedPoint(follow, asking ? null : own, stations),
    [follow, asking, own, stations],
  );
  const measure = (point: MapPoint) =>
    change({ measured: measured === null || measured.length >= 2 ? [point] : [...measured, point] });
  const ready = useCallback((made: ChartView) => {
    view.current = made;
  }, []);
  const mapTrouble = useCallback((name: string, reason: string) => setTrouble(`${name}: ${reason}`), []);
  useEffect(() => {
    if (follow === 'own') followDevice();
  }, [follow]);
  useEffect(() => leaveDevice, []);
  const followMe = () => {
    if (follow === 'own') leaveDevice();
    change({ follow: follow === 'own' ? null : 'own' });
  };
  const dragged = useCallback(() => {
    if (useChart.getState().follow !== null) useChart.getState().change({ follow: null });
  }, []);

  return (
    <MapFrame>
      <Suspense fallback={<Waiting what="the map" />}>
        <ChartMap
          look={look}
          stations={stations}
          trails={shownTrails}
          links={links.data ?? NONE}
          trackers={shownTrackers}
          own={own}
          kmPerUnit={kmOf(1, unit)}
          layers={layers}
          maps={shownMaps}
          mapUrl={mapApi.mapUrl}
          selected={selected}
          measured={measured}
          following={followed}
          onSelect={onSelect}
          onMeasure={measure}
          onDragged={dragged}
          onMapTrouble={mapTrouble}
          onReady={ready}
        />
      </Suspense>
      <MapTools label="Map tools">
        <MapTool name="plus" label="Nearer" onPress={() => view.current?.zoomBy(1)} />
        <MapTool name="minus" label="Farther" onPress={() => view.current?.zoomBy(-1)} />
        <MapTool name="arrow-expand-all" label="Show all" onPress={() => view.current?.showAll()} />
        <MapTool
          name="crosshairs-gps"
          label={follow === 'own' ? 'Stop following me' : 'Follow me'}
          pressed={follow === 'own'}
          onPress={followMe}
        />
        <MapTool
          name="ruler"
          label={measured === null ? 'Measure' : 'Stop measuring'}
          pressed={measured !== null}
          onPress={() => change({ measured: measured === null ? [] : null })}
        />
      </MapTools>
      {measured !== null ? (
        <OverMap>
          <MeasureWords points={measured} unit={unit} />
          <Row wrap gap={8}>
            <Button
              title="Add the middle of the map"
              kind="plain"
              onPress={() => view.current && measure(view.current.middle())}
            />
            {own ? <Button title="Add my position" kind="plain" onPress={() => measure(own)} /> : null}
            {measured.length === 1 && settings ? (
              <StationHere
                key={`${measured[0]!.latitude} ${measured[0]!.longitude}`}
                point={measured[0]!}
                settings={settings}
                title="Our station is there"
              />
            ) : null}
          </Row>
        </OverMap>
      ) : null}
      {follow === 'own' && measured === null ? (
        <OverMap>
          <FollowWords device={device} station={station !== null} unit={unit} />
          {settings ? <MovedWords device={device} settings={settings} unit={unit} /> : null}
        </OverMap>
      ) : null}
      {trouble ? (
        <OverMap>
          <Body tone="alarm">{`A map could not be drawn – ${trouble}`}</Body>
          <Button title="Close" kind="plain" onPress={() => setTrouble(null)} />
        </OverMap>
      ) : null}
    </MapFrame>
  );
}

const NONE: readonly never[] = [];
/** Nodes of the mesh are on the chart as what they are. */
const NODE_UNIT = 'mesh ';

function followedPoint(follow: string | null, own: MapPoint | null, stations: readonly StationView[]): MapPoint | null {
  if (follow === null) return null;
  if (follow === 'own') return own;
  const station = stations.find(({ call }) => call === follow);
  return station && station.latitude !== null && station.longitude !== null
    ? { latitude: station.latitude, longitude: station.longitude }
    : null;
}

/** Distance and bearing there and back, in words. */
export function measureWords(points: readonly MapPoint[], unit: DistanceUnit): string {
  const [from, to] = points;
  if (!from) return 'Tap where to measure from.';
  if (!to) return `From ${locatorOf(from)}. Tap where to measure to.`;
  const there = bearingBetween(from, to);
  const back = bearingBetween(to, from);
  const toward = (degrees: number) => `${Math.round(degrees)}° ${compassPoint(degrees)}`;
  return `${distanceInWords(there.distanceKm, unit)}, ${toward(there.azimuthDeg)} there, ${toward(back.azimuthDeg)} back (true north)`;
}

function MeasureWords({ points, unit }: { points: readonly MapPoint[]; unit: DistanceUnit }) {
  return <Mono bold>{measureWords(points, unit)}</Mono>;
}
