const strictUtf8 = new TextDecoder('utf-8', { fatal: true });
const lenientUtf8 = new TextDecoder('utf-8');
const encoder = new TextEncoder();

/**
 * Octets as text. Plain ASCII takes a fast road; anything else is read as UTF-8, and what is not
 * valid UTF-8 becomes U+FFFD. The caller keeps the raw octets.
 */
export function textOfOctets(octets: Uint8Array, from = 0, to = octets.length): string {
  let text = '';
  for (let i = from; i < to; i++) {
    const octet = octets[i]!;
    if (octet >= 0x80) return lenientUtf8.decode(octets.subarray(from, to));
    text += String.fromCharCode(octet);
  }
  return text;
}

/** True when the octets are valid UTF-8 from end to end. */
export function isUtf8(octets: Uint8Array): boolean {
  try {
    strictUtf8.decode(octets);
    return true;
  } catch {
    return false;
  }
}

/** More arguments than this a call may not take. */
const MOST_ARGUMENTS = 4096;

/** One character per octet (code points 0–255): reversible for any octets. */
export function latin1OfOctets(octets: Uint8Array, from = 0, to = octets.length): string {
  const part = from === 0 && to === octets.length ? octets : octets.subarray(from, to);
  if (part.length <= MOST_ARGUMENTS) return String.fromCharCode.apply(null, part as unknown as number[]);
  let text = '';
  for (let i = 0; i < part.length; i += MOST_ARGUMENTS)
    text += String.fromCharCode.apply(null, part.subarray(i, i + MOST_ARGUMENTS) as unknown as number[]);
  return text;
}

/** The UTF-8 octets of a text. */
export const octetsOfText = (text: string): Uint8Array => encoder.encode(text);

/** Inverse of `latin1OfOctets`; characters above U+00FF lose their high bits. */
export function octetsOfLatin1(text: string): Uint8Array {
  const octets = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) octets[i] = text.charCodeAt(i) & 0xff;
  return octets;
}

export function joinOctets(parts: readonly Uint8Array[]): Uint8Array {
  let length = 0;
  for (const part of parts) length += part.length;
  const joined = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    joined.set(part, at);
    at += part.length;
  }
  return joined;
}

/** Lower-case hexadecimal, two digits an octet, no separators. */
export function hexOfOctets(octets: Uint8Array): string {
  let hex = '';
  for (const octet of octets) hex += octet.toString(16).padStart(2, '0');
  return hex;
}

/** Octets of a hexadecimal text; white space is ignored, an odd or foreign digit gives undefined. */
export function octetsOfHex(hex: string): Uint8Array | undefined {
  const digits = hex.replace(/\s+/g, '');
  if (digits.length % 2 !== 0 || !/^[0-9a-fA-F]*$/.test(digits)) return undefined;
  const octets = new Uint8Array(digits.length / 2);
  for (let i = 0; i < octets.length; i++) octets[i] = parseInt(digits.slice(2 * i, 2 * i + 2), 16);
  return octets;
}

export function sameOctets(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** A text of one character per octet, read as UTF-8 for people; what is not valid UTF-8 becomes U+FFFD. */
export function utf8OfLatin1(text: string): string {
  for (let i = 0; i < text.length; i++) if (text.charCodeAt(i) >= 0x80) return lenientUtf8.decode(octetsOfLatin1(text));
  return text;
}
