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

interface Element {
  readonly form: ElementForm;
  /** How many more times it may be repeated; 0 when it has no count or is used up. */
  readonly remaining: number;
  readonly mayHide: boolean;
  readonly internet: boolean;
  readonly q: boolean;
}

const COUNTED = /^[A-Z]{1,5}([1-7])-([1-7])$/;

function readElement(call: string): Element {
  const form = GENERIC.test(call) ? 'generic' : CALL_SIGN.test(call) ? 'station' : 'unknown';
  const counted = form === 'station' ? null : COUNTED.exec(call);
  const remaining = counted ? Number(counted[2]) : 0;
  return {
    form,
    remaining,
    mayHide: counted !== null && remaining < Number(counted[1]),
    internet: call === 'TCPIP' || call === 'TCPXX',
    q: call.length === 3 && /^qA[A-Za-z]$/.test(call),
  };
}

const known = new Map<string, Element>();
/** Paths are made of few words: each is looked at once. Bounded, since words come from the air. */
const MOST_KNOWN = 4096;

/** All that the form of an element tells. */
export function elementOf(call: string): Element {
  const before = known.get(call);
  if (before !== undefined) return before;
  const element = readElement(call);
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(call, element);
  return element;
}

export const elementForm = (call: string): ElementForm => elementOf(call).form;

/** `qAR` and the like: how the internet side got it. */
export const isQConstruct = (call: string): boolean => elementOf(call).q;
/** What stands in the path of a packet that was on the internet. */
export const isInternetMark = (call: string): boolean => elementOf(call).internet;

/** How many more times a WIDEn-N element may be repeated; 0 when it is not one or is used up. */
export const remainingHops = (call: string): number => elementOf(call).remaining;

/** True for an element such as WIDE2-1: it began as WIDE2-1, or a digipeater counted it down and left no other mark. */
export const mayHideHops = (call: string): boolean => elementOf(call).mayHide;
