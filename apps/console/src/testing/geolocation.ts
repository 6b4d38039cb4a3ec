/** Stands in for the browser's Geolocation: the test moves the device, or lets it fail with a code of the standard. */
export function fakeGeolocation() {
  const watchers = new Map<number, { moved: PositionCallback; failed: PositionErrorCallback | null | undefined }>();
  let asked: { moved: PositionCallback; failed: PositionErrorCallback | null | undefined }[] = [];
  let next = 1;
  const source: Geolocation = {
    watchPosition(moved, failed) {
      watchers.set(next, { moved, failed });
      return next++;
    },
    clearWatch: (id) => void watchers.delete(id),
    getCurrentPosition: (moved, failed) => void asked.push({ moved, failed }),
  };
  Object.defineProperty(globalThis.navigator, 'geolocation', { value: source, configurable: true });
  const listeners = () => {
    const all = [...watchers.values(), ...asked];
    asked = [];
    return all;
  };
  return {
    get watchers() {
      return watchers.size;
    },
    move(latitude: number, longitude: number, accuracy = 12, timestamp = Date.now()) {
      const coords = { latitude, longitude, accuracy } as GeolocationCoordinates;
      for (const { moved } of listeners()) moved({ coords, timestamp } as GeolocationPosition);
    },
    /** 1 permission denied, 2 position unavailable, 3 timeout (W3C Geolocation §3.6). */
    fail(code: 1 | 2 | 3) {
      const error = { code, message: '', PERMISSION_DENIED: 1, POSITION_UNAVAILABLE: 2, TIMEOUT: 3 } as const;
      for (const { failed } of listeners()) failed?.(error);
    },
    remove: () => void delete (globalThis.navigator as { geolocation?: Geolocation }).geolocation,
  };
}
