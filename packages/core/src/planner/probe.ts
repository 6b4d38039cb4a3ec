/** A crossing by which somebody could be asked, or sent a text. */
export interface Probed {
  /** If the path works and they answer: chance that the question is proved by an answer, and the text, for what is believed drawn evenly and together. */
  readonly question: readonly number[];
  readonly text: readonly number[];
  /** Chance that the path works at all, for somebody who answers. */
  readonly works: number;
}

/** The text of a question that a set may answer by itself with the path it was heard over (Protocol Reference 1.0.1, ch. 15). */
export const PROBE_TEXT = '?APRST';

/** Entropy of something that is so with chance p, bits. */
export const entropyBits = (p: number): number =>
  p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p);

/**
 * What one of two things tells of the other, bits: how far the entropy of the second is expected to fall when the first is known (their mutual
 * information; never below 0).
 */
export function tellsBits(first: number, second: number, both: number): number {
  const given = (p: number, of: number) => (of <= 0 ? 0 : of * entropyBits(Math.min(1, Math.max(0, p / of))));
  return Math.max(0, entropyBits(second) - given(both, first) - given(second - both, 1 - first));
}

/**
 * What an answer, or none, to a question over `asked` is expected to tell of whether texts would be proved over each of `ways`, bits in all.
 * `answers` is the chance that they answer at all, which the ways share, for it is one person and one set; of one way also the chances of its
 * hops are the same. Hops that two ways share are left out: it tells somewhat more than is told here.
 */
export function probeBits(answers: number, asked: Probed, ways: readonly Probed[]): number {
  const answered = answers * asked.works * meanOfAll(asked.question);
  return ways.reduce((sum, way) => {
    const both =
      way === asked
        ? answers * way.works * meanOfAll(way.text.map((chance, n) => chance * way.question[n]!))
        : answers * asked.works * way.works * meanOfAll(asked.question) * meanOfAll(way.text);
    return sum + tellsBits(answered, provenOf(answers, way), both);
  }, 0);
}

/** What is open about whether texts would be proved over each of `ways`, bits in all: the most that a question could tell. */
export const openBits = (answers: number, ways: readonly Probed[]): number =>
  ways.reduce((sum, way) => sum + entropyBits(provenOf(answers, way)), 0);

const provenOf = (answers: number, { works, text }: Probed): number => answers * works * meanOfAll(text);

const meanOfAll = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
