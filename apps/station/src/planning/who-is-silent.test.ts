import { hoursListened, type LinkRow } from './link-rows';
import { silenceOf } from './who-is-silent';

const HOUR_MS = 3_600_000;
const OWN = 'QT2AR-7';
const DIGI = 'QT0TH-3';
const CLINIC = 'QT6CL';
/** Ten past the hour: what is told by hours must not rest on how they fall. */
const BEGAN_MS = 400_000 * HOUR_MS + 10 * 60_000;

/** Somebody who was heard by another every so many minutes, from `BEGAN_MS` on until so many hours later. */
function heardUntil(
  from: string,
  by: string,
  everyMin: number,
  untilH: number,
  andAtH: readonly number[] = [],
): LinkRow {
  const times: number[] = [];
  for (let atMs = BEGAN_MS; atMs <= BEGAN_MS + untilH * HOUR_MS; atMs += everyMin * 60_000) times.push(atMs);
  times.push(...andAtH.map((hours) => BEGAN_MS + hours * HOUR_MS));
  const hours: Record<string, readonly [number, number, number]> = {};
  for (const atMs of times) {
    const hour = Math.floor(atMs / HOUR_MS);
    hours[hour] = [(hours[hour]?.[0] ?? 0) + 1, 0, 0];
  }
  return {
    from_call: from,
    by_call: by,
    count: times.length,
    first_count: from === DIGI ? 0 : times.length,
    hours,
    first_at: new Date(BEGAN_MS),
    last_at: new Date(times.at(-1)!),
  };
}

/** Chance that the clinic is there, so many hours after all began. */
const thereAt = (rows: readonly LinkRow[], atH: number, sinceMs: number | null = BEGAN_MS) =>
  silenceOf(CLINIC, {
    own: OWN,
    rows,
    sinceMs,
    nowMs: BEGAN_MS + atH * HOUR_MS,
    anyHeard: hoursListened(rows, OWN),
  });

describe('whether somebody who is silent is still there', () => {
  const clinic = heardUntil(CLINIC, DIGI, 20, 12);

  it('is doubted when it misses its plan while the one over whom it is heard goes on', () => {
    const rows = [clinic, heardUntil(DIGI, OWN, 5, 20)];
    expect(thereAt(rows, 12.2)).toEqual({ chance: 1, words: null });
    expect(thereAt(rows, 13.5).chance).toBeLessThan(0.6);
    expect(thereAt(rows, 15).chance).toBeLessThan(0.05);
    expect(thereAt(rows, 15).words).toMatch(/^QT6CL was heard every \d+ min and is silent for 3 h: it may be off\.$/);
  });

  it('is not doubted for a silence in which that one was silent too, nor right after it came back', () => {
    expect(thereAt([clinic, heardUntil(DIGI, OWN, 5, 12)], 15)).toEqual({ chance: 1, words: null });
    expect(thereAt([clinic, heardUntil(DIGI, OWN, 5, 12, [15])], 15.01)).toEqual({ chance: 1, words: null });
    // Some hours later it is: since then something was missed.
    const back = Array.from({ length: 36 }, (_, n) => 15 + n / 12);
    expect(thereAt([clinic, heardUntil(DIGI, OWN, 5, 12, back)], 18).chance).toBeLessThan(0.2);
  });

  it('is doubted after long where it is heard too seldom to tell by the last hours, and not before something is missing', () => {
    // Of three it sends one is heard, at chance.
    const times = Array.from({ length: 120 }, (_, n) => n / 3).filter((_, n) => (n * n + 7 * n) % 11 < 4);
    const seldom = heardUntil(CLINIC, OWN, 1e6, 0, times);
    const lastH = times.at(-1)!;
    expect(times.filter((hour) => hour > lastH - 2).length).toBeLessThan(5);
    expect(thereAt([seldom], lastH + 0.5)).toEqual({ chance: 1, words: null });
    const later = [2, 6, 12, 20].map((hours) => thereAt([seldom], lastH + hours).chance);
    expect(later).toEqual([...later].sort((a, b) => b - a));
    expect(later[0]).toBeGreaterThan(0.5);
    expect(later[3]).toBeLessThan(0.2);
    expect(thereAt([seldom], lastH + 20).words).toMatch(
      /^QT6CL was heard about every 2 h while it was there, and is silent for 20 h: it may be off/,
    );
    // Once an hour at most tells no rate: it may be heard as often as that or more seldom.
    const once = heardUntil(CLINIC, OWN, 61, 40);
    expect(thereAt([once], 60).chance).toBe(1);
  });

  it('is doubted by our own ears alone where it is heard by us', () => {
    const straight = heardUntil(CLINIC, OWN, 20, 12);
    expect(thereAt([straight], 15).chance).toBeLessThan(0.05);
    expect(thereAt([straight], 15).words).toContain('or nothing is heard here any more');
    // Who did not listen cannot tell.
    expect(thereAt([straight], 15, null).chance).toBe(1);
    expect(thereAt([straight], 15, BEGAN_MS + 14.9 * HOUR_MS).chance).toBe(1);
  });

  it('is not doubted when nothing was ever heard of it, or in hours that make no sense', () => {
    expect(thereAt([], 15).chance).toBe(1);
    expect(thereAt([clinic], -3).chance).toBe(1);
    const { chance } = thereAt([{ ...clinic, hours: {} }], 15);
    expect(chance).toBe(1);
  });
});
