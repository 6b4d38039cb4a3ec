import { gcm } from '@noble/ciphers/aes';
import { sha256 } from '@noble/hashes/sha2';
import { hexOfOctets, joinOctets, octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { meshHeader, type MeshFrame } from './frame';

export const KEY_OCTETS = 32;
export const NONCE_OCTETS = 12;
const TAG_OCTETS = 16;
/** What sealing adds to a body. */
export const SEAL_OCTETS = NONCE_OCTETS + TAG_OCTETS;

/** What a sealed body is bound to: copied into another packet it does not open. The hops change on the way and are left out. */
export type SealContext = Pick<MeshFrame, 'mark' | 'sender' | 'addressee' | 'number'>;

const bound = (context: SealContext): Uint8Array =>
  meshHeader({ ...context, sealed: true, hopsLeft: 0, hops: 0 }, true);

/**
 * Seals a body under a channel key: AES-256 in GCM (NIST SP 800-38D), nonce first, tag last; the header without its hops is the
 * additional data. A nonce must never be used twice with a key. Only for licence-free bands: on amateur bands nothing is encrypted.
 */
export function sealPayload(payload: Uint8Array, key: Uint8Array, nonce: Uint8Array, context: SealContext): Uint8Array {
  if (key.length !== KEY_OCTETS) throw new Error(`a channel key has ${KEY_OCTETS} octets`);
  if (nonce.length !== NONCE_OCTETS) throw new Error(`a nonce has ${NONCE_OCTETS} octets`);
  return joinOctets([nonce, gcm(key, nonce, bound(context)).encrypt(payload)]);
}

/** Opens a sealed body; fails when the key is another one, or a bit was changed on the way. */
export function openPayload(sealed: Uint8Array, key: Uint8Array, context: SealContext): Parsed<Uint8Array> {
  if (key.length !== KEY_OCTETS) return fail(0, `a channel key has ${KEY_OCTETS} octets`);
  if (sealed.length < SEAL_OCTETS) return fail(sealed.length, 'too short for a sealed body');
  try {
    const nonce = sealed.subarray(0, NONCE_OCTETS);
    return ok(gcm(key, nonce, bound(context)).decrypt(sealed.subarray(NONCE_OCTETS)));
  } catch {
    return fail(0, 'sealed under another key, or changed on the way');
  }
}

/** Four hexadecimal digits that tell a receiver which of its channels a packet is for, without telling the key. */
export const channelMark = (name: string, key: Uint8Array | null): string =>
  hexOfOctets(sha256(joinOctets([octetsOfText(`${name}\u0000`), key ?? new Uint8Array(0)])).subarray(0, 2));
