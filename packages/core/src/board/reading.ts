import { baseCall } from '../link/address';
import { fail, ok, type Parsed } from '../result';
import { pattern } from '../text/pattern';
import { LONGEST_LINE } from './patterns';
import {
  fillTemplate,
  linesOf,
  type BoardEntry,
  type BoardMessage,
  type BoardProfile,
  type Carried,
  type LeftState,
} from './profile';

/** Whether a line or the text so far holds what a pattern of the profile describes. */
export const holdsPattern = (source: string, received: string): boolean =>
  pattern(`(?m)${source}`).test(received.slice(-10 * LONGEST_LINE));

/** True when the board waits for a command: the prompt is the whole last line, not the end of somebody's subject. */
export const waitsForCommand = (profile: BoardProfile, received: string): boolean =>
  pattern(`^(?:${profile.prompt})$`).test((linesOf(received.slice(-LONGEST_LINE).trimEnd()).at(-1) ?? '').trimEnd());

/** Octets of some lines with one octet for the end of each but the last: the least that a board may count. */
const leastOctets = (lines: readonly string[]): number =>
  lines.reduce((sum, line) => sum + new TextEncoder().encode(line).length, Math.max(0, lines.length - 1));

/**
 * Where the text of a message lies: a text may imitate the mark of its own end, so the first mark at which it is as long as the board said
 * counts; where none is, the last. `certain` tells which of the two it was.
 */
function textSpan(
  profile: BoardProfile,
  number: string,
  octets: number,
  lines: readonly string[],
): { first: number; last: number; certain: boolean } | null {
  const begins = pattern(`^${profile.read.textBegins}$`);
  const first = lines.findIndex((line) => line.length <= LONGEST_LINE && begins.test(line.trimEnd()));
  if (first < 0) return null;
  const ends = fillTemplate(profile.read.textEnds, { number });
  let last = -1;
  for (let i = first + 1; i < lines.length; i++) {
    if (lines[i]!.trimEnd() !== ends) continue;
    last = i;
    if (octets > 0 && leastOctets(lines.slice(first + 1, i)) >= octets) return { first, last, certain: true };
  }
  return { first, last, certain: false };
}

/** Whether a message has come whole: certainly, perhaps – when nothing more follows –, or not yet. */
export function messageIsWhole(
  profile: BoardProfile,
  number: string,
  octets: number,
  received: string,
): 'yes' | 'perhaps' | 'no' {
  if (!waitsForCommand(profile, received)) return 'no';
  const span = textSpan(profile, number, octets, linesOf(received));
  if (span?.certain) return 'yes';
  // A board that has no such message answers without a text.
  return span === null || span.last >= 0 || octets === 0 ? 'perhaps' : 'no';
}

/** Rows of a listing, and the lines between them that are none. */
export function readListing(profile: BoardProfile, text: string): { rows: BoardEntry[]; other: string[] } {
  const row = pattern(`^${profile.list.row}$`);
  const rows: BoardEntry[] = [];
  const other: string[] = [];
  for (const line of linesOf(text)) {
    const found = line.length <= LONGEST_LINE ? row.exec(line.trimEnd()) : null;
    if (!found?.number) {
      if (line.trim() !== '') other.push(line);
      continue;
    }
    rows.push({
      number: found.number,
      key: found.key ?? '',
      bulletin: found.type === profile.list.bulletinType,
      octets: Number(found.octets ?? 0) || 0,
      from: found.from ?? '',
      to: found.to ?? '',
      at: found.at ?? '',
      subject: found.subject ?? '',
    });
  }
  return { rows, other };
}

/** A message as the board shows it, `octets` long by its listing; fails when its text does not begin or does not end. */
export function readMessage(profile: BoardProfile, number: string, text: string, octets = 0): Parsed<BoardMessage> {
  const lines = linesOf(text);
  const span = textSpan(profile, number, octets, lines);
  if (span === null) return fail(0, `message ${number}: its text does not begin as the profile says`);
  const { first, last } = span;
  if (last < 0) return fail(text.length, `message ${number} was cut off before its end`);
  const field = pattern(`^${profile.read.field}$`);
  const carriedLine = pattern(`^${profile.read.carried}$`);
  const fields = new Map<string, string>();
  const carried: Carried[] = [];
  for (const line of lines.slice(0, first)) {
    if (line.length > LONGEST_LINE) continue;
    const routing = carriedLine.exec(line.trimEnd());
    if (routing) {
      carried.push({ at: routing.at ?? '', board: routing.board ?? '', number: routing.number ?? '' });
      continue;
    }
    const found = field.exec(line.trimEnd());
    if (found?.name && !fields.has(found.name)) fields.set(found.name, found.value ?? '');
  }
  const of = (name: string) => fields.get(name) ?? '';
  return ok({
    number,
    key: of('key'),
    from: of('from'),
    to: of('to'),
    at: of('date'),
    subject: of('subject'),
    text: lines.slice(first + 1, last).join('\n'),
    carried,
  });
}

/** What the board says of the messages that we left there. */
export function readLeft(profile: BoardProfile, text: string): LeftState[] {
  if (!profile.mine) return [];
  const row = pattern(`^${profile.mine.row}$`);
  return linesOf(text).flatMap((line): LeftState[] => {
    const found = line.length <= LONGEST_LINE ? row.exec(line.trimEnd()) : null;
    if (!found?.number || (found.state !== 'read' && found.state !== 'forwarded')) return [];
    return [{ number: found.number, state: found.state, by: found.by ?? '', at: found.at ?? '' }];
  });
}

export type LeaveAnswer =
  | { readonly kind: 'taken'; readonly number: string; readonly key: string; readonly line: string }
  | { readonly kind: 'refused'; readonly reason: string; readonly line: string };

/** What the board answered to a message left there; null while it says neither. */
export function readLeaveAnswer(profile: BoardProfile, text: string): LeaveAnswer | null {
  const taken = pattern(`^${profile.leave.taken}$`);
  const refused = pattern(`^${profile.leave.refused}$`);
  for (const raw of linesOf(text)) {
    const line = raw.trimEnd();
    if (line.length > LONGEST_LINE) continue;
    const yes = taken.exec(line);
    if (yes) return { kind: 'taken', number: yes.number ?? '', key: yes.key ?? '', line };
    const no = refused.exec(line);
    if (no) return { kind: 'refused', reason: no.reason ?? '', line };
  }
  return null;
}

/**
 * The entry of a listing that is a message of ours: the same addressee, subject and length, from our call. Numbers that are known to be other
 * messages of ours are left out.
 */
export function findLeft(
  entries: readonly BoardEntry[],
  message: { readonly from: string; readonly to: string; readonly subject: string; readonly text: string },
  known: ReadonlySet<string>,
): BoardEntry | null {
  const base = (call: string) => baseCall(call).toUpperCase();
  const lines = linesOf(message.text);
  const least = leastOctets(lines);
  const characters = lines.join('\n').length;
  const lengths = new Set([
    least,
    characters,
    least + lines.length - 1,
    least + lines.length,
    least + 2 * lines.length,
  ]);
  return (
    entries.find(
      (entry) =>
        !known.has(entry.number) &&
        base(entry.from) === base(message.from) &&
        entry.to.toUpperCase() === message.to.toUpperCase() &&
        entry.subject.trim() === message.subject.trim() &&
        lengths.has(entry.octets),
    ) ?? null
  );
}
