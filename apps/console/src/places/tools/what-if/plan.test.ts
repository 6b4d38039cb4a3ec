import { REPEATER_END, USUAL_END, type Change } from '@tombolo/core';
import { labelIn, netWords } from './net-words';
import { addedAt, changeWords, planOf, planText, withChange } from './plan';

const HERE = { latitude: 41.2425, longitude: -43.456 };
const off: Change = { what: 'off', call: 'QT0TH-3' };
const radio: Change = {
  what: 'radio',
  frequencyHz: 869_525_000,
  spreadingFactor: 12,
  bandwidthHz: 125_000,
  powerW: null,
};
const added = (plan: readonly Change[], at = HERE) => addedAt(plan, at, REPEATER_END);
const moved: Change = { what: 'changed', call: 'QT0TH-3', place: HERE, end: USUAL_END };
const cut: Change = { what: 'cut', from: 'QT1NC', to: 'QT0BR-1' };

describe('a plan', () => {
  it('stands in an address and comes back from it', () => {
    const plan: Change[] = [
      off,
      cut,
      added([]),
      { what: 'path', mostRepeats: 0 },
      radio,
      { what: 'off', call: '01D1-0003' },
    ];
    expect(planOf(planText(plan))).toEqual(plan);
    expect(planText([])).toBe('');
    expect(planOf('')).toEqual([]);
  });

  it('that was tampered with is none', () => {
    for (const text of [
      'x',
      '{}',
      '[{"what":"off"}]',
      '[{"what":"off","call":"<b>"}]',
      '[{"what":"path","mostRepeats":16}]',
      '[{"what":"path","mostRepeats":1.5}]',
      JSON.stringify([{ ...radio, frequencyHz: 145_000_000 }]),
      JSON.stringify([{ ...radio, spreadingFactor: 13 }]),
      JSON.stringify([{ ...radio, powerW: 1e6 }]),
      '[{"what":"boom","call":"QT1NC"}]',
      '[{"what":"added","call":"QT1NC","place":{"latitude":1,"longitude":1},"end":{"antennaM":1,"powerW":1,"gainDbi":1,"clutterDb":1}}]',
      '[{"what":"added","call":"NEW-1","place":{"latitude":91,"longitude":1},"end":{"antennaM":1,"powerW":1,"gainDbi":1,"clutterDb":1}}]',
      '[{"what":"added","call":"NEW-1","place":{"latitude":1,"longitude":1},"end":{"antennaM":1,"powerW":1e9,"gainDbi":1,"clutterDb":1}}]',
      JSON.stringify(Array(13).fill(off)),
    ])
      expect(planOf(text)).toEqual([]);
  });

  it('says one thing of each: the later word holds, in whichever order two are named', () => {
    expect(withChange([off, cut], moved)).toEqual([cut, moved]);
    expect(withChange([cut], { what: 'cut', from: 'QT0BR-1', to: 'QT1NC' })).toHaveLength(1);
    expect(withChange([off], cut)).toEqual([off, cut]);
    const path = (mostRepeats: 0 | 1): Change => ({ what: 'path', mostRepeats });
    expect(withChange([path(0), off], path(1))).toEqual([off, path(1)]);
  });

  it('names each digipeater more by the first name that is free', () => {
    const one = added([]);
    const two = added([one]);
    expect([one, two].map((more) => 'call' in more && more.call)).toEqual(['NEW-1', 'NEW-2']);
    expect(added([two])).toMatchObject({ call: 'NEW-1', end: REPEATER_END });
  });

  it('is told in words, of a mesh by what its nodes are called', () => {
    const path = (mostRepeats: number): Change => ({ what: 'path', mostRepeats });
    const words = (changes: readonly Change[], bearerId: string | null) =>
      changes.map((one) => changeWords(one, labelIn({ stations }), netWords({ bearerId })));
    const stations = [
      {
        call: '01D1-0003',
        label: 'BCNRIG',
        name: null,
        place: null,
        repeats: true,
        wanted: true,
        end: REPEATER_END,
      },
    ];
    expect(words([off, cut, moved, added([], { latitude: -1, longitude: 2 }), path(1), path(0)], null)).toEqual([
      'QT0TH-3 is off',
      'QT1NC and QT0BR-1 do not hear each other',
      'QT0TH-3 stands at 41.2425° N 43.4560° W, antenna 8 m above the ground, 10 W',
      'NEW-1, a digipeater more, at 1.0000° S 2.0000° E, antenna 10 m above the ground, 25 W',
      'Your path asks for one digipeater alone',
      'Your path asks for no digipeater',
    ]);
    expect(
      words([{ what: 'off', call: '01D1-0003' }, radio, { ...radio, powerW: 0.5 }, path(1), path(6)], 'mesh'),
    ).toEqual([
      'BCNRIG is off',
      'All nodes at 869.525 MHz, spreading factor 12, 125 kHz',
      'All nodes at 869.525 MHz, spreading factor 12, 125 kHz, 0.5 W',
      'What you send may be repeated once',
      'What you send may be repeated up to 6 times',
    ]);
  });
});
