import { beliefOf, meanOf } from './beta';
import { OUR_END, REPEATER_END, USUAL_END } from './map-belief';
import { seeded } from './seeded';
import { changedNet, chanceOfReaching, differenceOf, hangingIn, type Change, type Net } from './what-if';

const place = (n: number) => ({ latitude: 41 + n / 100, longitude: -43 });
const both = (from: string, to: string, chance: number) => [
  { from, to, belief: beliefOf(chance, 1e6) },
  { from: to, to: from, belief: beliefOf(chance, 1e6) },
];
/** We hear the hill and the mast; the clinic only the hill; the truck both; the farm nobody. */
const net: Net = {
  own: 'US',
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
});
