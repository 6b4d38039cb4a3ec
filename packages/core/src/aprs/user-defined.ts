import { utf8OfLatin1 } from '../octets';
import { fail, ok, type Parsed } from '../result';
import type { Note } from './note';

/** A packet in a format of somebody's own (Protocol Reference 1.0.1, ch. 18): user, type, data. */
export interface UserDefined {
  readonly user: string;
  readonly type: string;
  readonly data: string;
}

/** User `{` is for experiments (ch. 18). */
export function decodeUserDefined(text: string, note?: Note): Parsed<UserDefined> {
  if (text.length < 3) return fail(text.length, 'a user-defined packet has a user and a type');
  const data = utf8OfLatin1(text.slice(3));
  note?.('User', text[1] === '{' ? 'experimental' : text[1]!, 1, 2);
  note?.('Type', text[2]!, 2, 3);
  if (data !== '') note?.('Data', `${data} (in a form of their own, kept as received)`, 3, text.length);
  return ok({ user: text[1]!, type: text[2]!, data });
}

export const encodeUserDefined = ({ user, type, data }: UserDefined): string => `{${user}${type}${data}`;
