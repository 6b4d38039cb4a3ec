import { fail, ok, type Parsed } from '../result';

/** What another person needs to join a channel. */
export interface ChannelInvitation {
  readonly name: string;
  /** 32 octets in base64; null for an open channel. */
  readonly key: string | null;
}

const HEAD = 'tombolo-channel:1:';

/** One line, for a QR code or to be read out: `tombolo-channel:1:NAME:KEY`, NAME percent-encoded, KEY in base64url. */
export const formatInvitation = ({ name, key }: ChannelInvitation): string =>
  `${HEAD}${encodeURIComponent(name)}:${
    key === null
      ? ''
      : key
          .replaceAll('+', '-')
          .replaceAll('/', '_')
          .replace(/={1,2}$/, '')
  }`;

/** Reads an invitation; fails with what is wrong with it. */
export function parseInvitation(text: string): Parsed<ChannelInvitation> {
  const trimmed = text.trim();
  if (!trimmed.startsWith(HEAD)) return fail(0, 'this is no invitation to a channel');
  const parts = trimmed.slice(HEAD.length).split(':');
  if (parts.length !== 2) return fail(HEAD.length, 'the invitation is not whole');
  const [encoded, key] = parts as [string, string];
  let name: string;
  try {
    name = decodeURIComponent(encoded);
  } catch {
    return fail(HEAD.length, 'the name of the channel cannot be read');
  }
  if (name.trim() === '' || name.length > 24)
    return fail(HEAD.length, 'the name of the channel has 1 to 24 characters');
  if (key === '') return ok({ name, key: null });
  if (!/^[A-Za-z0-9_-]{43}$/.test(key)) return fail(HEAD.length + encoded.length + 1, 'the key is not whole');
  return ok({ name, key: `${key.replaceAll('-', '+').replaceAll('_', '/')}=` });
}
