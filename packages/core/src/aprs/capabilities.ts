import { utf8OfLatin1 } from '../octets';
import type { Note } from './note';

/** What a station says that it can do: tokens, some with a value (Protocol Reference 1.0.1, ch. 15). */
export type Capabilities = readonly { readonly name: string; readonly value: string | null }[];

const MEANINGS: Readonly<Record<string, string>> = {
  IGATE: 'passes packets between radio and internet',
  MSG_CNT: 'messages passed on',
  LOC_CNT: 'stations heard locally',
};

/** `<IGATE,MSG_CNT=43,LOC_CNT=14`. Never fails: a token is what stands between commas. */
export function decodeCapabilities(text: string, note?: Note): Capabilities {
  const tokens: { name: string; value: string | null }[] = [];
  let at = 1;
  for (const piece of text.slice(1).split(',')) {
    const equals = piece.indexOf('=');
    const name = utf8OfLatin1(equals < 0 ? piece : piece.slice(0, equals)).trim();
    const value = equals < 0 ? null : utf8OfLatin1(piece.slice(equals + 1)).trim();
    if (name !== '') {
      tokens.push({ name, value });
      const meaning = MEANINGS[name];
      note?.(meaning ? `${name} (${meaning})` : name, value ?? 'yes', at, at + piece.length);
    }
    at += piece.length + 1;
  }
  return tokens;
}

export const encodeCapabilities = (tokens: Capabilities): string =>
  `<${tokens.map(({ name, value }) => (value === null ? name : `${name}=${value}`)).join(',')}`;
