import { beliefOf } from './beta';
import { OUR_END, PACKET_NEEDS_DBM, REPEATER_END, USUAL_END } from './map-belief';
import type { Net } from './net';
import { greedily, placeRepeaters, type Placement } from './placement';
import { seeded } from './seeded';

const done = (search: Generator<number, readonly Placement[]>) => {
  const steps: number[] = [];
  for (let step = search.next(); ; step = search.next()) {
    if (step.done) return { steps, places: step.value };
    steps.push(step.value);
  }
};
const at = (latitude: number) => ({ latitude, longitude: 0 });

describe('where one more would help', () => {
  const net: Net = {
    own: 'US',
    radio: { frequencyMHz: 145, needsDbm: PACKET_NEEDS_DBM },
    stations: [
      { call: 'US', place: at(0), repeats: false, end: OUR_END },
      { call: 'NEAR', place: at(1), repeats: false, end: USUAL_END },
      { call: 'FAR', place: at(10), repeats: false, end: USUAL_END },
      { call: 'FARTHER', place: at(11), repeats: false, end: USUAL_END },
      { call: 'NOWHERE', place: null, repeats: false, end: USUAL_END },
    ],
    hops: [{ from: 'US', to: 'NEAR', belief: beliefOf(0.99, 1e6) }],
  };
  const asked = {
    net,
    targets: ['NEAR', 'FAR', 'FARTHER', 'NOWHERE'],
    candidates: [at(0.5), at(5.5), at(10.5), at(40)],
    end: REPEATER_END,
    // Six degrees are reached surely, seven hardly.
    marginOver: (from: { place: { latitude: number } }, to: { place: { latitude: number } }) =>
      Math.abs(from.place.latitude - to.place.latitude) <= 6 ? 30 : -30,
    random: seeded(1),
  };

  it('is between those who are not reached and us, not beside who is reached already', () => {
    const { steps, places } = done(placeRepeaters(asked, 1));
    expect(steps).toEqual([1, 2, 3, 4]);
    expect(places).toEqual([{ candidate: 1, place: at(5.5), gain: expect.closeTo(2 * 0.81 + 0.01 * 0.81, 2) }]);
  });

  it('is nowhere where nothing is gained, or nobody is asked for, and with no place to stand', () => {
    expect(done(placeRepeaters({ ...asked, candidates: [at(40)] }, 2)).places).toEqual([]);
    expect(done(placeRepeaters({ ...asked, targets: ['NEAR'] }, 2)).places).toEqual([]);
    expect(done(placeRepeaters({ ...asked, candidates: [] }, 2)).places).toEqual([]);
  });

  it('goes on by one that repeats already, as the second of two', () => {
    const withHill: Net = {
      ...net,
      stations: [...net.stations, { call: 'HILL', place: at(5), repeats: true, end: USUAL_END }],
      hops: [...net.hops, { from: 'US', to: 'HILL', belief: beliefOf(0.9, 1e6) }],
    };
    const { places } = done(placeRepeaters({ ...asked, net: withHill, candidates: [at(10.5)] }, 1));
    // Straight it is not heard from us; over the hill 0.9 · 0.9, and on to both.
    expect(places[0]!.gain).toBeCloseTo(2 * 0.9 * 0.9 * 0.9, 2);
    // Where our path asks for one alone, the second does nothing; where it asks for none, no place helps.
    const byOne = { ...withHill, mostRepeats: 1 };
    expect(done(placeRepeaters({ ...asked, net: byOne, candidates: [at(10.5)] }, 1)).places).toEqual([]);
    expect(done(placeRepeaters({ ...asked, net: { ...net, mostRepeats: 1 } }, 1)).places).toHaveLength(1);
    expect(done(placeRepeaters({ ...asked, net: { ...net, mostRepeats: 0 } }, 1)).places).toEqual([]);
  });

  it('goes on by several that repeat already, as many as what is sent may be repeated by', () => {
    const hill = (call: string, latitude: number) => ({ call, place: at(latitude), repeats: true, end: USUAL_END });
    const chain: Net = {
      ...net,
      stations: [...net.stations, hill('HILL', 2), hill('RIDGE', 5)],
      hops: [
        ...net.hops,
        { from: 'US', to: 'HILL', belief: beliefOf(0.9, 1e6) },
        { from: 'HILL', to: 'RIDGE', belief: beliefOf(0.8, 1e6) },
      ],
    };
    const gain = (mostRepeats: number) =>
      done(placeRepeaters({ ...asked, net: { ...chain, mostRepeats }, candidates: [at(10.5)] }, 1)).places;
    expect(gain(2)).toEqual([]);
    // Over both, and by the one more to each of the two.
    expect(gain(3)[0]!.gain).toBeCloseTo(2 * 0.9 * 0.8 * 0.9 * 0.9, 1);
  });
});

describe('a greedy choice', () => {
  /** What a set of helpers is worth: reached in expectation beyond those that are reached without. */
  const worth = (chosen: readonly Float64Array[], missing: Float64Array) =>
    missing.reduce(
      (sum, left, n) => sum + left * (1 - chosen.reduce((none, chances) => none * (1 - chances[n]!), 1)),
      0,
    );

  it('comes within 1 − 1/e of the best of all choices, on 500 random ones, and is the best of one', () => {
    const random = seeded(7);
    let worst = 1;
    for (let round = 0; round < 500; round++) {
      const targets = 3 + Math.floor(random() * 5);
      const bringing = Array.from({ length: 8 }, (_, candidate) => ({
        candidate,
        chances: Float64Array.from({ length: targets }, () => (random() < 0.4 ? random() : 0)),
      }));
      const missing = Float64Array.from({ length: targets }, () => random());
      for (const count of [1, 2, 3]) {
        const chosen = greedily(bringing, missing, count);
        const got = worth(
          chosen.map(({ candidate }) => bringing[candidate]!.chances),
          missing,
        );
        expect(chosen.reduce((sum, { gain }) => sum + gain, 0)).toBeCloseTo(got, 9);
        let best = 0;
        for (let set = 0; set < 256; set++) {
          const some = bringing.filter(({ candidate }) => set & (1 << candidate));
          if (some.length <= count)
            best = Math.max(
              best,
              worth(
                some.map(({ chances }) => chances),
                missing,
              ),
            );
        }
        // What is not worth a mast is left, so that a little may be missing.
        if (best < 0.2) continue;
        if (count === 1) expect(got).toBeCloseTo(best, 9);
        worst = Math.min(worst, got / best);
      }
    }
    expect(worst).toBeGreaterThan(1 - 1 / Math.E);
  });

  it('takes nobody twice, and stops where nothing more is gained', () => {
    const one = { candidate: 0, chances: Float64Array.of(1, 0) };
    expect(greedily([one, { candidate: 1, chances: Float64Array.of(0.5, 0) }], Float64Array.of(1, 1), 3)).toEqual([
      { candidate: 0, gain: 1 },
    ]);
  });
});
