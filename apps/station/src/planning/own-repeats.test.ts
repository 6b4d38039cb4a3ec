import { beliefOf, meanOf } from '@tombolo/core';
import type { Hop } from './hops';
import { hopsFor, repeatsIn, type RepeatedRow } from './own-repeats';

const NOW = Date.parse('2026-05-14T12:00:00Z');
const sent = (first: string, by: readonly string[] = []) => ({ first, at: new Date(NOW - 60_000), by });

describe('what became of our own packets at their first hop', () => {
  it('tells of what an element asks for, however often it may be repeated', () => {
    const { sent: asked, repeated } = repeatsIn(
      [sent('WIDE2-2', ['QT0TH-3']), sent('WIDE2-1'), sent('WIDE1-1', ['QT0BR-1', 'QT0TH-3'])],
      NOW,
    );
    expect([...asked].map(([element, { count }]) => [element, count])).toEqual([
      ['WIDE2', 2],
      ['WIDE1', 1],
    ]);
    expect([...repeated.keys()]).toEqual(['WIDE2/QT0TH-3', 'WIDE1/QT0BR-1', 'WIDE1/QT0TH-3']);
  });

  it('keeps apart those that are asked by name', () => {
    expect([...repeatsIn([sent('QT0BR-1'), sent('QT0BR-2')], NOW).sent.keys()]).toEqual(['QT0BR-1', 'QT0BR-2']);
  });
});

describe('our own first hop', () => {
  const rests = { ours: null } as unknown as Hop['rests'];
  const hops = ['QT0TH-3', 'QT0BR-1'].flatMap((digipeater): Hop[] => [
    { from: 'QT2AR-7', to: digipeater, belief: beliefOf(0.7, 4), rests },
    { from: digipeater, to: 'QT2AR-7', belief: beliefOf(0.95, 20), rests },
  ]);
  const over = (first: string, to: string, rows: readonly RepeatedRow[]) => {
    const known = hopsFor({ hops, repeaters: ['QT0TH-3', 'QT0BR-1'] }, 'QT2AR-7', first, repeatsIn(rows, NOW));
    const hop = known.find((one) => one.to === to)!;
    return { chance: meanOf(hop.belief), ours: hop.rests.ours };
  };
  const times = (n: number, first: string, by: readonly string[] = []) =>
    Array.from({ length: n }, () => sent(first, by));

  it('is what is believed of it while nothing of ours was sent, or by a path that nothing tells of', () => {
    expect(over('WIDE1-1', 'QT0TH-3', []).chance).toBeCloseTo(0.7, 9);
    expect(over('QT0BR-1', 'QT0TH-3', times(5, 'WIDE1-1'))).toMatchObject({ ours: null });
  });

  it('is never thought to be surer by what fewer serve', () => {
    const silent = times(8, 'WIDE1-1');
    const all = over('WIDE1-1', 'QT0TH-3', silent);
    const high = over('WIDE2-1', 'QT0TH-3', silent);
    expect(all.chance).toBeLessThan(0.4);
    expect(high.chance).toBeCloseTo(all.chance, 9);
    expect(high.ours).toEqual({ element: 'WIDE1', sent: 8, repeated: 0 });
    // What a digipeater repeats for all tells nothing of what it does for fewer: it may be a fill-in.
    const heard = times(8, 'WIDE1-1', ['QT0BR-1']);
    expect(over('WIDE1-1', 'QT0BR-1', heard).chance).toBeGreaterThan(0.8);
    expect(over('WIDE2-1', 'QT0BR-1', heard)).toMatchObject({ ours: null });
    expect(over('WIDE2-1', 'QT0BR-1', heard).chance).toBeCloseTo(0.7, 9);
  });

  it('is the same by both once a digipeater was heard repeating what only high ones do', () => {
    const rows = [...times(6, 'WIDE2-2', ['QT0TH-3']), ...times(3, 'WIDE1-1')];
    const high = over('WIDE2-1', 'QT0TH-3', rows);
    expect(over('WIDE1-1', 'QT0TH-3', rows)).toEqual(high);
    expect(high.ours).toEqual({ element: 'WIDE1 or WIDE2', sent: 9, repeated: 6 });
    // The other one was asked twice over and answered neither.
    const low = over('WIDE2-1', 'QT0BR-1', rows);
    expect(low.chance).toBeLessThan(over('WIDE1-1', 'QT0BR-1', rows).chance);
    expect(low.ours).toEqual({ element: 'WIDE1 or WIDE2', sent: 9, repeated: 0 });
  });
});
