import { locatorOf, metresInWords, type DistanceUnit } from '@tombolo/core';
import type { DevicePosition } from '../../live/device-position';
import { useNow } from '../../ui/clock';
import { Body } from '../../ui/text';
import { age } from '../../ui/time';

/** What the chart follows when it follows the operator, and how sure that is; it says so when it is not this device. */
export function followWords(device: DevicePosition, hasStation: boolean, unit: DistanceUnit, now: number): string {
  switch (device.state) {
    case 'known':
      return `Following this device: ${locatorOf(device)}, within ${metresInWords(device.accuracyM, unit)}, ${age(new Date(device.atMs).toISOString(), now)} ago. The list counts from the station.`;
    case 'unknown':
      return `${device.reason} ${hasStation ? 'Following the position in the settings.' : 'There is no position in the settings either: nothing is followed.'}`;
    default:
      return 'Asking this device where it is …';
  }
}

export function FollowWords(props: { device: DevicePosition; station: boolean; unit: DistanceUnit }) {
  const now = useNow(1000);
  return <Body>{followWords(props.device, props.station, props.unit, now)}</Body>;
}
