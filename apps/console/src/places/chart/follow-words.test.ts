import { followWords } from './follow-words';

const here = { state: 'known', latitude: 41.269, longitude: -43.285, accuracyM: 12.4, atMs: 1_000_000 } as const;

describe('what the chart follows', () => {
  it('says where the device is, how sure and how old that is', () => {
    expect(followWords(here, true, 'km', 1_005_000)).toBe(
      'Following this device: GN81ig, within 12 m, 5 s ago. The list counts from the station.',
    );
    expect(followWords(here, true, 'mi', 1_185_000)).toContain('within 41 ft, 3 min ago');
  });
  it('says what it does without the device', () => {
    expect(followWords({ state: 'asking' }, true, 'km', 0)).toBe('Asking this device where it is …');
    expect(followWords({ state: 'unknown', reason: 'No fix.' }, true, 'km', 0)).toBe(
      'No fix. Following the position in the settings.',
    );
    expect(followWords({ state: 'unknown', reason: 'No fix.' }, false, 'km', 0)).toContain('nothing is followed');
  });
});
