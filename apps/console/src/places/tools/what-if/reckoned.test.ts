import { CARRIER_END, MESH_END, OUR_END, REPEATER_END, USUAL_END } from '@tombolo/core';
import type { NetView } from '@tombolo/contract';
import { reckoned, type WhatIfAsked, type WhatIfTold } from './reckoned';

const AREA = { south: 41, north: 41.4, west: -43.6, east: -43.2, columns: 81, rows: 81 };
/** An island around the middle, 120 m high; sea about it. */
const ground = {
  area: AREA,
  heights: Buffer.from(
    Int16Array.from({ length: 81 * 81 }, (_, n) => (Math.hypot(Math.floor(n / 81) - 40, (n % 81) - 40) < 8 ? 120 : 0))
      .buffer,
  ).toString('base64'),
};
const station = (
  call: string,
  latitude: number,
  longitude: number,
  more: Partial<NetView['stations'][number]> = {},
) => ({
  call,
  label: call,
  name: null,
  place: { latitude, longitude },
  repeats: false,
  wanted: true,
  end: USUAL_END,
  ...more,
});
const sure = { alpha: 95, beta: 5 };
const both = (from: string, to: string) => [
  { from, to, belief: sure, seen: true },
  { from: to, to: from, belief: sure, seen: true },
];
const net: NetView = {
  at: '2026-01-01T00:00:00.000Z',
  own: 'QT2AR-7',
  bearerId: null,
  mesh: null,
  mostRepeats: 2,
  addedEnd: REPEATER_END,
  stations: [
    station('QT2AR-7', 41.02, -43.58, { wanted: false, end: OUR_END }),
    station('QT0TH-3', 41.2, -43.4, { repeats: true, wanted: false }),
    station('QT6CL', 41.38, -43.22),
    station('QT1NC', 41.03, -43.56),
  ],
  hops: [...both('QT2AR-7', 'QT0TH-3'), ...both('QT0TH-3', 'QT6CL'), ...both('QT2AR-7', 'QT1NC')],
  silences: [],
};
const told = (asked: Partial<WhatIfAsked> = {}) => [
  ...reckoned({ net, ground, changes: [], more: 0, beside: [], ...asked }),
];
const outcome = (all: readonly WhatIfTold[]) => all[0]!.outcome;
const of = (all: readonly WhatIfTold[], call: string) => outcome(all).rows.find((row) => row.call === call)!;

describe('what if', () => {
  it('tells everybody’s chance, and on whom they hang, before anything is changed', () => {
    const all = told();
    expect(all.map(({ what }) => what)).toEqual(['outcome']);
    expect(
      outcome(all)
        .rows.map(({ call }) => call)
        .sort(),
    ).toEqual(['QT1NC', 'QT6CL']);
    expect(of(all, 'QT6CL')).toMatchObject({ before: expect.closeTo(0.9, 1), verdict: 'as before' });
    expect(outcome(all).hanging).toEqual([{ without: 'QT0TH-3', cutOff: ['QT6CL'] }]);
  });

  it('tells who is cut off without the digipeater, the worst first, and the same each time', () => {
    const all = told({ changes: [{ what: 'off', call: 'QT0TH-3' }] });
    expect(outcome(all).rows.map(({ call, verdict }) => [call, verdict])).toEqual([
      ['QT6CL', 'cut off'],
      ['QT1NC', 'as before'],
    ]);
    expect(told({ changes: [{ what: 'off', call: 'QT0TH-3' }] })).toEqual(all);
  });

  it('reckons other plans beside it, each as it would be told alone', () => {
    const off = [{ what: 'off' as const, call: 'QT0TH-3' }];
    const all = told({ beside: [[], off] });
    expect(all.map((one) => one.outcome.beside.length)).toEqual([0, 1, 2]);
    const [asItIs, without] = all.at(-1)!.outcome.beside;
    expect(asItIs!.rows).toEqual(outcome(all).rows);
    expect(without!.rows).toEqual(outcome(told({ changes: off })).rows);
    expect(without!.hanging).toEqual(outcome(told({ changes: off })).hanging);
  });

  it('finds the place where one more brings them back, on land, with its progress, and there they are reached', () => {
    const changes = [{ what: 'off' as const, call: 'QT0TH-3' }];
    const all = told({ changes, more: 1 });
    const found = all.at(-1) as Extract<WhatIfTold, { what: 'found' }>;
    expect(all.filter(({ what }) => what === 'progress').length).toBeGreaterThan(5);
    expect(found.what).toBe('found');
    expect(found.places).toHaveLength(1);
    const [best] = found.places;
    expect(best!.heightM).toBeGreaterThan(0);
    expect(best!.gain).toBeGreaterThan(0.3);
    const with1 = told({
      changes: [
        ...changes,
        {
          what: 'added',
          call: 'NEW-1',
          place: best!.place,
          end: { antennaM: 10, powerW: 25, gainDbi: 3, clutterDb: 0 },
        },
      ],
    });
    expect(of(with1, 'QT6CL').after).toBeCloseTo(best!.gain, 1);
  });

  it('goes without a map: nothing is found, what was heard still counts', () => {
    const all = told({ ground: null, more: 2, changes: [{ what: 'off', call: 'QT0TH-3' }] });
    expect(all.map(({ what }) => what)).toEqual(['outcome']);
    expect(of(all, 'QT6CL').verdict).toBe('cut off');
  });

  it('finds nothing on the sea, and nobody in a net of nobody', () => {
    const sea = { area: AREA, heights: Buffer.from(new Int16Array(81 * 81).buffer).toString('base64') };
    expect(told({ ground: sea, more: 1 }).at(-1)).toMatchObject({ what: 'found', places: [], of: 0 });
    const nobody = { ...net, stations: net.stations.slice(0, 1), hops: [] };
    expect(told({ net: nobody, more: 1 }).at(-1)).toMatchObject({ what: 'found', places: [], outcome: { rows: [] } });
  });

  it('reckons a mesh at its own frequency and setting, over as many hops as its limit gives', () => {
    const node = (call: string, latitude: number, longitude: number, wanted = true) =>
      station(call, latitude, longitude, { label: `N${call.slice(-1)}`, repeats: true, wanted, end: MESH_END });
    const mesh: NetView = {
      ...net,
      own: '01D1-0001',
      bearerId: 'mesh',
      mesh: { frequencyHz: 868_300_000, spreadingFactor: 7, bandwidthHz: 125_000, codingRate: 1 },
      mostRepeats: 4,
      addedEnd: CARRIER_END,
      stations: [
        node('01D1-0001', 41.02, -43.58, false),
        node('01D1-0002', 41.1, -43.5),
        node('01D1-0003', 41.2, -43.4),
        node('01D1-0004', 41.3, -43.3),
        node('01D1-0005', 41.32, -43.28),
      ],
      hops: [...both('01D1-0001', '01D1-0002'), ...both('01D1-0002', '01D1-0003'), ...both('01D1-0003', '01D1-0004')],
    };
    const after = (changes: WhatIfAsked['changes']) =>
      new Map(outcome(told({ net: mesh, changes })).rows.map(({ call, after: chance }) => [call.slice(-1), chance]));
    expect(after([]).get('4')).toBeCloseTo(0.95 ** 3, 1);
    expect(after([]).get('5')).toBe(0);
    expect(after([{ what: 'path', mostRepeats: 1 }]).get('4')).toBe(0);
    expect(after([{ what: 'path', mostRepeats: 1 }]).get('3')).toBeCloseTo(0.95 ** 2, 1);
    expect(outcome(told({ net: mesh })).hanging.map(({ without, cutOff }) => [without, cutOff.length])).toEqual([
      ['01D1-0002', 2],
      ['01D1-0003', 1],
    ]);
    // What never was heard comes in by the map where the setting bears it.
    const far = { what: 'radio' as const, frequencyHz: 868_300_000, bandwidthHz: 125_000, powerW: 0.5 };
    const slow = after([{ ...far, spreadingFactor: 12 }]);
    expect(slow.get('5')).toBeGreaterThan(after([{ ...far, spreadingFactor: 7, powerW: 0.1 }]).get('5')!);
    expect(slow.get('5')).toBeGreaterThan(0.5);
    expect(told({ net: mesh, more: 1 }).at(-1)!.what).toBe('found');
  });
});
