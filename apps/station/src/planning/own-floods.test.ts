import { beliefOf, meanOf } from '@tombolo/core';
import type { Hop } from './hops';
import { floodsIn, withOwnFloods } from './own-floods';
import { restsOf } from './rests';

const NOW = Date.parse('2026-06-01T12:00:00Z');
const hop = (from: string, to: string, chance: number): Hop => {
  const belief = beliefOf(chance, 4);
  return { from, to, belief, rests: restsOf(from, to, belief, undefined, undefined, chance, null, null, 0) };
};
const texts = (carried: number, lost: number, ageMin = 10) =>
  floodsIn(
    Array.from({ length: carried + lost }, (_, n) => ({ at: new Date(NOW - ageMin * 60_000), carried: n < carried })),
    NOW,
  );
const hops = [
  hop('us', 'roof', 0.6),
  hop('roof', 'us', 0.9),
  hop('us', 'farm', 0.1),
  hop('farm', 'us', 0.2),
  hop('us', 'far', 0.5),
];
const after = (floods: ReturnType<typeof texts>) => {
  const learnt = withOwnFloods(hops, 'us', new Set(['roof', 'farm']), floods);
  return (to: string) => learnt.find((one) => one.from === 'us' && one.to === to)!;
};
const mean = (of: Hop) => meanOf(of.belief);

describe('what became of our own texts on a mesh', () => {
  it('raises the hop to whom most likely heard them, and that of the other hardly', () => {
    const learnt = after(texts(10, 0));
    expect(mean(learnt('roof'))).toBeGreaterThan(0.8);
    expect(mean(learnt('farm'))).toBeLessThan(0.3);
    expect(learnt('roof').rests.ours).toEqual({ element: null, sent: 10, repeated: 10 });
  });

  it('lowers every first hop where nobody carried them, the one most that would have been heard to', () => {
    const learnt = after(texts(0, 10));
    expect(mean(learnt('roof'))).toBeLessThan(0.3);
    expect(mean(learnt('farm'))).toBeLessThan(0.1);
    // Whoever is not heard straight is not judged by it.
    expect(learnt('far')).toBe(hops[4]);
  });

  it('tells nothing where nothing was sent, and less the older it is', () => {
    expect(withOwnFloods(hops, 'us', new Set(['roof']), texts(0, 0))).toBe(hops);
    const [fresh, old] = [after(texts(5, 0, 5)), after(texts(5, 0, 20 * 60))];
    expect(mean(old('roof'))).toBeLessThan(mean(fresh('roof')));
    expect(mean(old('roof'))).toBeGreaterThan(0.6);
  });
});
