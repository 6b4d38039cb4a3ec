/**
 * What an element of a path is by its form: the call of a station, a generic element that any digipeater may answer to, or a word
 * that could be either.
 */
export type ElementForm = 'station' | 'generic' | 'unknown';

/**
 * Generic path elements (Protocol Reference 1.0.1 ch. 4, 1.1 addendum): WIDEn-N, TRACEn-N, the older RELAY, ECHO and GATE, and
 * regional ones of the form XXn-N. Used up they stand without `-N`.
 */
const GENERIC = /^(?:(?:WIDE|TRACE)\d?(?:-\d+)?|RELAY|ECHO|GATE|LOCAL|TEMP\d?(?:-\d+)?|[A-Z]{2}[1-7](?:-[1-7])?)$/;

/**
 * The form of a call sign: one or two characters with a letter among them (three where the first is a digit), a digit, and at most
 * four characters of which the last is a letter (ITU Radio Regulations, art. 19, section III). No generic element has it.
 */
const CALL_SIGN = /^(?:[A-Z]{1,2}|[A-Z]\d|\d[A-Z]{1,2})\d[A-Z0-9]{0,3}[A-Z](?:-[A-Za-z0-9]{1,2})?$/;

const known = new Map<string, ElementForm>();
/** Paths are made of few words: each is looked at once. Bounded, since words come from the air. */
const MOST_KNOWN = 4096;

export function elementForm(call: string): ElementForm {
  const before = known.get(call);
  if (before !== undefined) return before;
  const form = GENERIC.test(call) ? 'generic' : CALL_SIGN.test(call) ? 'station' : 'unknown';
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(call, form);
  return form;
}

export const isAlias = (call: string): boolean => elementForm(call) === 'generic';

/** `qAR` and the like: how the internet side got it. */
export const isQConstruct = (call: string): boolean => call.length === 3 && /^qA[A-Za-z]$/.test(call);
/** What stands in the path of a packet that was on the internet. */
export const isInternetMark = (call: string): boolean => call === 'TCPIP' || call === 'TCPXX';

const COUNTED = /^[A-Z]{1,5}([1-7])-([1-7])$/;

/** How many more times a WIDEn-N element may be repeated; 0 when it is not one or is used up. */
export function remainingHops(call: string): number {
  const found = elementForm(call) === 'station' ? null : COUNTED.exec(call);
  return found ? Number(found[2]) : 0;
}

/** True for an element such as WIDE2-1: it began as WIDE2-1, or a digipeater counted it down and left no other mark. */
export function mayHideHops(call: string): boolean {
  const found = elementForm(call) === 'station' ? null : COUNTED.exec(call);
  return found !== null && Number(found[2]) < Number(found[1]);
}
