import { RE2JS } from 're2js';
import { fail, ok, type Parsed } from '../result';

/**
 * How one kind of bulletin board words its prompts and commands: data, not code. Patterns are regular expressions over single
 * lines, of the syntax that RE2 knows, with named groups for what they find; templates have their fields in braces.
 */
export interface BoardProfile {
  readonly id: string;
  readonly name: string;
  /** The end of what the board sent when it waits for a command. */
  readonly prompt: string;
  readonly list: {
    readonly unread: string;
    readonly everything: string;
    /** Groups: number, type, octets, from, to, at, key, subject. */
    readonly row: string;
    /** What `type` reads for a bulletin. */
    readonly bulletinType: string;
  };
  readonly read: {
    /** Field: number. */
    readonly command: string;
    /** Groups: name, value; the names from, to, date, subject and key are understood. */
    readonly field: string;
    /** A routing line; groups: at, board, number. */
    readonly carried: string;
    readonly textBegins: string;
    /** Field: number. */
    readonly textEnds: string;
  };
  readonly leave: {
    /** Field: to. */
    readonly private: string;
    readonly bulletin: string;
    readonly asksSubject: string;
    readonly asksText: string;
    /** The line that ends the text; a line of the text that reads the same gets a space in front. */
    readonly endOfText: string;
    /** Groups: number, key. */
    readonly taken: string;
    /** Group: reason. */
    readonly refused: string;
  };
  /** What became of messages that we left; boards that do not tell leave it out. */
  readonly mine?: {
    readonly command: string;
    /** Groups: number, state (`read` or `forwarded`), by, at. */
    readonly row: string;
  };
  readonly goodbye: string;
}

export interface BoardEntry {
  readonly number: string;
  readonly key: string;
  readonly bulletin: boolean;
  readonly octets: number;
  readonly from: string;
  readonly to: string;
  /** As the board writes it, UTC. */
  readonly at: string;
  readonly subject: string;
}

export interface Carried {
  readonly at: string;
  readonly board: string;
  readonly number: string;
}

export interface BoardMessage {
  readonly number: string;
  readonly key: string;
  readonly from: string;
  readonly to: string;
  readonly at: string;
  readonly subject: string;
  readonly text: string;
  /** Boards that carried it, the one it was left at last. */
  readonly carried: readonly Carried[];
}

export interface LeftState {
  readonly number: string;
  readonly state: 'read' | 'forwarded';
  readonly by: string;
  readonly at: string;
}

/** Longest line that a pattern is tried on: boards are on the air, and the air is hostile. */
const LONGEST_LINE = 400;

/**
 * Patterns come from whoever wrote the profile and meet whatever is on the air: an engine of linear time runs them, without
 * look-around and back-references. Compiled once.
 */
const compiled = new Map<string, RE2JS>();
function pattern(source: string): { test(line: string): boolean; exec(line: string): Record<string, string> | null } {
  let known = compiled.get(source);
  if (!known) {
    known = RE2JS.compile(source);
    if (compiled.size >= MOST_COMPILED) compiled.clear();
    compiled.set(source, known);
  }
  const expression = known;
  return {
    test: (line) => expression.matcher(line).find(),
    exec(line) {
      const found = expression.matcher(line);
      if (!found.find()) return null;
      const groups: Record<string, string> = {};
      for (const name of Object.keys(expression.namedGroups())) groups[name] = found.group(name) ?? '';
      return groups;
    },
  };
}
const MOST_COMPILED = 200;

/** Fills the fields of a template; line breaks cannot be smuggled into a command. */
export const fillTemplate = (template: string, fields: Readonly<Record<string, string>>): string =>
  template.replace(/\{(\w+)\}/g, (_, name: string) => (fields[name] ?? '').replace(/[\r\n]+/g, ' '));

/** Every pattern of a profile that is no regular expression, by name. */
export function checkProfile(profile: BoardProfile): Parsed<BoardProfile> {
  const patterns: Record<string, string> = {
    prompt: profile.prompt,
    'list row': profile.list.row,
    field: profile.read.field,
    carried: profile.read.carried,
    'text begins': profile.read.textBegins,
    'asks for the subject': profile.leave.asksSubject,
    'asks for the text': profile.leave.asksText,
    taken: profile.leave.taken,
    refused: profile.leave.refused,
    ...(profile.mine && { mine: profile.mine.row }),
  };
  for (const [name, source] of Object.entries(patterns)) {
    try {
      pattern(source);
    } catch (error) {
      return fail(0, `the pattern “${name}” cannot be used: ${(error as Error).message}`);
    }
  }
  return ok(profile);
}

export const linesOf = (text: string): string[] => text.split(/\r\n|\r|\n/);

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
  const base = (call: string) => call.split('-')[0]!.toUpperCase();
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

/** Lines of a text as they are sent: none of them can end it early. */
export const textToLeave = (profile: BoardProfile, text: string): string[] => [
  ...linesOf(text).map((line) => (line.trimEnd() === profile.leave.endOfText ? ` ${line}` : line)),
  profile.leave.endOfText,
];

/** `2026-11-25 07:40`, UTC, as ISO 8601; null for anything else. */
export function instantOfBoard(text: string): string | null {
  const found = /^(\d{4}-\d\d-\d\d) (\d\d:\d\d)$/.exec(text.trim());
  const ms = found ? Date.parse(`${found[1]}T${found[2]}:00Z`) : NaN;
  return Number.isNaN(ms) ? null : new Date(ms).toISOString();
}
