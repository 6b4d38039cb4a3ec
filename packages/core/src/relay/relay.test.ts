import { checkRelay, looksEncrypted, withinHours, MOST_RELAYS_TO_TARGET, type RelayCheck } from './guards';

const plain: RelayCheck = {
  toAmateurBand: true,
  target: 'TELTXT',
  text: 'When does the ferry run again?',
  senderLicensed: false,
  undecipherable: false,
  trace: ['a1b2c3d4'],
  passedTo: [],
  recentToTarget: 0,
  released: true,
};

describe('the guards of the relay desk', () => {
  it('let a released item go', () => {
    expect(checkRelay(plain)).toEqual({ allowed: true });
  });
  it('hold third-party traffic into an amateur band until it is released, and not elsewhere', () => {
    expect(checkRelay({ ...plain, released: false })).toMatchObject({ allowed: false, rule: 'release' });
    expect(checkRelay({ ...plain, released: false, senderLicensed: true })).toEqual({ allowed: true });
    expect(checkRelay({ ...plain, released: false, toAmateurBand: false, target: 'b' })).toEqual({
      allowed: true,
    });
  });
  it('stop loops, second relays to the same place, and floods', () => {
    expect(checkRelay({ ...plain, toAmateurBand: false, target: 'A1B2C3D4' })).toMatchObject({ rule: 'loop' });
    expect(checkRelay({ ...plain, passedTo: ['TELTXT'] })).toMatchObject({ rule: 'again' });
    expect(checkRelay({ ...plain, recentToTarget: MOST_RELAYS_TO_TARGET })).toMatchObject({ rule: 'flood' });
    expect(checkRelay({ ...plain, recentToTarget: MOST_RELAYS_TO_TARGET - 1 })).toEqual({ allowed: true });
  });
  it('keep what is encrypted off amateur bands, released or not', () => {
    expect(checkRelay({ ...plain, text: '-----BEGIN PGP MESSAGE-----' })).toMatchObject({ rule: 'encrypted' });
    expect(checkRelay({ ...plain, undecipherable: true })).toMatchObject({ rule: 'encrypted' });
  });
  it('tell noise from words', () => {
    expect(looksEncrypted('k3Jd0qVXh2YpTz8mWcR5nLb7FsA1uEoG9iKtQxZv4HyDwPaS')).toBe(true);
    expect(looksEncrypted('8f14e45fceea167a5a36dedd4bea2543e99a18c428cb38d5f260853678922e03')).toBe(true);
    for (const words of [
      'Insulin for two patients lasts until tomorrow noon, please send the lifeboat',
      'Llanfairpwllgwyngyllgogerychwyrndrobwllllantysiliogogogoch',
      'https://example/forms/damage-report-for-the-sound',
      '====================================================',
    ])
      expect({ words, encrypted: looksEncrypted(words) }).toEqual({ words, encrypted: false });
  });
  it('keep hours in UTC, over midnight too', () => {
    const day = { from: '06:00', until: '22:00' };
    expect(withinHours(day, '2026-11-25T06:00:00.000Z')).toBe(true);
    expect(withinHours(day, '2026-11-25T22:00:00.000Z')).toBe(false);
    const night = { from: '22:00', until: '06:00' };
    expect(withinHours(night, '2026-11-25T23:10:00.000Z')).toBe(true);
    expect(withinHours(night, '2026-11-25T12:00:00.000Z')).toBe(false);
  });
});
