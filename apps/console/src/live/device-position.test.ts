import { fakeGeolocation } from '../testing/geolocation';
import { askDevice, followDevice, leaveDevice, useDevicePosition } from './device-position';

const position = () => useDevicePosition.getState().position;
let device: ReturnType<typeof fakeGeolocation>;
beforeEach(() => (device = fakeGeolocation()));
afterEach(() => {
  leaveDevice();
  device.remove();
});

describe('the position of this device', () => {
  it('is followed once, however often it is asked for, until it is left', () => {
    expect(position()).toEqual({ state: 'off' });
    followDevice();
    followDevice();
    expect(device.watchers).toBe(1);
    expect(position()).toEqual({ state: 'asking' });
    device.move(41.269, -43.285, 8, 1000);
    expect(position()).toEqual({ state: 'known', latitude: 41.269, longitude: -43.285, accuracyM: 8, atMs: 1000 });
    device.move(41.27, -43.28);
    expect(position()).toMatchObject({ latitude: 41.27 });
    leaveDevice();
    expect(device.watchers).toBe(0);
    expect(position()).toEqual({ state: 'off' });
  });

  it('stays the last one when the sky is covered, but not when the leave to know it is taken back', () => {
    followDevice();
    device.move(41.269, -43.285);
    device.fail(3);
    expect(position()).toMatchObject({ state: 'known', latitude: 41.269 });
    device.fail(1);
    expect(position()).toMatchObject({ state: 'unknown', reason: expect.stringContaining('Allow it') });
  });

  it.each([
    [1, 'may not tell'],
    [2, 'does not know'],
    [3, 'no position in 30 s'],
  ] as const)('that cannot be had, code %i, is told in words', async (code, words) => {
    followDevice();
    device.fail(code);
    expect(position()).toMatchObject({ state: 'unknown', reason: expect.stringContaining(words) });
    const asked = askDevice();
    device.fail(code);
    expect(await asked).toMatchObject({ state: 'unknown', reason: expect.stringContaining(words) });
  });

  it('is asked once for a form', async () => {
    const asked = askDevice();
    device.move(41.2, -43.4);
    expect(await asked).toMatchObject({ state: 'known', latitude: 41.2, longitude: -43.4 });
    expect(device.watchers).toBe(0);
    expect(position()).toEqual({ state: 'off' });
  });

  it('is kept from a page that is not secure, and a browser without any says so', async () => {
    device.remove();
    followDevice();
    expect(position()).toMatchObject({ state: 'unknown', reason: expect.stringContaining('https') });
    expect(await askDevice()).toMatchObject({ state: 'unknown' });
    device = fakeGeolocation();
    Object.defineProperty(globalThis, 'isSecureContext', { value: false, configurable: true });
    try {
      expect(await askDevice()).toMatchObject({ state: 'unknown', reason: expect.stringContaining('https') });
    } finally {
      Object.defineProperty(globalThis, 'isSecureContext', { value: undefined, configurable: true });
    }
  });
});
