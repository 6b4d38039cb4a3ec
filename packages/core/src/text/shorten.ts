/** What is written for what, by the operator's own list. */
export interface Abbreviation {
  /** A word, or a few. */
  readonly long: string;
  readonly short: string;
}

const MOST_WORDS = 4;
const WORDS = /[\p{L}\p{N}'’-]+/gu;
const keyOf = (text: string): string => text.toLowerCase().trim().replace(/\s+/gu, ' ');

/** A text shortened by a list of abbreviations: whole words only, the longest first, capitals aside. */
export function shorten(text: string, list: readonly Abbreviation[]): string {
  const shortOf = new Map(list.map(({ long, short }) => [keyOf(long), short]));
  const words = [...text.matchAll(WORDS)].map(({ 0: word, index }) => ({ from: index, to: index + word.length }));
  let made = '';
  let at = 0;
  for (let i = 0; i < words.length;) {
    const { from } = words[i]!;
    const taken = longest(text, words, i, shortOf);
    made += text.slice(at, from);
    at = from;
    if (taken) {
      made += taken.short;
      at = words[i + taken.words - 1]!.to;
    }
    i += taken?.words ?? 1;
  }
  return made + text.slice(at);
}

function longest(
  text: string,
  words: readonly { from: number; to: number }[],
  i: number,
  shortOf: ReadonlyMap<string, string>,
): { short: string; words: number } | null {
  for (let n = Math.min(MOST_WORDS, words.length - i); n > 0; n--) {
    const short = shortOf.get(keyOf(text.slice(words[i]!.from, words[i + n - 1]!.to)));
    if (short !== undefined) return { short, words: n };
  }
  return null;
}
