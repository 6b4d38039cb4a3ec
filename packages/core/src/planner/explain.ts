import type { Spread } from './tried';

/** A chance as people weigh it: never none, never all. */
export const ofHundred = (chance: number): number => Math.min(99, Math.max(1, Math.round(100 * chance)));

/** `40 s`, `3 min`, `2 h`. */
export function aboutTime(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  if (seconds < 90 * 60) return `${Math.round(seconds / 60)} min`;
  return `${Math.round(seconds / 3600)} h`;
}

export interface Explained {
  /** Such as `by packet radio, direct`. */
  readonly how: string;
  readonly arrives: Spread;
  readonly ninetyS: number | null;
  /** What would prove it, and up to where: to whom it is for, or only to who hands it on (`until`, such as `POSTBX`); null where nothing would. */
  readonly proven: { readonly spread: Spread; readonly by: string; readonly until: string | null } | null;
  /** Receptions that it rests on, the last of them, and tries of our own. */
  readonly receptions: number;
  readonly lastAgoS: number | null;
  readonly answered: number;
  readonly unanswered: number;
  /** What it rests on where neither receptions nor tries tell: `node VLCLIN was heard 3 min ago`; null for the map alone. */
  readonly otherwise: string | null;
}

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

function provedWords(proven: Explained['proven']): string {
  if (proven === null) return '; nothing would prove it';
  const share = `; ${ofHundred(proven.spread.chance)} of 100 are proved`;
  // What comes after is not proved by it, so that more may be proved than arrive.
  return proven.until === null ? `${share} by ${proven.by}` : `${share} as far as ${proven.until}`;
}

/** A way in two sentences: what it comes to, and what that rests on. */
export function explainWay(way: Explained): readonly [string, string] {
  const soon = way.ninetyS === null ? '' : `, nine of ten of these within ${aboutTime(way.ninetyS)}`;
  const proof = provedWords(way.proven);
  const first = `${capital(way.how)}: about ${ofHundred(way.arrives.chance)} of 100 arrive${soon}${proof}.`;
  const tries = way.answered + way.unanswered;
  const rests = [
    way.receptions > 0
      ? `${way.receptions} ${way.receptions === 1 ? 'reception' : 'receptions'}${way.lastAgoS === null ? '' : `, the last ${aboutTime(way.lastAgoS)} ago`}`
      : null,
    tries > 0 ? `${tries} ${tries === 1 ? 'try' : 'tries'} of our own, ${way.answered} answered` : null,
  ].filter((part) => part !== null);
  return [
    first,
    rests.length > 0
      ? `It rests on ${rests.join(' and ')}.`
      : `A guess: ${way.otherwise ?? 'by the map alone, nothing was heard of this way yet'}.`,
  ];
}
