import { DateTime } from 'luxon';
import { age, localTime, utcAndLocal, utcSeconds, utcTime } from './time';
import { readUtc } from './typed-time';

describe('times', () => {
  const now = Date.parse('2026-11-25T14:05:30Z');
  it('are in UTC with a Z, with the day when it is another one', () => {
    expect(utcTime('2026-11-25T14:05:00Z', now)).toBe('14:05Z');
    expect(utcTime('2026-11-24T23:59:00Z', now)).toBe('24 Nov 23:59Z');
    expect(utcTime('2025-12-31T23:59:00Z', now)).toBe('31 Dec 2025 23:59Z');
    expect(utcSeconds('2026-11-25T14:05:09.500Z', now)).toBe('14:05:09Z');
    expect(utcSeconds('2026-11-24T14:05:09.500Z', now)).toBe('24 Nov 14:05:09Z');
    expect(utcSeconds('2003-02-01T14:05:09Z', now)).toBe('1 Feb 2003 14:05:09Z');
  });
  it('are as a general library writes them in the zone of the device (luxon)', () => {
    for (const iso of ['2026-11-24T23:59:05Z', '2026-07-01T00:00:00.250Z', '2003-02-28T12:00:00Z'])
      expect(localTime(iso, now)).toBe(
        DateTime.fromISO(iso, { locale: 'en-GB' }).toFormat(
          `d LLL ${iso.startsWith('2026') ? '' : 'yyyy '}HH:mm:ss ZZZZ`,
        ),
      );
  });
  it('have the clock of the device beside them where it is another', () => {
    const offset = jest.spyOn(Date.prototype, 'getTimezoneOffset').mockReturnValue(0);
    const clock = jest.spyOn(Date.prototype, 'toTimeString').mockReturnValue('00:59:00 GMT+0100 (CET)');
    expect(utcAndLocal('2026-11-24T23:59:00Z', now)).toBe('24 Nov 23:59Z');
    offset.mockReturnValue(-60);
    expect(utcAndLocal('2026-11-24T23:59:00Z', now)).toBe('24 Nov 23:59Z (00:59)');
    offset.mockRestore();
    clock.mockRestore();
  });
  it('never throw for what is no time', () => {
    for (const show of [utcTime, utcSeconds, utcAndLocal, localTime]) expect(show('soon', now)).toBe('no time');
  });
  it('tell the age in the largest whole unit, never below zero', () => {
    expect(age('2026-11-25T14:05:18Z', now)).toBe('12 s');
    expect(age('2026-11-25T14:01:00Z', now)).toBe('4 min');
    expect(age('2026-11-25T11:00:00Z', now)).toBe('3 h');
    expect(age('2026-11-22T14:05:30Z', now)).toBe('3 d');
    expect(age('2026-11-25T15:00:00Z', now)).toBe('0 s');
  });
  it.each([
    ['2026-11-24 23:59', false, '2026-11-24T23:59:00.000Z'],
    ['2026-11-24T23:59Z', false, '2026-11-24T23:59:00.000Z'],
    ['24 Nov 2026 23:59Z', false, '2026-11-24T23:59:00.000Z'],
    ['14:05', false, '2026-11-25T14:05:00.000Z'],
    ['2026-11-24', false, '2026-11-24T00:00:00.000Z'],
    ['2026-11-24', true, '2026-11-24T23:59:59.999Z'],
    ['', false, null],
    ['yesterday', false, null],
    ['2026-02-30', false, null],
    ['25:00', false, null],
  ])('reads %j', (text, end, iso) => expect(readUtc(text, now, end)).toBe(iso));
});
