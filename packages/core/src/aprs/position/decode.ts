import { fail, type Parsed } from '../../result';
import type { Note } from '../note';
import { decodeCompressed } from './compressed';
import { isDigit, SPACE } from './octets';
import { decodePlain } from './plain';
import type { PositionReport } from './report';

/**
 * Reads the position that starts at `at` of a text of one character per octet: plain (Protocol Reference 1.0.1, ch. 6 to 8)
 * or compressed (ch. 9). The first octet tells: a digit or space starts a latitude, a symbol table a compressed position.
 * What stands behind it can spoil only itself.
 */
export function decodePosition(text: string, at: number, note?: Note): Parsed<PositionReport> {
  if (at >= text.length) return fail(at, 'the position is missing');
  const first = text.charCodeAt(at);
  return isDigit(first) || first === SPACE ? decodePlain(text, at, note) : decodeCompressed(text, at, note);
}
