import { across, AT_ONCE, expectedS } from '@tombolo/core';
import { beyondBoard, boardOf } from './beyond-board';

const NOW = Date.parse('2026-05-14T14:25:00Z');
const board = (forwards: { everyMin: number; fromMin: number | null } | null) => ({ call: 'QT1BB-4', forwards });
const arrivalOver = (forwards: Parameters<typeof board>[0], to = 'QT6CL@QT6BB-4') => {
  const { arrival, opensAt } = beyondBoard(to, board(forwards), NOW);
  return across(AT_ONCE, arrival, opensAt);
};

describe('from a board to whom a message is for', () => {
  it('is named the board behind the sign, without its regions', () => {
    expect(boardOf('QT6CL@QT6BB-4.#VEIL.SND')).toBe('QT6BB-4');
    expect(boardOf('QT6CL')).toBeNull();
    expect(boardOf('QT6CL@')).toBeNull();
  });

  it('nothing goes on where it is left at theirs, or where no board is named', () => {
    for (const to of ['QT6CL@QT1BB', 'QT6CL@QT1BB-4.#HOLLIN', 'QT6CL'])
      expect(beyondBoard(to, board({ everyMin: 20, fromMin: 0 }), NOW)).toMatchObject({
        words: 'On the board it waits until it is fetched: a guess of 70 of 100 within the day.',
      });
  });

  it('it waits for the next window, which is named, and may miss it', () => {
    const { words, opensAt, arrival } = beyondBoard('QT6CL@QT6BB-4', board({ everyMin: 20, fromMin: 10 }), NOW);
    expect(words).toMatch(
      /^QT1BB-4 forwards every 20 min, next at 14:30 UTC; that QT6BB-4 is among those it forwards to is taken for granted\./,
    );
    expect(opensAt!(0)).toBe(300);
    expect(opensAt!(301)).toBe(1500);
    // Of ten that would be fetched some are lost on the way between the boards.
    expect(arrival.chance).toBeCloseTo(0.95 * 0.7, 6);
  });

  it('it may wait for any part of the interval where no time is known, half of it on average', () => {
    const known = expectedS(arrivalOver({ everyMin: 240, fromMin: 14 * 60 + 25 }))!;
    const unknown = expectedS(arrivalOver({ everyMin: 240, fromMin: null }))!;
    expect(unknown - known).toBeCloseTo(120 * 60, -2);
    expect(beyondBoard('QT6CL@QT6BB-4', board({ everyMin: 240, fromMin: null }), NOW).opensAt).toBeUndefined();
  });

  it('the time is a guess where nobody noted how often it forwards, and that is said', () => {
    expect(beyondBoard('QT6CL@QT6BB-4', board(null), NOW).words).toMatch(
      /^When QT1BB-4 forwards to QT6BB-4 is not noted \(Bearers, Change\): the time is a guess\./,
    );
  });
});
