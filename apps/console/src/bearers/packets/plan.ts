import {
  airTimeMs,
  checkAddressee,
  checkMessageText,
  DEFAULT_TIMING,
  encodeMessage,
  formatMHz,
  MAX_MESSAGE_TEXT,
  frameToSend,
  octetsOfText,
  ofHundred,
  PATH_SCHOOLS,
  pathHops,
  type PathSchool,
} from '@tombolo/core';
import { carriageOf, type BearerView } from '@tombolo/contract';
import type { DraftView } from '../../drafts/draft';
import { textsOf } from '../long-text';
import type { ProposedPath } from '../under-text';

export interface Plan {
  readonly path: string[];
  readonly school: PathSchool | 'own';
  /** What is told of each of the usual paths: what it is for, and how likely it was reckoned to be. */
  readonly hints: Readonly<Record<PathSchool, string>>;
  readonly octets: number;
  /** Air time of our own transmission, s; null while the text cannot be sent. */
  readonly airTimeS: number | null;
  /** With every repetition that the path allows. */
  readonly channelTimeS: number | null;
  readonly addresseeProblem: string | null;
  readonly textProblem: string | null;
  readonly pathProblem: string | null;
  /** How often it goes out at most, where that was reckoned for this path; null for as often as the settings say. */
  readonly times: number | null;
  /** As how many texts it goes out. */
  readonly parts: number;
  /** Air time of one text of this draft, s. */
  readonly airS: (text: string) => number | null;
  /** What the button will do, exactly. */
  readonly buttonWords: string;
}

/** The elements of a typed path; separated by commas or blanks. */
export const pathElements = (text: string): string[] =>
  text
    .toUpperCase()
    .split(/[\s,]+/)
    .filter(Boolean);

const VIA_WORDS: Readonly<Record<PathSchool | 'own', string>> = {
  'fill-in first': 'over a fill-in and one more digipeater',
  'wide only': 'over up to two high digipeaters',
  'fill-in only': 'over one digipeater, fill-ins too',
  'one wide': 'over one high digipeater',
  direct: 'direct, without a digipeater',
  own: 'over your own path',
};

/** What it goes out by: how its transmitter is keyed, and what it is tuned to, as far as that is known. */
export interface Transmitter {
  readonly txDelayMs: number;
  readonly frequencyHz: number | null;
}

/** Figures are those of the modem it goes over; of the usual one while there is none. */
export function transmitterOf(modem: BearerView | undefined): Transmitter {
  const carriage = modem && carriageOf(modem.config);
  return {
    txDelayMs: carriage?.what === 'packets' ? carriage.txDelayMs : DEFAULT_TIMING.txDelayMs,
    frequencyHz: modem?.tuned?.frequencyHz ?? null,
  };
}

/** “Proposed” is what has shown that it works; what is only taken where nobody chooses is not put before what was reckoned to be surer. */
function hintsOf(
  advice: Pick<ProposedPath, 'school' | 'reason'>,
  isProven: boolean,
  known: readonly ProposedPath[],
): Readonly<Record<PathSchool, string>> {
  const hints = PATH_SCHOOLS.map(({ id, reason }) => {
    const reckoned = known.find(({ school }) => school === id);
    const chance = reckoned ? ` About ${ofHundred(reckoned.arrives)} of 100 arrive.` : '';
    if (id !== advice.school) return [id, reason + chance];
    return [id, isProven ? `Proposed. ${advice.reason}` : `Taken where nothing is chosen. ${advice.reason}${chance}`];
  });
  return Object.fromEntries(hints) as Record<PathSchool, string>;
}

/** Everything that the composer shows about a draft; all figures from the frame as it would be sent. */
export function planText(
  draft: Pick<DraftView, 'addressee' | 'body' | 'inParts' | 'school' | 'ownPath' | 'askAcknowledgement'>,
  { txDelayMs, frequencyHz }: Transmitter,
  own: string | null,
  proposed: readonly ProposedPath[],
): Plan {
  const addressee = checkAddressee(draft.addressee);
  const known = addressee.ok ? proposed.filter(({ to }) => to === addressee.value) : [];
  const proven = known.find(({ shown }) => shown);
  const advice = proven ?? {
    school: PATH_SCHOOLS[0].id,
    reason: addressee.ok
      ? 'The widest of the usual paths, as long as no narrower one has shown that it works.'
      : 'The widest of the usual paths, as long as it is not said whom it is for.',
  };
  const school = draft.school === 'advised' ? advice.school : draft.school;
  const path =
    school === 'own'
      ? pathElements(draft.ownPath)
      : [...PATH_SCHOOLS.find((candidate) => candidate.id === school)!.path];
  const { texts, problem } = textsOf(draft, MAX_MESSAGE_TEXT, checkMessageText);
  const frameOf = (text: string) => {
    const info = encodeMessage({
      addressee: addressee.ok ? addressee.value : 'X',
      text,
      number: draft.askAcknowledgement ? '00' : null,
    });
    return info.ok ? frameToSend(own ?? 'QT0AA', path, info.value) : info;
  };
  const airS = (text: string) => {
    const sent = frameOf(text);
    return sent.ok ? airTimeMs(sent.value, { ...DEFAULT_TIMING, txDelayMs }) / 1000 : null;
  };
  const frame = frameOf('x');
  const airTimeS =
    problem !== null || texts.length === 0
      ? null
      : texts.map(airS).reduce<number | null>((sum, air) => (sum === null || air === null ? null : sum + air), 0);
  const times = (draft.askAcknowledgement && known.find((one) => one.school === school)?.times) || null;
  const asks = draft.askAcknowledgement ? 'ask for acknowledgement' : 'no acknowledgement';
  const frequency = frequencyHz === null ? 'radio' : `${formatMHz(frequencyHz / 1e6)} MHz`;
  return {
    path,
    school,
    hints: hintsOf(advice, proven !== undefined, known),
    octets: octetsOfText(draft.body).length,
    airTimeS,
    channelTimeS: airTimeS === null ? null : airTimeS * (1 + pathHops(path)),
    addresseeProblem: addressee.ok || draft.addressee === '' ? null : addressee.error.reason,
    textProblem: draft.body === '' ? null : problem,
    parts: texts.length,
    airS,
    times,
    pathProblem: frame.ok || school !== 'own' ? null : frame.error.reason,
    buttonWords: `Send ${texts.length > 1 ? `${texts.length} texts ` : ''}by ${frequency} ${VIA_WORDS[school]}, ${asks}${times === null ? '' : `, up to ${times} times`}`,
  };
}
