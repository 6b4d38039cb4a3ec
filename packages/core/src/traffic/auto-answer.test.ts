import { isPerson, isWithinHours, looksAutomatic, minutesOfDay } from './auto-answer';

describe('an answer that goes out by itself', () => {
  it('goes to no automaton, and to nothing that asks no person', () => {
    for (const text of [
      'AA: away',
      'Auto: your text came',
      'auto-reply: back soon',
      'AUTOMATIC ANSWER: x',
      'Away: x',
      '?APRSP',
      'ack',
      'QSL',
      ' ',
    ])
      expect([text, looksAutomatic(text)]).toEqual([text, true]);
    for (const text of [
      'Autumn meeting on Sunday?',
      'Are you there?',
      'automatic gate is stuck',
      'Aaron is here',
      'Q?',
    ])
      expect([text, looksAutomatic(text)]).toEqual([text, false]);
    expect(['QT1NC', 'QT1NC-9', 'TELTXT', 'BLN1', 'NWS-WARN', 'SOUNDNET', ''].map(isPerson)).toEqual([
      true,
      true,
      false,
      false,
      false,
      false,
      false,
    ]);
  });

  it('keeps its hours, over midnight as well', () => {
    const at = (time: string) => Date.parse(`2026-11-25T${time}:00Z`);
    const within = (from: string, to: string, time: string) =>
      isWithinHours(minutesOfDay(from)!, minutesOfDay(to)!, at(time));
    expect(['21:59', '22:00', '00:30', '05:59', '06:00'].map((time) => within('22:00', '06:00', time))).toEqual([
      false,
      true,
      true,
      true,
      false,
    ]);
    expect(['08:59', '09:00', '16:59', '17:00'].map((time) => within('09:00', '17:00', time))).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(within('00:00', '00:00', '12:00')).toBe(true);
    expect(['24:00', '7', '12:60', 'noon', ''].map(minutesOfDay)).toEqual([null, null, null, null, null]);
    expect(['7:05', '0705', ' 23:59 '].map(minutesOfDay)).toEqual([425, 425, 1439]);
  });
});
