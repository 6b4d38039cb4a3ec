/** Where the octets of a field stand: Mic-E packets carry half of what they say in the destination. */
export type FieldPart = 'information' | 'destination';

/**
 * Told of each field while a packet is read: its name, what it says in plain words, and its octets [from, to) in the
 * information field or, where `part` says so, in the destination. The same reader decodes and explains; without a listener no
 * words are made.
 */
export type Note = (name: string, words: string, from: number, to: number, part?: FieldPart) => void;

/** A listener for a part of a packet that begins at `shift`. What stands in the destination of a packet inside has no place of its own. */
export const shifted = (note: Note | undefined, shift: number, prefix = ''): Note | undefined =>
  note &&
  ((name, words, from, to, part) =>
    part === 'destination' ? note(prefix + name, words, 0, 0) : note(prefix + name, words, from + shift, to + shift));
