const ARMOUR = /-----BEGIN [A-Z ]+-----|^U2FsdGVkX1/m;
const LONG_TOKEN = /[A-Za-z0-9+/_-]{40,}={0,2}|(?:[0-9a-fA-F]{2}[\s:]?){32,}/g;
/** Bits a character; words of a language stay below, base64 of noise is near six. */
const NOISE_BITS = 4.2;

function bitsPerCharacter(text: string): number {
  const counts = new Map<string, number>();
  for (const char of text) counts.set(char, (counts.get(char) ?? 0) + 1);
  let bits = 0;
  for (const count of counts.values()) bits -= (count / text.length) * Math.log2(count / text.length);
  return bits;
}

/**
 * A guess, on the safe side: armoured blocks, and long runs without spaces that are as mixed as noise. It may be wrong both ways; the
 * operator answers for what goes out.
 */
export function looksEncrypted(text: string): boolean {
  if (ARMOUR.test(text)) return true;
  for (const [token] of text.matchAll(LONG_TOKEN)) {
    const hexadecimal = /^[0-9a-fA-F\s:]+$/.test(token);
    if (bitsPerCharacter(token) > (hexadecimal ? 3.4 : NOISE_BITS)) return true;
  }
  return false;
}

export interface RelayCheck {
  /** It would go out on an amateur band, where nothing is encrypted and a licensed operator answers for it. */
  readonly toAmateurBand: boolean;
  readonly target: string;
  readonly text: string;
  /** The sender holds a licence of their own (a call sign stands for it). */
  readonly senderLicensed: boolean;
  /** The item could not be opened: nobody here knows what it says. */
  readonly undecipherable: boolean;
  /** Stations, nodes and addresses that had the item before. */
  readonly trace: readonly string[];
  /** Where this item was passed to already. */
  readonly passedTo: readonly string[];
  /** Relays to this target in the last ten minutes. */
  readonly recentToTarget: number;
  readonly released: boolean;
}

export type RelayVerdict =
  | { readonly allowed: true }
  | {
      readonly allowed: false;
      readonly rule: 'release' | 'loop' | 'again' | 'flood' | 'encrypted';
      readonly words: string;
    };

/** More than this to one target within ten minutes is a flood. */
export const MOST_RELAYS_TO_TARGET = 6;

const refuse = (rule: Exclude<RelayVerdict, { allowed: true }>['rule'], words: string): RelayVerdict => ({
  allowed: false,
  rule,
  words,
});

/** Whether an item may be handed on this way. The first rule that forbids it is named; the item stays where it is. */
export function checkRelay(check: RelayCheck): RelayVerdict {
  if (check.undecipherable)
    return refuse(
      'encrypted',
      'Nobody here can read it: what is sealed under a key that we do not hold is not passed on.',
    );
  if (check.toAmateurBand && looksEncrypted(check.text))
    return refuse(
      'encrypted',
      'It looks encrypted, and nothing with a hidden meaning goes out on an amateur band (in the US 47 CFR 97.113(a)(4)).',
    );
  const target = check.target.toLowerCase();
  if (check.trace.some((had) => had.toLowerCase() === target))
    return refuse('loop', `${check.target} had it before: passing it back would start a loop.`);
  if (check.passedTo.some((to) => to.toLowerCase() === target))
    return refuse('again', `It was passed to ${check.target} already.`);
  if (check.recentToTarget >= MOST_RELAYS_TO_TARGET)
    return refuse(
      'flood',
      `${check.recentToTarget} items went to ${check.target} within ten minutes: wait, so that the channel is not flooded.`,
    );
  if (check.toAmateurBand && !check.senderLicensed && !check.released)
    return refuse(
      'release',
      'Third-party traffic: the sender holds no licence, so the operator has to release it (in the US 47 CFR 97.115; abroad it needs an agreement).',
    );
  return { allowed: true };
}

/** Whether the standing hours (UTC, `HH:MM`) hold at a time; over midnight when `from` is later. */
export function withinHours(hours: { readonly from: string; readonly until: string }, atIso: string): boolean {
  const time = atIso.slice(11, 16);
  return hours.from <= hours.until
    ? time >= hours.from && time < hours.until
    : time >= hours.from || time < hours.until;
}
