import { beliefOf, meanOf } from './beta';
import { CARRIER_END, MESH_END, OUR_END, PACKET_NEEDS_DBM, REPEATER_END, USUAL_END } from './map-belief';
import { netRadioOf, type MarginOver, type Net } from './net';
import { seeded } from './seeded';
import { changedNet, chanceOfReaching, chancesOfReaching, differenceOf, hangingIn, type Change } from './what-if';

const place = (n: number) => ({ latitude: 41 + n / 100, longitude: -43 });
const both = (from: string, to: string, chance: number) => [
  { from, to, belief: beliefOf(chance, 1e6) },
  { from: to, to: from, belief: beliefOf(chance, 1e6) },
];
/** We hear the hill and the mast; the clinic only the hill; the truck both; the farm nobody. */
const net: Net = {
  own: 'US',
  radio: { frequencyMHz: 145, needsDbm: PACKET_NEEDS_DBM },
  stations: [
    { call: 'US', place: place(0), repeats: false, end: OUR_END },
    { call: 'HILL', place: place(1), repeats: true, end: USUAL_END },
    { call: 'MAST', place: place(2), repeats: true, end: USUAL_END },
    { call: 'CLINIC', place: place(3), repeats: false, end: USUAL_END },
    { call: 'TRUCK', place: place(4), repeats: false, end: USUAL_END },
    { call: 'FARM', place: place(9), repeats: false, end: USUAL_END },
  ],
  hops: [
    ...both('US', 'HILL', 0.8),
    ...both('US', 'MAST', 0.5),
    ...both('HILL', 'CLINIC', 0.9),
    ...both('HILL', 'TRUCK', 0.9),
    ...both('MAST', 'TRUCK', 0.9),
  ],
};
/** Ten decibels for each hundredth of a degree, from 30 in hand. */
const marginOver = (from: { place: { latitude: number } }, to: { place: { latitude: number } }) =>
  30 - 1000 * Math.abs(from.place.latitude - to.place.latitude);
const thought = (...changes: Change[]) => changedNet(net, changes, marginOver);
const chance = (of: Net, to: string) => chanceOfReaching(of, to, seeded(1));

describe('a net thought otherwise', () => {
  it('is as it was without a change, and reckoned as by hand', () => {
    expect(thought()).toBe(net);
    expect(chance(net, 'CLINIC')).toBeCloseTo(0.8 * 0.9, 2);
    // Two that repeat, independent of each other; the truck repeats nothing.
    expect(chance(net, 'TRUCK')).toBeCloseTo(1 - (1 - 0.8 * 0.9) * (1 - 0.5 * 0.9), 2);
    expect(chance(net, 'FARM')).toBe(0);
    expect(chance(net, 'NOBODY')).toBe(0);
  });

  it('loses what hung on a station that is off, and keeps what did not', () => {
    const without = thought({ what: 'off', call: 'HILL' });
    expect(chance(without, 'CLINIC')).toBe(0);
    expect(chance(without, 'TRUCK')).toBeCloseTo(0.5 * 0.9, 2);
    expect(chance(thought({ what: 'off', call: 'NOBODY' }), 'CLINIC')).toBe(chance(net, 'CLINIC'));
    // What is said of one who is off afterwards changes nothing.
    expect(thought({ what: 'off', call: 'HILL' }, { what: 'cut', from: 'HILL', to: 'US' }).hops).toEqual(without.hops);
  });

  it('reckons several at once as each by itself, with few that repeat and with many', () => {
    const third = { call: 'TOWER', place: place(5), repeats: true, end: USUAL_END };
    const many: Net = {
      ...net,
      stations: [...net.stations, third],
      hops: [...net.hops, ...both('US', 'TOWER', 0.4), ...both('TOWER', 'TRUCK', 0.6)],
    };
    for (const one of [net, many]) {
      const chances = chancesOfReaching(one, ['CLINIC', 'TRUCK', 'FARM'], () => seeded(1));
      // Within four standard errors of what is sampled.
      for (const to of ['CLINIC', 'TRUCK', 'FARM', 'NOBODY'])
        expect(Math.abs(chances(to) - chance(one, to))).toBeLessThan(0.032);
    }
  });

  it('reaches by fewer digipeaters whom fewer do, and nobody else', () => {
    const chain: Net = {
      ...net,
      hops: [...both('US', 'HILL', 0.8), ...both('HILL', 'MAST', 0.9), ...both('MAST', 'TRUCK', 0.9)],
    };
    const by = (mostRepeats: 0 | 1, of: Net = chain) => changedNet(of, [{ what: 'path', mostRepeats }], marginOver);
    expect(chance(chain, 'TRUCK')).toBeCloseTo(0.8 * 0.9 * 0.9, 2);
    expect(chance(by(1), 'TRUCK')).toBe(0);
    expect(chance(by(1), 'MAST')).toBeCloseTo(0.8 * 0.9, 2);
    expect(chance(by(0), 'MAST')).toBe(0);
    expect(chance(by(0), 'HILL')).toBeCloseTo(0.8, 2);
    // With the direct way of the other net one is enough.
    expect(chance(by(1, net), 'TRUCK')).toBeCloseTo(chance(net, 'TRUCK'), 2);
  });

  it('loses one link in both directions, and no other', () => {
    const cut = thought({ what: 'cut', from: 'CLINIC', to: 'HILL' });
    expect(cut.hops).toHaveLength(net.hops.length - 2);
    expect(chance(cut, 'CLINIC')).toBe(0);
    expect(chance(cut, 'TRUCK')).toBeCloseTo(chance(net, 'TRUCK'), 9);
  });

  it('takes nothing that was heard of a station that moved, and asks the map', () => {
    const moved = thought({ what: 'changed', call: 'FARM', place: place(2.1), end: USUAL_END });
    const hop = moved.hops.find(({ from, to }) => from === 'MAST' && to === 'FARM')!;
    expect(meanOf(hop.belief)).toBeCloseTo(0.9, 2);
    expect(hop.belief.alpha + hop.belief.beta).toBeCloseTo(2, 9);
    expect(chance(moved, 'FARM')).toBeGreaterThan(0.5);
    // Two that do not repeat carry nothing for each other.
    expect(moved.hops.some(({ from, to }) => from === 'FARM' && to === 'CLINIC')).toBe(false);
    const away = thought({ what: 'changed', call: 'HILL', place: place(50), end: USUAL_END });
    expect(chance(away, 'CLINIC')).toBe(0);
  });

  it('gains by one more that repeats, whom the map lets hear', () => {
    const added = thought({ what: 'added', call: 'NEW-1', place: place(6), end: REPEATER_END });
    // That is too far from us; the clinic, which repeats nothing, is no help.
    expect(chance(added, 'FARM')).toBeLessThan(0.05);
    const two = thought(
      { what: 'added', call: 'NEW-1', place: place(6), end: REPEATER_END },
      { what: 'added', call: 'NEW-2', place: place(3), end: REPEATER_END },
    );
    expect(chance(two, 'FARM')).toBeGreaterThan(0.08);
  });

  it('tells who is cut off, worse, better and reached anew, and what is not worth a word', () => {
    const verdict = (before: number, after: number) => differenceOf('X', before, after).verdict;
    expect([
      verdict(0.8, 0.01),
      verdict(0.8, 0.5),
      verdict(0.8, 0.79),
      verdict(0.5, 0.8),
      verdict(0.01, 0.8),
      verdict(0.01, 0.02),
    ]).toEqual(['cut off', 'worse', 'as before', 'better', 'reached anew', 'not reached']);
    expect(differenceOf('X', 0.8, 0, [{ what: 'off', call: 'X' }]).verdict).toBe('off');
    expect(differenceOf('X', 0.8, 0, [{ what: 'off', call: 'Y' }]).verdict).toBe('cut off');
  });

  it('tells on whom it hangs: a weak tie, or one that goes one way only, holds nothing', () => {
    expect(hangingIn(net)).toEqual([{ without: 'HILL', cutOff: ['CLINIC'] }]);
    const weak = {
      ...net,
      hops: [...net.hops, ...both('MAST', 'CLINIC', 0.1), { from: 'MAST', to: 'CLINIC', belief: beliefOf(0.9, 5) }],
    };
    expect(hangingIn(weak)).toEqual([{ without: 'HILL', cutOff: ['CLINIC'] }]);
    expect(hangingIn({ ...net, hops: [...net.hops, ...both('MAST', 'CLINIC', 0.5)] })).toEqual([]);
  });

  it('keeps a cut link cut, whatever is thought of its ends afterwards', () => {
    const moved: Change = { what: 'changed', call: 'TRUCK', place: place(2.1), end: USUAL_END };
    const cut: Change = { what: 'cut', from: 'MAST', to: 'TRUCK' };
    for (const plan of [
      [cut, moved],
      [moved, cut],
    ])
      expect(thought(...plan).hops.some(({ from, to }) => from === 'MAST' && to === 'TRUCK')).toBe(false);
  });
});

describe('a mesh that is set otherwise', () => {
  const now = { frequencyHz: 868_300_000, spreadingFactor: 9, bandwidthHz: 125_000 };
  const needs = netRadioOf(now).needsDbm;
  /** So many decibels in hand by place at the setting as it is, ten for each hundredth of a degree. */
  const overAir: MarginOver = (from, to, { needsDbm, frequencyMHz }) =>
    30 -
    1000 * Math.abs(from.place.latitude - to.place.latitude) +
    10 * Math.log10(from.end.powerW / MESH_END.powerW) +
    (needs - needsDbm) -
    20 * Math.log10(frequencyMHz / 868.3);
  const mesh: Net = {
    own: 'US',
    radio: netRadioOf(now),
    mostRepeats: 4,
    stations: [
      { call: 'US', place: place(0), repeats: true, end: MESH_END },
      { call: 'ROOF', place: place(3), repeats: true, end: CARRIER_END },
      { call: 'FARM', place: place(7), repeats: true, end: MESH_END },
      { call: 'NEAR', place: place(0.5), repeats: true, end: MESH_END },
      { call: 'LOST', place: null, repeats: true, end: MESH_END },
    ],
    // As well as the map says; where nobody told a place; and what is missed though the map says nine of ten.
    hops: [...both('US', 'ROOF', 0.5), ...both('ROOF', 'LOST', 0.5), ...both('US', 'NEAR', 0.1)],
  };
  const set = (more: Partial<typeof now & { powerW: number | null }>) =>
    changedNet(mesh, [{ what: 'radio', ...now, powerW: null, ...more }], overAir);
  const hop = (of: Net, from: string, to: string) => of.hops.find((one) => one.from === from && one.to === to);

  it('is the same where nothing is otherwise', () => {
    const same = set({});
    for (const { from, to, belief } of mesh.hops) {
      expect(meanOf(hop(same, from, to)!.belief)).toBeCloseTo(meanOf(belief), 9);
    }
  });

  it('reaches further where a receiver needs less, and links come in that there were none', () => {
    // Three steps of spreading factor are 7.5 dB by the table of least signals: SF9 −12.5, SF12 −20.
    expect(netRadioOf({ ...now, spreadingFactor: 12 }).needsDbm - needs).toBeCloseTo(-7.5, 9);
    const slow = set({ spreadingFactor: 12 });
    // Half at no margin; the logistic with the slope of 6 dB of scatter.
    const slope = (6 * Math.sqrt(3)) / Math.PI;
    expect(meanOf(hop(slow, 'US', 'ROOF')!.belief)).toBeCloseTo(1 / (1 + Math.exp(-7.5 / slope)), 6);
    // Where nobody told a place, as far as the setting itself goes.
    expect(meanOf(hop(slow, 'ROOF', 'LOST')!.belief)).toBeCloseTo(1 / (1 + Math.exp(-7.5 / slope)), 6);
    expect(hop(mesh, 'ROOF', 'FARM')).toBeUndefined();
    expect(meanOf(hop(slow, 'ROOF', 'FARM')!.belief)).toBeGreaterThan(0.2);
    expect(chance(slow, 'FARM')).toBeGreaterThan(0.1);
    expect(chance(set({ bandwidthHz: 500_000 }), 'ROOF')).toBeLessThan(0.3);
    // What is missed all the same may be blocked: it is no better for that.
    expect(meanOf(hop(slow, 'US', 'NEAR')!.belief)).toBeCloseTo(0.1, 2);
  });

  it('knows by how much a band and a power are better', () => {
    // Twice the frequency is 6.02 dB more in free space; ten times the power 10 dB.
    const mean = (of: Net) => meanOf(hop(of, 'ROOF', 'LOST')!.belief);
    const db = (p: number) => (Math.log(p / (1 - p)) * (6 * Math.sqrt(3))) / Math.PI;
    expect(db(mean(set({ frequencyHz: 434_150_000 })))).toBeCloseTo(6.02, 1);
    expect(db(mean(set({ powerW: 1 })))).toBeCloseTo(10, 1);
    expect(set({ powerW: 1 }).stations.every(({ end }) => end.powerW === 1)).toBe(true);
    // What was known stays as sure as it was.
    const { alpha, beta } = hop(set({ powerW: 1 }), 'US', 'ROOF')!.belief;
    expect(alpha + beta).toBeCloseTo(1e6, 0);
  });

  it('does not bring back what is cut', () => {
    const cut: Change = { what: 'cut', from: 'FARM', to: 'ROOF' };
    const slow: Change = { what: 'radio', ...now, spreadingFactor: 12, powerW: null };
    expect(hop(changedNet(mesh, [cut, slow], overAir), 'ROOF', 'FARM')).toBeUndefined();
  });
});
