import { fail, ok, type Parsed } from '../result';
import { isAnnouncement, type BulletinLine } from './bulletin-line';
import { checkMessageText, encodeBulletin } from './message';

/** A bulletin or announcement of ours. */
export interface OwnBulletin {
  readonly line: string;
  /** Empty for everybody. */
  readonly group: string;
  readonly text: string;
}

/** What is wrong with one that is to go out; null when nothing is. */
export function faultOfBulletin({
  line,
  group,
  text,
}: OwnBulletin): { field: keyof OwnBulletin; reason: string } | null {
  if (!/^[0-9A-Z]$/.test(line))
    return { field: 'line', reason: 'a digit for a bulletin, a letter for an announcement' };
  if (!/^[A-Z0-9]{0,5}$/.test(group)) return { field: 'group', reason: 'up to five letters or digits, or nothing' };
  const checked = checkMessageText(text);
  return checked.ok ? null : { field: 'text', reason: checked.error.reason };
}

export const encodeOwnBulletin = ({ line, group, text }: OwnBulletin): Parsed<Uint8Array> =>
  encodeBulletin(line, group === '' ? null : group, text);

/** How often it is told again, min, and for how long, h. (Common habit, from memory: ch. 14 sets neither.) */
export const BULLETIN_HABIT = {
  bulletin: { everyMin: 20, forH: 4 },
  announcement: { everyMin: 60, forH: 24 },
} as const;
export const habitOf = (line: string) => BULLETIN_HABIT[isAnnouncement(line) ? 'announcement' : 'bulletin'];

/** What is not heard any more for that long counts as over, h. (Our own rule: a bulletin its four hours, an announcement two days.) */
const OVER_AFTER_H = { bulletin: 4, announcement: 48, warning: 12 } as const;
export const isBulletinOver = (sort: BulletinLine['sort'], lastAtMs: number, nowMs: number): boolean =>
  nowMs - lastAtMs > OVER_AFTER_H[sort] * 3_600_000;

export interface HeardLine extends BulletinLine {
  readonly lastAtMs: number;
  readonly over: boolean;
  readonly distanceKm: number | null;
}
const SORTS: readonly BulletinLine['sort'][] = ['warning', 'bulletin', 'announcement'];

/** The order in which they are read: what is not over first, then warnings, the lines in their order, the latest, the nearest. */
export const byLine = (a: HeardLine, b: HeardLine): number =>
  Number(a.over) - Number(b.over) ||
  SORTS.indexOf(a.sort) - SORTS.indexOf(b.sort) ||
  (a.line < b.line ? -1 : a.line > b.line ? 1 : 0) ||
  // What was told within the same round is as old.
  Math.floor(b.lastAtMs / ROUND_MS) - Math.floor(a.lastAtMs / ROUND_MS) ||
  (a.distanceKm ?? Infinity) - (b.distanceKm ?? Infinity) ||
  b.lastAtMs - a.lastAtMs ||
  0;
const ROUND_MS = 20 * 60_000;

/** A group as it is entered: capitals, without blanks. */
export function readGroup(text: string): Parsed<string> {
  const group = text.trim().toUpperCase();
  return /^[A-Z0-9]{1,5}$/.test(group) ? ok(group) : fail(0, 'a group has one to five letters or digits');
}
