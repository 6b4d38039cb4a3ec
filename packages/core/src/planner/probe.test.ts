import { betaQuantile, beliefOf, type Belief } from './beta';
import { entropyBits, openBits, probeBits, tellsBits, type Probed } from './probe';
import { seeded } from './seeded';
import { tried } from './tried';

const RETRY = { firstS: 30, factor: 1, capS: 30, jitter: 0 };
interface Case extends Probed {
  readonly there: Belief;
  readonly back: Belief;
  readonly times: number;
}

/** A way whose hops are believed with so much strength, sent so often. */
function probed(there: number, back: number, works: number, times: number, strength = 3): Case {
  const hops = { there: beliefOf(there, strength), back: beliefOf(back, strength) };
  const plan = { retry: RETRY, tries: times, overDigipeaters: false, queueS: 0, airS: 1, repeatsS: 0, deadlineS: null };
  const { provenDraws } = tried(hops.there, hops.back, plan);
  return { ...hops, times, works, question: provenDraws!.one, text: provenDraws!.all };
}

describe('what one thing tells of another', () => {
  it.each([
    // scipy 1.17, stats.entropy of the table of both against the product of its margins, base 2.
    [0.3, 0.5, 0.25, 0.146793102],
    [0.62, 0.8, 0.6, 0.215220404],
    [0.05, 0.4, 0.045, 0.041714783],
    [0.5, 0.5, 0.445, 0.500084042],
  ])('of %d and %d with both %d as scipy has it', (first, second, both, bits) => {
    expect(tellsBits(first, second, both)).toBeCloseTo(bits, 8);
  });

  it('is the capacity of a binary symmetric channel where both are even (Cover and Thomas, ch. 7.1.4, from memory)', () => {
    for (const crossing of [0, 0.05, 0.11, 0.3, 0.5])
      expect(tellsBits(0.5, 0.5, 0.5 * (1 - crossing))).toBeCloseTo(1 - entropyBits(crossing), 12);
  });

  it('is nothing where one is certain or they are independent, and never less', () => {
    for (const [first, second, both] of [
      [0, 0.4, 0],
      [1, 0.4, 0.4],
      [0.4, 0, 0],
      [0.3, 0.4, 0.12],
      [0.3, 0.3, 0.300000001],
    ] as const)
      expect(tellsBits(first, second, both)).toBeGreaterThanOrEqual(0);
    expect(tellsBits(0.3, 0.4, 0.12)).toBeCloseTo(0, 12);
    expect(tellsBits(0, 0.4, 0)).toBe(0);
  });
});

describe('what a question tells of the ways', () => {
  /** The same, by drawing who answers, which paths work, what the hops are and what gets through. */
  function drawn(answers: number, asked: Case, ways: readonly Case[], seed: number): number {
    const next = seeded(seed);
    const quantiles = (belief: Belief) => Array.from({ length: 400 }, (_, n) => betaQuantile(belief, (n + 0.5) / 400));
    const hops = ways.map(({ there, back }) => [quantiles(there), quantiles(back)] as const);
    const drawnOf = (values: readonly number[]) => values[Math.floor(next() * values.length)]!;
    const runs = 60_000;
    const table = ways.map(() => ({ question: 0, text: 0, both: 0 }));
    for (let run = 0; run < runs; run++) {
      const doAnswer = next() < answers;
      let question = false;
      const texts = ways.map((way, n) => {
        const works = doAnswer && next() < way.works;
        const hop = drawnOf(hops[n]![0]) * drawnOf(hops[n]![1]);
        const proven = () => works && Array.from({ length: way.times }, () => next() < hop).includes(true);
        if (way === asked) question = proven();
        return proven();
      });
      table.forEach((counts, n) => {
        counts.question += Number(question);
        counts.text += Number(texts[n]);
        counts.both += Number(question && texts[n]);
      });
    }
    return table.reduce(
      (sum, { question, text, both }) => sum + tellsBits(question / runs, text / runs, both / runs),
      0,
    );
  }

  // Here a belief is 32 draws, there four hundred.
  it('agrees with sixty thousand drawn cases', () => {
    const direct = probed(0.3, 0.3, 0.9, 4);
    const wide = probed(0.7, 0.6, 0.9, 3);
    for (const [n, [answers, asked]] of (
      [
        [0.85, direct],
        [0.85, wide],
        [0.5, wide],
      ] as const
    ).entries())
      expect(
        Math.abs(probeBits(answers, asked, [direct, wide]) - drawn(answers, asked, [direct, wide], n + 1)),
      ).toBeLessThan(0.03);
  });

  it('is the more, the less is known', () => {
    const known = probed(0.95, 0.95, 0.999, 3, 60);
    const guess = probed(0.5, 0.5, 0.9, 3);
    expect(probeBits(0.85, guess, [guess])).toBeGreaterThan(2 * probeBits(0.99, known, [known]));
  });

  it('is never more than what is open', () => {
    for (const chance of [0.02, 0.3, 0.6, 0.95])
      for (const times of [1, 3, 8]) {
        const ways = [probed(chance, chance, 0.9, times), probed(0.7, 0.5, 0.9, 2)];
        for (const asked of ways) expect(probeBits(0.85, asked, ways)).toBeLessThanOrEqual(openBits(0.85, ways));
      }
    // Where all hangs on whether the path works, the question tells the whole of it.
    const sure = probed(0.999, 0.999, 0.5, 3, 1e4);
    expect(probeBits(1, sure, [sure])).toBeCloseTo(openBits(1, [sure]), 3);
  });

  it('of another path tells whether anybody answers there, and nothing else', () => {
    const one = probed(0.8, 0.8, 0.9, 3);
    const other = probed(0.8, 0.8, 0.9, 3);
    const alone = probeBits(0.6, one, [one]);
    expect(probeBits(0.6, one, [one, other])).toBeGreaterThan(alone + 0.05);
    expect(probeBits(1, one, [one, other])).toBeCloseTo(probeBits(1, one, [one]), 9);
  });
});
