import { countHour, hoursAsJson, noHours } from './hour-counts';

/** The same kept plainly: every hour by itself, what is too old thrown away in the end. */
function plainly(heard: readonly (readonly [number, 'proved' | 'inferred' | 'missed'])[]): object {
  const hours: Record<number, [number, number, number]> = {};
  let newest = -Infinity;
  for (const [hour, sort] of heard) {
    newest = Math.max(newest, hour);
    for (const old of Object.keys(hours)) if (Number(old) <= newest - 48) delete hours[Number(old)];
    if (hour <= newest - 48) continue;
    const seen = (hours[hour] ??= [0, 0, 0]);
    seen[sort === 'proved' ? 0 : sort === 'inferred' ? 1 : 2]++;
  }
  return hours;
}
const counted = (heard: Parameters<typeof plainly>[0]): object => {
  const counts = noHours();
  for (const [hour, sort] of heard) countHour(counts, hour, sort);
  return JSON.parse(hoursAsJson(counts)) as object;
};

describe('hours of a link', () => {
  it('are none before it was heard', () => {
    expect(hoursAsJson(noHours())).toBe('{}');
  });

  it('are counted by sort, in whatever order they come, for two days from the newest back', () => {
    const heard = [
      [500, 'proved'],
      [500, 'proved'],
      [501, 'missed'],
      [460, 'inferred'],
      [452, 'proved'],
      [548, 'inferred'],
      [500, 'proved'],
      [501, 'missed'],
    ] as const;
    expect(counted(heard)).toEqual({ 501: [0, 0, 2], 548: [0, 1, 0] });
    expect(counted(heard.slice(0, 5))).toEqual({ 460: [0, 1, 0], 500: [2, 0, 0], 501: [0, 0, 1] });
  });

  it('come to the same as kept plainly, over many orders', () => {
    let state = 7;
    const next = (below: number) => (state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0) % below;
    for (let round = 0; round < 300; round++) {
      const heard = Array.from(
        { length: next(60) },
        () => [1000 + next(120), (['proved', 'inferred', 'missed'] as const)[next(3)]!] as const,
      );
      expect(counted(heard)).toEqual(plainly(heard));
    }
  });
});
