import fc from 'fast-check';
import { DUTY_WINDOW_MS, dutyFreeAtMs, dutyRuleOf, mostInWindowMs, spentInWindowMs, type AirSpent } from './duty';
import { FLOOD_SLOTS, floodSlot, floodSlotMs, proposedHopLimit } from './flood';
import { checkMeshFrequency, meshAirTimeMs, meshRadioWords, meshReachWords } from './radio';

describe('the share of the hour', () => {
  it.each([
    // Source: ETSI EN 300 220, the sub-bands 868.0–868.6 MHz (1 %) and 869.4–869.65 MHz (10 %).
    [868_300_000, 125_000, '868.0–868.6 MHz', 0.01],
    [868_062_500, 125_000, '868.0–868.6 MHz', 0.01],
    [869_525_000, 250_000, '869.4–869.65 MHz', 0.1],
    // The others from memory.
    [868_950_000, 125_000, '868.7–869.2 MHz', 0.001],
    [869_850_000, 125_000, '869.7–870.0 MHz', 0.01],
    [433_500_000, 125_000, '433.05–434.79 MHz', 0.1],
    // Across an edge, and between: the strictest.
    [868_620_000, 125_000, '863–870 MHz', 0.001],
    [868_650_000, 125_000, '863–870 MHz', 0.001],
  ])('at %i Hz, %i Hz wide, is that of %s: %d', (frequencyHz, bandwidthHz, subBand, mostShare) => {
    expect(dutyRuleOf(frequencyHz, bandwidthHz)).toMatchObject({ subBand, mostShare });
  });
  it('is not known in the Americas, and says to ask', () => {
    expect(dutyRuleOf(915_000_000, 500_000)).toMatchObject({ mostShare: null });
    expect(dutyRuleOf(915_000_000, 500_000).words).toContain('ask your local rules');
  });
  it('is 36 s of an hour for 1 %, six minutes for 10 %', () => {
    expect(mostInWindowMs({ mostShare: 0.01 })).toBe(36_000);
    expect(mostInWindowMs({ mostShare: 0.1 })).toBe(360_000);
    expect(mostInWindowMs({ mostShare: null })).toBeNull();
  });
  it('slides: in no hour is more spent than allowed, and nothing waits longer than it must', () => {
    const rule = { mostShare: 0.001 };
    const most = mostInWindowMs(rule)!;
    fc.assert(
      fc.property(fc.array(fc.record({ gap: fc.nat(400_000), ms: fc.integer({ min: 1, max: 1500 }) })), (wishes) => {
        const spent: AirSpent[] = [];
        let now = 0;
        for (const { gap, ms } of wishes) {
          now += gap;
          const at = dutyFreeAtMs(spent, rule, ms, now)!;
          expect(at).toBeGreaterThanOrEqual(now);
          // A moment sooner it would not have fitted.
          if (at > now) expect(spentInWindowMs(spent, at - 1) + ms).toBeGreaterThan(most);
          now = at;
          spent.push({ atMs: at, ms });
        }
        for (const { atMs } of spent)
          expect(
            spentInWindowMs(
              spent.filter((one) => one.atMs <= atMs),
              atMs,
            ),
          ).toBeLessThanOrEqual(most);
      }),
    );
  });
  it('never allows what is longer than the share of a whole hour, and anything where there is none', () => {
    expect(dutyFreeAtMs([], { mostShare: 0.001 }, 3601, 0)).toBeNull();
    expect(dutyFreeAtMs([{ atMs: 0, ms: DUTY_WINDOW_MS }], { mostShare: null }, 3601, 5)).toBe(5);
  });
});

describe('the setting of a mesh', () => {
  const radio = { frequencyHz: 868_300_000, spreadingFactor: 9, bandwidthHz: 125_000, codingRate: 1 };
  it('gives the air time of a frame with a preamble of twelve symbols', () => {
    // By hand from the designer's guide: T_sym 4.096 ms; ⌈(8·64 − 36 + 28 + 16)/36⌉·5 = 75; (12 + 4.25 + 8 + 75)·4.096.
    expect(meshAirTimeMs(64, radio)).toBeCloseTo(406.528, 9);
  });
  it('lies inside a licence-free band with its whole width', () => {
    expect(checkMeshFrequency(868_300_000, 125_000).ok).toBe(true);
    for (const frequencyHz of [144_390_000, 863_000_000, 870_000_000, 0, 434_780_000])
      expect(checkMeshFrequency(frequencyHz, 125_000).ok).toBe(false);
  });
  it('has plain words', () => {
    expect(meshRadioWords(radio)).toBe('868.3 MHz, SF9, 125 kHz, 4/5');
    const words = [7, 8, 9, 10, 11, 12].map((spreadingFactor) => meshReachWords({ ...radio, spreadingFactor }));
    expect(new Set(words).size).toBe(5);
    expect(words.at(0)).toContain('quick');
    expect(words.at(-1)).toContain('slow');
  });
});

describe('flooding', () => {
  it('lets carriers go first, terminals behind', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }), (random) => {
        expect(floodSlot(true, random)).toBeLessThan(FLOOD_SLOTS);
        expect(floodSlot(false, random)).toBeGreaterThanOrEqual(FLOOD_SLOTS);
        expect(floodSlot(false, random)).toBeLessThan(2 * FLOOD_SLOTS);
      }),
    );
    expect(floodSlotMs({ spreadingFactor: 9, bandwidthHz: 125_000 })).toBeCloseTo(81.92, 9);
  });
  it('proposes more hops for larger groups, from 1 to 15, never more than a chain needs', () => {
    let last = 1;
    for (let nodes = 0; nodes < 300; nodes++) {
      const hops = proposedHopLimit(nodes);
      expect(hops).toBeGreaterThanOrEqual(last);
      expect(hops).toBeLessThanOrEqual(Math.min(15, Math.max(1, nodes - 2)));
      last = hops;
    }
    expect(last).toBe(15);
    expect(proposedHopLimit(7)).toBe(4);
  });
});
