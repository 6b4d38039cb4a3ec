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

/** Fills the fields of a template; line breaks cannot be smuggled into a command. */
export const fillTemplate = (template: string, fields: Readonly<Record<string, string>>): string =>
  template.replace(/\{(\w+)\}/g, (_, name: string) => (fields[name] ?? '').replace(/[\r\n]+/g, ' '));

export const linesOf = (text: string): string[] => text.split(/\r\n|\r|\n/);

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
