import { octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { checkPositionComment, encodeOwnPosition, MOST_POSITION_COMMENT_OCTETS } from './own-position';
import { encodeStatus } from './status';
import type { Symbol } from './symbol';

/** The symbol of an emergency: table and code (Protocol Reference 1.0.1, app. 2). */
const EMERGENCY_SYMBOL: Symbol = { table: '\\', code: '!' };

const LEAD = { real: 'EMERGENCY ', drill: 'EMERGENCY DRILL ' } as const;

/** What fits behind the words that every call for help begins with; the same for a drill, so that it drills what would be sent. */
export const MOST_EMERGENCY_OCTETS = MOST_POSITION_COMMENT_OCTETS - LEAD.drill.length;

/**
 * How often our own call for help goes out: often first, then less so that others are heard; always behind the 30 s in which digipeaters drop what they
 * repeated. (Our own rule.)
 */
const FIRST_TIMES = 5;
const EVERY_MS = { first: 40_000, later: 180_000 } as const;

export interface OwnEmergency {
  readonly drill: boolean;
  /** What happened, in few words. */
  readonly words: string;
  /** Where we are; null where nobody knows. */
  readonly position: { readonly latitude: number; readonly longitude: number } | null;
}

/** Words of a call for help: one line, and room for what stands before them. */
export function checkEmergencyWords(words: string): Parsed<string> {
  const octets = octetsOfText(words).length;
  if (octets > MOST_EMERGENCY_OCTETS)
    return fail(MOST_EMERGENCY_OCTETS, `${octets} of ${MOST_EMERGENCY_OCTETS} octets: shorten it`);
  return checkPositionComment(`${LEAD.drill}${words}`).ok
    ? ok(words)
    : fail(0, 'control characters, | and ~ cannot be sent');
}

/**
 * Information field of our own call for help: a position where there is one, else a status (Protocol Reference 1.0.1, ch. 8 and 16). A drill keeps
 * our usual `symbol`: many stations raise an alarm by the symbol alone.
 */
export function encodeOwnEmergency({ drill, words, position }: OwnEmergency, symbol: Symbol): Parsed<Uint8Array> {
  const checked = checkEmergencyWords(words);
  if (!checked.ok) return checked;
  const text = `${drill ? LEAD.drill : LEAD.real}${words}`.trim();
  return position
    ? encodeOwnPosition({ ...position, symbol: drill ? symbol : EMERGENCY_SYMBOL, comment: text })
    : ok(octetsOfText(encodeStatus(text)));
}

/** Says that it is over: by a packet of the kind that called, so that whoever goes by the last word of each kind learns of it. */
export const encodeEmergencyOver = (
  { drill, position }: Pick<OwnEmergency, 'drill' | 'position'>,
  symbol: Symbol,
): Parsed<Uint8Array> => {
  const text = drill ? 'Drill is over' : 'Over: help is not needed any more';
  return position ? encodeOwnPosition({ ...position, symbol, comment: text }) : ok(octetsOfText(encodeStatus(text)));
};

/** When a call for help that was sent `times` times, the last at `lastAtMs`, goes out again, ms. */
export const nextEmergencyMs = (times: number, lastAtMs: number): number =>
  lastAtMs + (times < FIRST_TIMES ? EVERY_MS.first : EVERY_MS.later);
