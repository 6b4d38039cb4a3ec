import { across, arrivalOf, AT_ONCE, chanceBy, dominates, type Arrival } from './arrival';
import { findWays, type Crossing, type FoundWay } from './search';
import { seeded } from './seeded';

const at = (atS: number, chance: number): Arrival => arrivalOf([{ atS, chance }]);
const crossing = (from: string, to: string, more: Partial<Crossing> = {}): Crossing => ({
  id: `${from}>${to}`,
  from,
  to,
  arrival: at(10, 0.9),
  airS: 1,
  proof: 4,
  hands: 0,
  ...more,
});
const named = ({ crossings }: FoundWay) => crossings.map(({ id }) => id).join(' ');

/** Every way without a holder twice, whatever it is worth. */
function everyWay(crossings: readonly Crossing[], from: string, to: string, deadlineS: number, most: number) {
  const ways: FoundWay[] = [];
  const go = (
    here: string,
    seen: readonly string[],
    over: readonly Crossing[],
    arrival: Arrival,
    airS: number,
    hands: number,
  ) => {
    if (here === to) {
      ways.push({ crossings: over, arrival, airS, proof: over.at(-1)!.proof, hands });
      return;
    }
    if (over.length === most) return;
    for (const next of crossings) {
      if (next.from !== here || seen.includes(next.to)) continue;
      const whole = across(arrival, next.arrival, next.opensAt);
      const kept = whole.atS.filter((atS) => atS <= deadlineS + 1e-6);
      if (kept.length === 0) continue;
      go(
        next.to,
        [...seen, next.to],
        [...over, next],
        { chance: chanceBy(whole, deadlineS + 1e-6), atS: kept },
        airS + next.airS,
        hands + next.hands + (over.length > 0 ? 1 : 0),
      );
    }
  };
  go(from, [from], [], AT_ONCE, 0, 0);
  return ways;
}

const noWorse = (a: FoundWay, b: FoundWay, slack: number, slackS: number) =>
  a.airS <= b.airS + 1e-6 && a.hands <= b.hands && a.proof >= b.proof && dominates(a.arrival, b.arrival, slack, slackS);

describe('ways that are not beaten', () => {
  it('are the fast one, the sure one, the cheap one and the well proven one', () => {
    const ways = [
      crossing('us', 'far', { id: 'fast', arrival: at(5, 0.5) }),
      crossing('us', 'far', { id: 'sure', arrival: at(500, 0.95), airS: 5 }),
      crossing('us', 'far', { id: 'cheap', arrival: at(9000, 0.3), airS: 0.1 }),
      crossing('us', 'far', { id: 'proven', arrival: at(600, 0.4), proof: 7, airS: 9 }),
      crossing('us', 'far', { id: 'beaten', arrival: at(700, 0.4), airS: 9 }),
    ];
    const found = findWays(ways, 'us', 'far', { deadlineS: 10_000 });
    expect(found.ways.map(named)).toEqual(['sure', 'fast', 'proven', 'cheap']);
    expect(found.cut).toBe(false);
    // What is too late does not count.
    expect(findWays(ways, 'us', 'far', { deadlineS: 100 }).ways.map(named)).toEqual(['fast']);
    expect(findWays(ways, 'us', 'far', { deadlineS: -1 }).ways).toEqual([]);
    expect(findWays(ways, 'us', 'nowhere', { deadlineS: 100 }).ways).toEqual([]);
  });

  it('wait for windows, as a hand-made plan of contacts says (earliest arrival, after CCSDS 734.3-B-1; from memory)', () => {
    // Contacts: from, to, begin, end, s; one second of light, as it were.
    const plan = [
      ['us', 'a', 0, 10],
      ['us', 'b', 20, 30],
      ['a', 'far', 100, 110],
      ['b', 'far', 40, 50],
      ['a', 'b', 5, 8],
    ] as const;
    const contacts = plan.map(([from, to, begin, end]) =>
      crossing(from, to, {
        arrival: at(1, 1),
        opensAt: (atS) => (atS > end ? null : Math.max(atS, begin)),
      }),
    );
    const { ways } = findWays(contacts, 'us', 'far', { deadlineS: 1000, slackS: 0 });
    // Over b at 40 s; over a only at 100 s with as many hands: beaten.
    expect(ways.map(named)).toEqual(['us>b b>far']);
    expect(ways[0]!.arrival.atS[0]).toBeCloseTo(41, 9);
    const withoutB = contacts.filter(({ id }) => id !== 'us>b');
    const later = findWays(withoutB, 'us', 'far', { deadlineS: 1000, slackS: 0 }).ways;
    expect(later.map(named).sort()).toEqual(['us>a a>b b>far', 'us>a a>far']);
  });

  it('are those of all ways that there are, on a thousand small nets with circles, nothing lost and nothing beaten given', () => {
    const random = seeded(11);
    const lost: string[] = [];
    const beaten: string[] = [];
    let several = 0;
    for (let net = 0; net < 1000; net++) {
      const holders = ['us', 'a', 'b', 'c', 'far'].slice(0, 3 + Math.floor(random() * 3));
      holders[holders.length - 1] = 'far';
      const crossings: Crossing[] = [];
      for (const from of holders)
        for (const to of holders)
          for (let copy = 0; copy < 2; copy++)
            if (from !== to && random() < 0.45)
              crossings.push(
                crossing(from, to, {
                  id: `${from}>${to}/${copy}`,
                  arrival: at(Math.round(random() * 20) * 10, random() < 0.1 ? 0 : 0.2 + 0.8 * random()),
                  airS: Math.round(random() * 4),
                  proof: Math.floor(random() * 4),
                  hands: Math.floor(random() * 2),
                }),
              );
      const all = everyWay(crossings, 'us', 'far', 450, 4);
      const { ways, cut } = findWays(crossings, 'us', 'far', {
        deadlineS: 450,
        mostCrossings: 4,
        mostLabels: 1000,
        slackChance: 0,
        slackS: 0,
      });
      if (cut) lost.push(`${net} cut`);
      if (ways.length > 1) several++;
      for (const way of all)
        if (!ways.some((found) => noWorse(found, way, 1e-9, 1e-6))) lost.push(`${net} ${named(way)}`);
      for (const way of ways)
        if (all.some((other) => noWorse(other, way, 0, 0) && !noWorse(way, other, 1e-9, 1e-6)))
          beaten.push(`${net} ${named(way)}`);
    }
    expect(lost).toEqual([]);
    expect(beaten).toEqual([]);
    expect(several).toBeGreaterThan(200);
  }, 60_000);

  it('say when there was no room for all, and stay within the slack when ways are nearly one', () => {
    const many = Array.from({ length: 30 }, (_, n) =>
      crossing('us', 'far', { id: `${n}`, arrival: at(100 - 3 * n, 0.9 - 0.02 * n), airS: n }),
    );
    const { ways, cut } = findWays(many, 'us', 'far', { deadlineS: 1000, mostLabels: 4, slackS: 0, slackChance: 0 });
    expect([ways.length, cut]).toEqual([4, true]);
    const alike = [0, 1, 2].map((n) => crossing('us', 'far', { id: `${n}`, arrival: at(10 + n, 0.5 + 0.002 * n) }));
    expect(findWays(alike, 'us', 'far', { deadlineS: 1000 }).ways).toHaveLength(1);
  });
});
