import { PACKET_SETTINGS, type Reach } from '@tombolo/core';
import { heardStation } from '../../../testing/samples';
import { END_FIELDS, endOf, numberOf, placeOf } from './ends';
import { decibels, groundWords, settingLines, verdictOf } from './words';

const reach = (more: Partial<Reach> = {}): Reach => ({
  distanceKm: 12,
  freeSpaceDb: 97,
  groundDb: 0,
  receivedDbm: -90,
  backDbm: -95,
  worst: { distanceKm: 5, aboveM: -100, zoneM: 80 },
  known: 1,
  ...more,
});

describe('the words of a reckoning', () => {
  it('say whether the ground stands in the way, and never more than is known of it', () => {
    expect(groundWords(reach(), 'km')).toBe('The way is clear; the ground comes nearest 5.0 km from the start.');
    expect(groundWords(reach({ worst: { distanceKm: 5, aboveM: -20, zoneM: 80 }, groundDb: 3.4 }), 'km')).toBe(
      'The two see each other, but the ground comes close 5.0 km from the start: 25 % of the first Fresnel zone is free, and 60 % should be. It costs 3 dB.',
    );
    expect(groundWords(reach({ worst: { distanceKm: 5, aboveM: 30, zoneM: 80 }, groundDb: 21 }), 'km')).toMatch(
      /^The ground stands 30 m above the straight line 5\.0 km from the start, and costs 21 dB\.$/,
    );
    expect(groundWords(reach({ known: 0.25 }), 'km')).toMatch(
      /For 75 % of the way no elevation is known: it was taken as sea\.$/,
    );
    expect(groundWords(reach({ known: 0 }), 'km')).toMatch(/^No elevation is known here/);
  });

  it('judge each setting by what it has in hand', () => {
    expect([25, 10, 9.9, 0, -0.1, -9.9, -10].map(verdictOf)).toEqual([
      'bears it',
      'bears it',
      'mostly',
      'mostly',
      'now and then',
      'now and then',
      'hardly',
    ]);
    const lines = settingLines(PACKET_SETTINGS, -110);
    expect(lines.map(({ setting, marginDb, verdict }) => [setting.id, marginDb, verdict])).toEqual([
      ['1200', 6, 'mostly'],
      ['9600', -2, 'now and then'],
    ]);
    // A reckoning promises neither all nor nothing.
    expect([-300, 300].flatMap((dbm) => settingLines(PACKET_SETTINGS, dbm).map(({ percent }) => percent))).toEqual([
      1, 1, 99, 99,
    ]);
    expect([decibels(-82.4), decibels(-0.2), decibels(24.66, 1)]).toEqual(['−82', '0', '24.7']);
  });
});

describe('an end', () => {
  it('is a station that told where it is, or a position in any form', () => {
    const stations = [
      heardStation({ call: 'QT0TH-3', latitude: 41.2425, longitude: -43.456 }),
      heardStation({ call: 'QT9XX', latitude: null, longitude: null }),
    ];
    expect(placeOf(' qt0th-3', stations)).toEqual({ words: 'QT0TH-3', latitude: 41.2425, longitude: -43.456 });
    expect(placeOf('41,2425; -43,456', stations)).toMatchObject({ latitude: 41.2425, longitude: -43.456 });
    expect(placeOf('QT9XX', stations)).toBe('QT9XX has not told where it is');
    expect(placeOf('QT8YY', stations)).toMatch(/no station QT8YY was heard/);
    expect(placeOf(' ', stations)).toMatch(/^a call sign/);
  });

  it('has numbers that can be, typed with a point or a comma', () => {
    expect(endOf({ antennaM: '6,5', powerW: '25', gainDbi: '-3', clutterDb: '0' })).toEqual({
      antennaM: 6.5,
      powerW: 25,
      gainDbi: -3,
      clutterDb: 0,
    });
    for (const { id } of END_FIELDS) {
      const typed = { antennaM: '6', powerW: '25', gainDbi: '2', clutterDb: '0' };
      for (const wrong of ['', 'x', '1e9', '-1000', 'NaN', '∞']) expect(endOf({ ...typed, [id]: wrong })).toBeNull();
    }
    expect(numberOf('0', 0.001, 2000)).toBe('a number from 0.001 to 2000');
  });
});
