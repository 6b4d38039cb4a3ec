import { draftOf } from './draft';
import { unheard } from './sighting';
import type { StationState } from './station-state';

const KEPT: StationState = {
  ...(JSON.parse(JSON.stringify(unheard('QT1AA', 'station', 'QT1AA', null))) as StationState),
  firstAtMs: 1_764_000_000_123,
  lastAtMs: 1_764_000_000_456,
  howAtMs: 1_764_000_000_456,
  latitude: 41.203_333_333_333_34,
  longitude: -43.4,
  courseDeg: 0,
  bearers: ['radio'],
  doubt: { atMs: 5, latitude: 41, longitude: -43 },
};

describe('a state that is folded', () => {
  it('is stored as it was read', () => {
    expect(JSON.parse(JSON.stringify(draftOf(KEPT)))).toEqual(KEPT);
  });

  it('takes numbers, nothing, and numbers again, and leaves alone what it was made of', () => {
    const draft = draftOf(KEPT);
    draft.courseDeg = null;
    draft.altitudeM = 0;
    draft.statusAtMs = 1_764_000_000_789;
    expect(draft).toMatchObject({ courseDeg: null, altitudeM: 0, statusAtMs: 1_764_000_000_789, speedKnots: null });
    draft.altitudeM = null;
    draft.courseDeg = 360;
    expect(JSON.parse(JSON.stringify(draft))).toEqual({ ...KEPT, courseDeg: 360, statusAtMs: 1_764_000_000_789 });
    expect(KEPT.courseDeg).toBe(0);
  });

  it('of an older version knows nothing of what that one did not keep', () => {
    const { relaysAtMs: _, ...older } = KEPT;
    expect(draftOf(older as StationState).relaysAtMs).toBeNull();
  });
});
