import { textOfOctets } from '../octets';
import {
  byLine,
  encodeOwnBulletin,
  faultOfBulletin,
  habitOf,
  isBulletinOver,
  readGroup,
  type HeardLine,
} from './bulletin';
import { readBulletinLine } from './bulletin-line';
import { decodeMessage } from './message';

describe('bulletins and announcements', () => {
  it('are numbered as in the Protocol Reference 1.0.1, ch. 14', () => {
    // Its examples: BLN3, BLNQ and BLN4WX.
    expect(readBulletinLine('BLN3')).toEqual({ sort: 'bulletin', line: '3', group: null });
    expect(readBulletinLine('BLNQ')).toEqual({ sort: 'announcement', line: 'Q', group: null });
    expect(readBulletinLine('BLN4WX')).toEqual({ sort: 'bulletin', line: '4', group: 'WX' });
    expect(readBulletinLine('NWS-WARN')).toEqual({ sort: 'warning', line: 'WARN', group: null });
    expect(readBulletinLine('NWS')).toEqual({ sort: 'warning', line: 'NWS', group: null });
    for (const other of ['', 'BLN', 'QT1NC', 'NEWS@SOUND', 'BLN-1', 'BLN1TOOLONG'])
      expect(readBulletinLine(other)).toBeNull();
  });

  it('of ours come out as they were written', () => {
    const written = { line: '4', group: 'WX', text: 'Gale from the west by 1800Z' };
    const info = encodeOwnBulletin(written);
    expect(info.ok && textOfOctets(info.value)).toBe(':BLN4WX   :Gale from the west by 1800Z');
    const read = info.ok ? decodeMessage(info.value) : info;
    expect(read).toMatchObject({ ok: true, value: { kind: 'bulletin', id: '4', group: 'WX', text: written.text } });
    expect(encodeOwnBulletin({ ...written, group: '' })).toMatchObject({ ok: true });
  });

  it('that cannot go out say what is wrong, and where', () => {
    const right = { line: '1', group: '', text: 'x'.repeat(67) };
    expect(faultOfBulletin(right)).toBeNull();
    expect(faultOfBulletin({ ...right, line: 'a' })).toMatchObject({ field: 'line' });
    expect(faultOfBulletin({ ...right, line: '10' })).toMatchObject({ field: 'line' });
    expect(faultOfBulletin({ ...right, group: 'SOUNDS' })).toMatchObject({ field: 'group' });
    expect(faultOfBulletin({ ...right, group: 'wx' })).toMatchObject({ field: 'group' });
    expect(faultOfBulletin({ ...right, text: 'x'.repeat(68) })).toMatchObject({ field: 'text' });
    expect(faultOfBulletin({ ...right, text: 'a|b' })).toMatchObject({ field: 'text' });
    expect(readGroup(' wx ')).toEqual({ ok: true, value: 'WX' });
    expect(readGroup('no way').ok).toBe(false);
  });

  it('are told again by habit, and are over when they are not heard any more', () => {
    expect([habitOf('3'), habitOf('C')]).toEqual([
      { everyMin: 20, forH: 4 },
      { everyMin: 60, forH: 24 },
    ]);
    const hour = 3_600_000;
    expect([4, 4.1].map((h) => isBulletinOver('bulletin', 0, h * hour))).toEqual([false, true]);
    expect([47, 49].map((h) => isBulletinOver('announcement', 0, h * hour))).toEqual([false, true]);
  });

  it('stand in the order in which they are read', () => {
    const line = (name: string, more: Partial<HeardLine>) => ({
      name,
      sort: 'bulletin' as const,
      line: '1',
      group: null,
      lastAtMs: 7_200_000,
      over: false,
      distanceKm: 10,
      ...more,
    });
    const all = [
      line('over', { over: true, line: '0' }),
      line('announcement', { sort: 'announcement', line: 'A' }),
      line('second', { line: '2' }),
      line('far', { distanceKm: 90 }),
      line('nowhere', { distanceKm: null }),
      line('old', { lastAtMs: 0, distanceKm: 1 }),
      line('near', {}),
      line('warning', { sort: 'warning', line: 'WARN' }),
    ];
    expect([...all].sort(byLine).map(({ name }) => name)).toEqual([
      'warning',
      'near',
      'far',
      'nowhere',
      'old',
      'second',
      'announcement',
      'over',
    ]);
  });
});
