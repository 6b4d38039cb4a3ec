import { octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';

/** One of the texts that a longer one was cut into. */
export interface Part {
  /** Letter that tells the texts of one sender apart. */
  readonly set: string;
  /** From 1. */
  readonly n: number;
  readonly of: number;
  /** It goes on in the middle of a word: joined without a space. */
  readonly glued: boolean;
  readonly text: string;
}

/** So that the number of a part is one digit, and its length known before it is cut. */
export const MOST_PARTS = 9;

const SETS = 'abcdefghijklmnopqrstuvwxyz';
/** `(2/4a) text`, or `(2/4a+) text` where a word was cut: readable for whoever does not know it. A form of our own. */
const PART = /^\(([1-9])\/([2-9])([a-z])(\+?)\) (.+)$/su;
/** `again 2,4/5a`: which parts are asked for once more. */
const AGAIN = /^again ([1-9](?:,[1-9]){0,8})\/([2-9])([a-z])$/i;

/** The letter of the next text to somebody; `last` is the one before, null for none. */
export const nextSet = (last: string | null): string =>
  SETS[last === null ? 0 : (SETS.indexOf(last) + 1) % SETS.length]!;

const head = ({ n, of, set, glued }: Omit<Part, 'text'>): string => `(${n}/${of}${set}${glued ? '+' : ''}) `;

export const writePart = (part: Part): string => head(part) + part.text;

/** What stands in a text that is a part of a longer one; null for any other. */
export function readPart(text: string): Part | null {
  const [, n, of, set, glued, rest] = PART.exec(text) ?? [];
  if (n === undefined || Number(n) > Number(of)) return null;
  return { n: Number(n), of: Number(of), set: set!, glued: glued === '+', text: rest! };
}

/** Blanks and line breaks as they come out when it is joined again. */
export const oneSpaced = (text: string): string => text.trim().replace(/\s+/gu, ' ');

interface Cut {
  readonly text: string;
  readonly glued: boolean;
}

/**
 * A text in numbered parts of at most `mostOctets` each, cut between words; a word that fits no part is cut between characters. One that fits
 * whole stays one text without a number. Fails when it would be more than nine.
 */
export function splitText(text: string, set: string, mostOctets: number): Parsed<readonly string[]> {
  const whole = oneSpaced(text);
  if (whole === '') return fail(0, 'the text is empty');
  const octets = octetsOfText(whole).length;
  if (octets <= mostOctets) return ok([whole]);
  if (octets > MOST_PARTS * mostOctets) return tooMany;
  const room = mostOctets - head({ n: 1, of: 2, set: 'a', glued: true }).length;
  const cuts: Cut[] = [];
  let open: { text: string; octets: number; glued: boolean } | null = null;
  const close = () => {
    if (open) cuts.push({ text: open.text, glued: open.glued });
    open = null;
  };
  for (const word of whole.split(' ')) {
    const pieces = piecesOf(word, room);
    if (!pieces.ok) return pieces;
    for (const [i, { text: piece, octets }] of pieces.value.entries()) {
      const joint: number = i === 0 ? 1 : 0;
      const now = open as { text: string; octets: number; glued: boolean } | null;
      // A word that is cut begins a part of its own.
      if (now && i === 0 && now.octets + joint + octets <= room)
        open = { ...now, text: `${now.text} ${piece}`, octets: now.octets + joint + octets };
      else {
        close();
        open = { text: piece, octets, glued: i > 0 };
      }
      if (cuts.length >= MOST_PARTS) return tooMany;
    }
  }
  close();
  return ok(cuts.map((cut, i) => writePart({ ...cut, set, n: i + 1, of: cuts.length })));
}

const tooMany = fail(0, `it would be more than ${MOST_PARTS} parts: shorten it, or send it by mail or a board`);

/** A word in pieces that fit, never within a character. */
function piecesOf(word: string, room: number): Parsed<readonly { text: string; octets: number }[]> {
  const pieces: { text: string; octets: number }[] = [];
  let text = '';
  let octets = 0;
  for (const { segment } of CHARACTERS.segment(word)) {
    const more = octetsOfText(segment).length;
    if (more > room) return fail(0, 'a character in it is longer than a part');
    if (octets + more > room) {
      pieces.push({ text, octets });
      text = '';
      octets = 0;
    }
    text += segment;
    octets += more;
  }
  pieces.push({ text, octets });
  return ok(pieces);
}
const CHARACTERS = new Intl.Segmenter('en', { granularity: 'grapheme' });

export interface Joined {
  /** The whole text; null while a part is missing. */
  readonly text: string | null;
  /** What is there, with `…` for each part that is not. */
  readonly shown: string;
  readonly missing: readonly number[];
}

/** The parts of one text, in any order and any number of times, put together; of two with one number the later one counts. */
export function joinParts(parts: readonly Part[]): Joined {
  const of = parts.at(-1)?.of ?? 0;
  const byNumber = new Map(parts.filter((part) => part.of === of).map((part) => [part.n, part]));
  const missing: number[] = [];
  let shown = '';
  for (let n = 1; n <= of; n++) {
    const part = byNumber.get(n);
    if (!part) missing.push(n);
    shown += (n === 1 || part?.glued ? '' : ' ') + (part?.text ?? '…');
  }
  return { text: missing.length === 0 && of > 0 ? shown : null, shown, missing };
}

/** Parts of one text are not farther apart; the letters come round again later than that. */
export const PARTS_WITHIN_MS = 3_600_000;

/**
 * What came with one letter from one station, oldest first, told apart into texts: a part with other words under a number that is there already
 * begins the next one, as does one that comes too late. A program that starts anew starts with the first letter again.
 */
export function textsOfParts<T extends Part & { readonly atMs: number }>(parts: readonly T[]): T[][] {
  const texts: T[][] = [];
  for (const part of parts) {
    const last = texts.at(-1);
    const goesOn =
      last !== undefined &&
      part.atMs - last[0]!.atMs <= PARTS_WITHIN_MS &&
      last.every(({ n, of, text }) => of === part.of && (n !== part.n || text === part.text));
    if (goesOn) last.push(part);
    else texts.push([part]);
  }
  return texts;
}

export interface AskedAgain {
  readonly set: string;
  readonly of: number;
  readonly wanted: readonly number[];
}

export const writeAskedAgain = ({ set, of, wanted }: AskedAgain): string => `again ${wanted.join(',')}/${of}${set}`;

/** Which parts a text asks for; null for one that asks for none. */
export function readAskedAgain(text: string): AskedAgain | null {
  const [, list, of, set] = AGAIN.exec(text.trim()) ?? [];
  if (list === undefined) return null;
  const wanted = [...new Set(list.split(',').map(Number))].sort((a, b) => a - b);
  if (wanted.some((n) => n > Number(of))) return null;
  return { set: set!.toLowerCase(), of: Number(of), wanted };
}
