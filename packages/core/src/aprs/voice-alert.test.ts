import { inDirectRange, voiceAlertCall } from './voice-alert';

describe('direct-range calling', () => {
  it('lists who was heard direct within the hour and may sit there, the nearest first', () => {
    const now = 10_000_000;
    const station = (call: string, directAtMs: number | null, distanceKm: number | null, attended = true) => ({
      call,
      directAtMs,
      distanceKm,
      attended,
    });
    const all = [
      station('FAR', now - 1000, 20),
      station('OLD', now - 3_600_001, 1),
      station('NEAR', now - 3_600_000, 2),
      station('NEVER', null, 1),
      station('DIGI', now, 1, false),
      station('UNKNOWN', now, null),
    ];
    expect(inDirectRange(all, now).map(({ call }) => call)).toEqual(['NEAR', 'FAR', 'UNKNOWN']);
    expect(voiceAlertCall('QT2AR-7', 146.52)).toBe('QT2AR-7, voice alert, listening on 146.520');
  });
});
