import type { Settings } from '@tombolo/contract';
import { bearingBetween, distanceInWords, type DistanceUnit } from '@tombolo/core';
import { useState } from 'react';
import { api } from '../../live/api';
import type { DevicePosition } from '../../live/device-position';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Stack } from '../../ui/layout';
import { Body } from '../../ui/text';
import type { MapPoint } from './chart-store';

/** Nearer than that it is the same place, as far as a typed position goes. */
const MOVED_KM = 0.3;

/** How far this device is from the place that was typed for the station, km; null while that may be the same place. */
export function movedKm(
  device: DevicePosition,
  settings: Pick<Settings, 'position' | 'positionSource'>,
): number | null {
  if (device.state !== 'known' || settings.position === null || settings.positionSource.by !== 'typed') return null;
  const { distanceKm } = bearingBetween(settings.position, device);
  return distanceKm > Math.max(MOVED_KM, device.accuracyM / 1000) ? distanceKm : null;
}

/** Reminds of a typed position that is left behind. */
export function MovedWords({
  device,
  settings,
  unit,
}: {
  device: DevicePosition;
  settings: Settings;
  unit: DistanceUnit;
}) {
  const km = movedKm(device, settings);
  // Once it was put right it can still be taken back.
  const [put, setPut] = useState(false);
  if ((km === null && !put) || device.state !== 'known') return null;
  return (
    <Stack gap={8}>
      {km === null ? null : (
        <Body
          bold
        >{`This device is ${distanceInWords(km, unit)} from the position that was typed for the station.`}</Body>
      )}
      <StationHere point={device} settings={settings} title="The station is here" onPut={setPut} />
    </Stack>
  );
}

/** Puts the station where somebody pointed to, and back again. */
export function StationHere({
  point,
  settings,
  title,
  onPut,
}: {
  point: MapPoint;
  settings: Settings;
  title: string;
  /** Told when it was put there, and when that was taken back. */
  onPut?: (put: boolean) => void;
}) {
  const [before, setBefore] = useState<{ readonly position: Settings['position'] } | null>(null);
  const change = useChange(
    (position: Settings['position']) => api.changeSettings({ position }),
    ['settings', 'position', 'stations'],
  );
  if (settings.positionSource.by !== 'typed') return null;
  const keep = (was: typeof before) => {
    setBefore(was);
    onPut?.(was !== null);
  };
  const put = () => {
    const { position } = settings;
    change.mutate({ latitude: point.latitude, longitude: point.longitude }, { onSuccess: () => keep({ position }) });
  };
  return (
    <Stack gap={4} align="start" aria-live="polite">
      {before ? (
        <>
          <Body>The station is there now.</Body>
          <Button
            title="Undo"
            icon="undo"
            kind="plain"
            busy={change.isPending}
            onPress={() => change.mutate(before.position, { onSuccess: () => keep(null) })}
          />
        </>
      ) : (
        <Button title={title} kind="plain" busy={change.isPending} onPress={put} />
      )}
      {change.isError ? <Body>{change.error.message}</Body> : null}
    </Stack>
  );
}
