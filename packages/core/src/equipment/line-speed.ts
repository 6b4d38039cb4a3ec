import { latin1OfOctets, octetsOfText } from '../octets';
import { nmeaChecksum } from '../aprs/nmea';
import { decodeFrame } from '../link/ax25';
import { createKissDecoder } from '../link/kiss';

/** What is expected to talk at the other end of a serial line. */
export type LineTalk = 'position' | 'modem';

/** Speeds in the order in which they are tried: the usual one of what talks first, then the others by how often they are met. */
export const SPEED_ORDER: Readonly<Record<LineTalk, readonly number[]>> = {
  position: [4800, 9600, 38_400, 115_200, 57_600, 19_200, 2400, 1200],
  modem: [9600, 1200, 19_200, 38_400, 57_600, 115_200, 4800, 2400],
};

/** What octets that came in at one speed look like; the port itself tells of no framing errors. */
export interface LineJudgement {
  readonly octets: number;
  /** Sentences of NMEA 0183 with a good checksum. */
  readonly sentences: number;
  /** KISS frames that hold an AX.25 frame. */
  readonly frames: number;
  /** Lines that people can read. */
  readonly lines: number;
  /** Share of octets that no text and no line end is made of, 0–1. */
  readonly outside: number;
  readonly verdict: 'right' | 'wrong' | 'unknown';
}

const SENTENCE = /\$([ -)+-~]{5,80})\*([0-9A-Fa-f]{2})\r?\n?/g;
const isText = (octet: number): boolean =>
  (octet >= 0x20 && octet <= 0x7e) || octet === 0x0a || octet === 0x0d || octet === 0x09;
/** More than that cannot be chance, with as many octets (common practice, no source). */
const MOST_OUTSIDE = 0.3;
const LEAST_OCTETS = 20;

function sentencesIn(text: string): number {
  let good = 0;
  for (const [, body, checksum] of text.matchAll(SENTENCE)) if (nmeaChecksum(body!) === parseInt(checksum!, 16)) good++;
  return good;
}

function framesIn(octets: Uint8Array): number {
  return createKissDecoder()
    .push(octets)
    .filter((event) => event.kind === 'frame' && event.command === 0 && decodeFrame(event.data).ok).length;
}

/** What octets look like to somebody who expects one or the other to talk. */
export function judgeLine(octets: Uint8Array, talk: LineTalk): LineJudgement {
  const text = latin1OfOctets(octets);
  const sentences = sentencesIn(text);
  const frames = framesIn(octets);
  const outside = octets.length === 0 ? 0 : octets.filter((octet) => !isText(octet)).length / octets.length;
  const lines = text.split(/[\r\n]+/).filter((line) => line.length >= 3 && octetsOfText(line).every(isText)).length;
  const proof = talk === 'position' ? sentences : frames;
  // A modem that waits for commands says readable lines: the speed is right, its mode is not.
  const readable = talk === 'modem' && outside === 0 && lines > 0;
  return {
    octets: octets.length,
    sentences,
    frames,
    lines,
    outside,
    verdict:
      proof > 0 || readable ? 'right' : octets.length >= LEAST_OCTETS && outside > MOST_OUTSIDE ? 'wrong' : 'unknown',
  };
}

const one = (n: number, words: string): string => `${n === 0 ? 'no' : n} ${words}${n > 1 ? 's' : ''}`;

/** `at 9600 Bd no sentence in 2 s and 71 % of the octets outside the set`. */
export function judgementWords(speedBd: number, seconds: number, talk: LineTalk, judged: LineJudgement): string {
  const { octets, sentences, frames, lines, outside } = judged;
  if (octets === 0) return `at ${speedBd} Bd nothing in ${seconds} s`;
  const proof = talk === 'position' ? one(sentences, 'good sentence') : one(frames, 'frame');
  const rest =
    outside > 0
      ? `${Math.round(outside * 100)} % of the octets outside the set`
      : talk === 'modem' && frames === 0 && lines > 0
        ? 'lines of text: it waits for commands'
        : one(octets, 'octet');
  return `at ${speedBd} Bd ${proof} in ${seconds} s and ${rest}`;
}
