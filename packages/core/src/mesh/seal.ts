import { gcm } from '@noble/ciphers/aes';
import { sha256 } from '@noble/hashes/sha2';
import { hexOfOctets, joinOctets, octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';

export const KEY_OCTETS = 32;
export const NONCE_OCTETS = 12;
const TAG_OCTETS = 16;

/** What a sealed payload is bound to: a payload copied into another packet does not open. */
export interface SealContext {
  readonly id: string;
  readonly from: string;
  readonly to: string;
}

const bound = ({ id, from, to }: SealContext): Uint8Array => octetsOfText(`${id}/${from}/${to}`);

/**
 * Seals a payload under a channel key: AES-256 in GCM (NIST SP 800-38D), nonce first, tag last. A nonce must never be used
 * twice with a key. Only for licence-free bands: on amateur bands nothing is encrypted.
 */
export function sealPayload(payload: Uint8Array, key: Uint8Array, nonce: Uint8Array, context: SealContext): Uint8Array {
  if (key.length !== KEY_OCTETS) throw new Error(`a channel key has ${KEY_OCTETS} octets`);
  if (nonce.length !== NONCE_OCTETS) throw new Error(`a nonce has ${NONCE_OCTETS} octets`);
  return joinOctets([nonce, gcm(key, nonce, bound(context)).encrypt(payload)]);
}

/** Opens a sealed payload; fails when the key is another one, or a bit was changed on the way. */
export function openPayload(sealed: Uint8Array, key: Uint8Array, context: SealContext): Parsed<Uint8Array> {
  if (key.length !== KEY_OCTETS) return fail(0, `a channel key has ${KEY_OCTETS} octets`);
  if (sealed.length < NONCE_OCTETS + TAG_OCTETS) return fail(sealed.length, 'too short for a sealed payload');
  try {
    const nonce = sealed.subarray(0, NONCE_OCTETS);
    return ok(gcm(key, nonce, bound(context)).decrypt(sealed.subarray(NONCE_OCTETS)));
  } catch {
    return fail(0, 'sealed under another key, or changed on the way');
  }
}

/** Two hexadecimal digits that tell a receiver which of its channels a packet is for, without telling the key. */
export const channelMark = (name: string, key: Uint8Array | null): string =>
  hexOfOctets(sha256(joinOctets([octetsOfText(`${name}\u0000`), key ?? new Uint8Array(0)])).subarray(0, 1));
