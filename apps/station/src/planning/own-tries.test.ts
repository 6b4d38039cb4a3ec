import { firstIdAt } from '../store/moments';
import { NO_TRIES, triesIn, triesKey, type Habit, type TriedRow } from './own-tries';

const HOUR_MS = 3_600_000;
const NOW_MS = Date.parse('2026-11-26T12:00:00Z');
/** Heard every quarter of an hour, evenly. */
const STEADY: Habit = { count: 8, overS: 7200, bursts: 1, leavesAnHour: 0 };

/** Sent three times so many hours ago, and heard of them so long before and after. */
const tried = (agoH: number, { answered = false, beforeH = 0.1, afterH = 0.1 } = {}): TriedRow => {
  const atMs = NOW_MS - agoH * HOUR_MS;
  const idAfter = (hours: number) => (Number.isFinite(hours) ? firstIdAt(atMs + hours * HOUR_MS) : null);
  return {
    to_call: 'QT6CL',
    node: null,
    path: [],
    created_at: new Date(atMs),
    sent: 3,
    last: new Date(atMs + 60_000),
    answered,
    heard_before: idAfter(-beforeH),
    heard_after: idAfter(afterH),
  };
};
const came = (rows: readonly TriedRow[], habit: Habit) =>
  triesIn(rows, ['QT6CL'], NOW_MS, habit).get(triesKey('QT6CL', [])) ?? NO_TRIES;

describe('what came of our own tries', () => {
  it('weighs the full while they were heard, and little in a silence of somebody who is heard steadily', () => {
    const there = came([tried(2)], STEADY);
    const away = came([tried(2, { beforeH: 1.5, afterH: 1.5 })], STEADY);
    expect([there.unanswered, there.inSilence, away.unanswered, away.inSilence]).toEqual([3, 0, 3, 3]);
    expect(away.weight.unanswered).toBeLessThan(0.1 * there.weight.unanswered);
    expect(away.lasting.unanswered).toBeLessThan(0.1 * there.lasting.unanswered);
  });

  it('takes nobody for away of whom no habit is known, nor for an answer', () => {
    const silent = { beforeH: Infinity, afterH: Infinity };
    expect(came([tried(2, silent)], null)).toEqual(came([tried(2)], null));
    const long = { beforeH: 1.5, afterH: 1.5 };
    expect(came([tried(2, long)], { ...STEADY!, count: 2 })).toEqual(came([tried(2)], null));
    expect(came([tried(2, { ...silent, answered: true })], STEADY)).toMatchObject({
      answered: 1,
      unanswered: 2,
      inSilence: 0,
    });
    // Nothing was heard for hours on either side.
    expect(came([tried(20, silent)], STEADY).inSilence).toBe(3);
    // What is not over yet tells by itself: they may be away now, or not answer.
    const now = came([tried(2, { beforeH: 0.5, afterH: Infinity })], STEADY);
    expect(now.lasting.unanswered).toBe(0);
    expect(now.sinceHeard).toBeCloseTo(came([tried(2)], STEADY).lasting.unanswered, 6);
    // And it is no long silence yet where it was sent a moment after they were heard.
    expect(came([tried(0.1, { beforeH: 0.05, afterH: Infinity })], STEADY).inSilence).toBe(0);
  });

  it('holds nothing against somebody that was not answered before they answered, by whatever path', () => {
    const byPath = (row: TriedRow, path: string[]): TriedRow => ({ ...row, path });
    const after = (rows: readonly TriedRow[]) => triesIn(rows, ['QT6CL'], NOW_MS, STEADY);
    const long = after([tried(9), byPath(tried(8), ['WIDE1-1']), tried(5, { answered: true }), tried(2)]);
    const direct = long.get(triesKey('QT6CL', []))!;
    const over = long.get(triesKey('QT6CL', ['WIDE1-1']))!;
    // Of all of them it is told, and the way is judged by all; whether they answer by those since alone.
    expect([direct.answered, direct.unanswered, over.unanswered]).toEqual([1, 8, 3]);
    expect(over.weight.unanswered).toBeGreaterThan(0);
    expect(over.lasting.unanswered).toBe(0);
    expect(direct.lasting.unanswered).toBeCloseTo(came([tried(2)], STEADY).lasting.unanswered, 9);
    expect(direct.lasting.answered).toBeGreaterThan(0.9);
    // What somebody else answered says nothing of them.
    const other = { ...tried(5, { answered: true }), to_call: 'QT1NC' };
    expect(after([tried(9), other]).get(triesKey('QT6CL', []))!.lasting.unanswered).toBeGreaterThan(2);
  });
});
