import { create } from 'zustand';

/** Where this device is, as its browser tells (W3C Geolocation); it stays in the browser. */
export type DevicePosition =
  | { readonly state: 'off' | 'asking' }
  | {
      readonly state: 'known';
      readonly latitude: number;
      readonly longitude: number;
      /** Radius of 95 % confidence, m. */
      readonly accuracyM: number;
      readonly atMs: number;
    }
  | { readonly state: 'unknown'; readonly reason: string };
export type KnownPosition = Extract<DevicePosition, { state: 'known' }>;

const OFF: DevicePosition = { state: 'off' };
export const useDevicePosition = create<{ readonly position: DevicePosition }>()(() => ({ position: OFF }));
const tell = (position: DevicePosition) => useDevicePosition.setState({ position });

/** A fix may take so long under open sky before the operator is told that there is none yet. */
const FIX_TIMEOUT_MS = 30_000;
const OPTIONS: PositionOptions = { enableHighAccuracy: true, timeout: FIX_TIMEOUT_MS, maximumAge: 5000 };

const known = ({ coords, timestamp }: GeolocationPosition): KnownPosition => ({
  state: 'known',
  latitude: coords.latitude,
  longitude: coords.longitude,
  accuracyM: coords.accuracy,
  atMs: timestamp,
});

function reasonOf(error: GeolocationPositionError): string {
  switch (error.code) {
    case error.PERMISSION_DENIED:
      return 'The browser may not tell where this device is. Allow it for this page in the browser.';
    case error.TIMEOUT:
      return `This device found no position in ${FIX_TIMEOUT_MS / 1000} s. Under open sky it may.`;
    default:
      return 'This device does not know where it is.';
  }
}

/** Null where the browser has no such thing, or keeps it from pages that are not secure. */
const geolocation = (): Geolocation | null =>
  globalThis.isSecureContext === false ? null : (globalThis.navigator?.geolocation ?? null);
const NONE =
  'The browser tells the position of this device only to pages over https, or of the machine that the station runs on.';

let watch: number | null = null;

/** Begins to follow this device; without effect while it is followed already. */
export function followDevice(): void {
  if (watch !== null) return;
  const source = geolocation();
  if (!source) return tell({ state: 'unknown', reason: NONE });
  tell({ state: 'asking' });
  watch = source.watchPosition(
    (position) => tell(known(position)),
    (error) => {
      // A place that was known stays, with its age: the last one is better than none.
      const { position } = useDevicePosition.getState();
      if (position.state !== 'known' || error.code === error.PERMISSION_DENIED)
        tell({ state: 'unknown', reason: reasonOf(error) });
    },
    OPTIONS,
  );
}

export function leaveDevice(): void {
  if (watch !== null) geolocation()?.clearWatch(watch);
  watch = null;
  tell(OFF);
}

/** Asks once where this device is; never rejects. */
export function askDevice(): Promise<Extract<DevicePosition, { state: 'known' | 'unknown' }>> {
  return new Promise((resolve) => {
    const source = geolocation();
    if (!source) return resolve({ state: 'unknown', reason: NONE });
    source.getCurrentPosition(
      (position) => resolve(known(position)),
      (error) => resolve({ state: 'unknown', reason: reasonOf(error) }),
      OPTIONS,
    );
  });
}
