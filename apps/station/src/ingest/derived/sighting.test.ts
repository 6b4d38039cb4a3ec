import { decodeInformation, octetsOfText, type HeardPath, type Information } from '@tombolo/core';
import { sight, sightObject, sightRelay, type Sighting } from './sighting';
import type { StationState } from './station-state';

const START = Date.UTC(2026, 10, 25, 12);
const path = (more: Partial<HeardPath> = {}): HeardPath => ({
  how: 'direct',
  via: [],
  unnamedHops: 0,
  unused: [],
  gate: null,
  heardFrom: 'QT1AA',
  hops: [],
  heardFromCertain: true,
  firstHearer: null,
  ...more,
});
const RELAYED = path({ how: 'relayed', via: ['QT0TH-3'], heardFrom: 'QT0TH-3' });

function read(text: string): Information {
  const data = decodeInformation(octetsOfText(text), 'APRS');
  if (!data.ok) throw new Error(data.error.reason);
  return data.value;
}
const sighting = (minutes: number, text: string | null, more: Partial<Sighting> = {}): Sighting => ({
  atMs: START + minutes * 60_000,
  path: path(),
  words: 'heard direct',
  bearerId: 'radio',
  information: text === null ? null : read(text),
  source: 'QT1AA',
  isNewPacket: true,
  ...more,
});
const fold = (...sightings: Sighting[]): StationState =>
  sightings.reduce<StationState | null>((state, one) => sight(state, 'QT1AA', one).state, null)!;

describe('what is known of a station', () => {
  it('is told by the most direct copy inside the window, else by the newest', () => {
    const first = sighting(0, '>a', { path: RELAYED, words: 'heard via QT0TH-3' });
    const copy = sighting(0.2, '>a', { isNewPacket: false });
    expect(fold(first, copy)).toMatchObject({ how: 'direct', packets: 1 });
    expect(fold(copy, { ...first, isNewPacket: false })).toMatchObject({ how: 'direct' });
    expect(fold(copy, { ...first, atMs: first.atMs + 120_000 })).toMatchObject({
      how: 'relayed',
      directAtMs: copy.atMs,
    });
  });
  it('counts packets, not copies, and keeps every link that brought one', () => {
    const state = fold(
      sighting(0, '>a'),
      sighting(0, '>a', { isNewPacket: false, bearerId: 'feed' }),
      sighting(5, '>b'),
    );
    expect(state).toMatchObject({ packets: 2, bearers: ['radio', 'feed'], status: 'b' });
  });
  it('is not overwritten by the past', () => {
    const state = fold(sighting(60, '!4112.00N/04324.00W>now'), sighting(0, '!4100.00N/04300.00W>then'));
    expect(state).toMatchObject({ comment: 'now', firstAtMs: START, lastAtMs: START + 3_600_000 });
    expect(state.latitude).toBeCloseTo(41.2, 6);
    const { point } = sight(state, 'QT1AA', sighting(30, '!4100.00N/04300.00W>between'));
    expect(point).toMatchObject({ fault: null, latitude: 41 });
  });
  it('takes messages when it says so, or sends one', () => {
    expect(fold(sighting(0, '=4112.00N/04324.00W>')).messaging).toBe(true);
    expect(fold(sighting(0, '!4112.00N/04324.00W>')).messaging).toBe(false);
    expect(fold(sighting(0, '!4112.00N/04324.00W>'), sighting(1, ':QT1NC    :Hi{1')).messaging).toBe(true);
    expect(fold(sighting(0, null)).messaging).toBeNull();
  });
  it('keeps its frequency while later packets do not name another', () => {
    const state = fold(sighting(0, '!4112.00N/04324.00Wr146.520MHz'), sighting(5, '!4112.00N/04324.00WrQuiet'));
    expect(state).toMatchObject({ frequency: { frequencyMHz: 146.52 }, comment: 'Quiet' });
  });
  it('lets aircraft move as aircraft do', () => {
    const far = '!4212.00N/04324.00W';
    const steps = (code: string) => [sighting(0, `!4112.00N/04324.00W${code}`), sighting(8, `${far}${code}`)] as const;
    expect(fold(...steps('>')).doubt).not.toBeNull();
    expect(fold(...steps('^')).doubt).toBeNull();
  });
});

describe('a digipeater known from paths', () => {
  it('is there, in direct range when its own transmission was heard', () => {
    const packet = sighting(0, '>a', { path: RELAYED });
    expect(sightRelay(null, 'QT0TH-3', packet)).toMatchObject({
      how: 'direct',
      relaysAtMs: START,
      directAtMs: START,
      packets: 0,
    });
    const further = path({ how: 'relayed', via: ['QT0TH-3', 'QT0BR-1'], heardFrom: 'QT0BR-1' });
    expect(sightRelay(null, 'QT0TH-3', { ...packet, path: further })).toMatchObject({
      how: 'relayed',
      directAtMs: null,
    });
  });
  it('keeps how it was heard itself', () => {
    const own = sight(null, 'QT0TH-3', sighting(0, '>digi', { source: 'QT0TH-3' })).state;
    const after = sightRelay(own, 'QT0TH-3', sighting(5, '>a', { path: RELAYED }));
    expect(after).toMatchObject({ words: 'heard direct', status: 'digi', relaysAtMs: START + 300_000 });
  });
});

describe('an object', () => {
  type Report = Extract<Information, { kind: 'object' | 'item' }>;
  const report = (minutes: number, source: string, text: string): [Report, Sighting] => [
    read(text) as Report,
    sighting(minutes, text, { source }),
  ];
  const foldObject = (...reports: [Report, Sighting][]): StationState =>
    reports.reduce<StationState | null>(
      (state, [data, one]) => sightObject(state, `;${data.name}`, data, one).state,
      null,
    )!;
  const live = ';RAMP     *251200z4112.00N/04324.00Wr';
  const gone = ';RAMP     _251200z4112.00N/04324.00Wr';

  it('is taken off by its owner and comes back when it reports it again', () => {
    expect(foldObject(report(0, 'A', live), report(5, 'A', gone))).toMatchObject({
      live: false,
      owner: 'A',
      conflict: null,
    });
    expect(foldObject(report(0, 'A', live), report(5, 'A', gone), report(9, 'A', live))).toMatchObject({ live: true });
  });
  it('may be taken up by anybody after it was taken off, without a remark', () => {
    expect(foldObject(report(0, 'A', live), report(5, 'A', gone), report(9, 'B', live))).toMatchObject({
      live: true,
      owner: 'B',
      conflict: null,
    });
  });
  it('stays when a stranger says that it is gone, and a late report of the past changes nothing', () => {
    const state = foldObject(report(0, 'A', live), report(5, 'B', gone));
    expect(state).toMatchObject({ live: true, owner: 'A', conflict: expect.stringContaining('B says') });
    expect(foldObject(report(5, 'A', live), report(0, 'A', gone))).toMatchObject({ live: true });
  });
});
