import { fail, ok, type Parsed } from '../result';

/** Octets of a node's number on the air: 40 bits. */
export const NODE_NUMBER_OCTETS = 5;

/** As an addressee: everybody on the channel. It is no node's own number. */
export const EVERYBODY = 'ZZZZ-ZZZZ';

/** Crockford's base 32: no I, L, O, U. */
const DIGITS = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
const READ_AS: Readonly<Record<string, string>> = { I: '1', L: '1', O: '0' };
const GROUP = 4;

/** 40 bits, most significant octet first, as eight digits of Crockford's base 32 in two groups. */
export function formatNodeNumber(octets: Uint8Array): string {
  let value = 0;
  for (let i = 0; i < NODE_NUMBER_OCTETS; i++) value = value * 256 + (octets[i] ?? 0);
  let digits = '';
  for (let i = 0; i < 2 * GROUP; i++) {
    digits = DIGITS[value % 32]! + digits;
    value = Math.floor(value / 32);
  }
  return `${digits.slice(0, GROUP)}-${digits.slice(GROUP)}`;
}

/** The five octets of a number in its written form. */
export function nodeNumberOctets(number: string): Uint8Array {
  let value = 0;
  for (const digit of number.replace('-', '')) value = value * 32 + Math.max(0, DIGITS.indexOf(digit));
  const octets = new Uint8Array(NODE_NUMBER_OCTETS);
  for (let i = NODE_NUMBER_OCTETS - 1; i >= 0; i--) {
    octets[i] = value % 256;
    value = Math.floor(value / 256);
  }
  return octets;
}

/**
 * Reads a number as somebody types or reads it out: in either case, with hyphens or blanks anywhere, I and L for 1, O for 0 – as
 * Crockford's base 32 has it. Gives the written form `XXXX-XXXX`.
 */
export function parseNodeNumber(text: string): Parsed<string> {
  let digits = '';
  for (let i = 0; i < text.length; i++) {
    const char = text[i]!.toUpperCase();
    if (char === '-' || char === ' ') continue;
    const digit = READ_AS[char] ?? char;
    if (!DIGITS.includes(digit)) return fail(i, `“${text[i]!}” is no digit of a node’s number`);
    digits += digit;
    if (digits.length > 2 * GROUP) return fail(i, 'a node’s number has eight digits');
  }
  if (digits.length < 2 * GROUP) return fail(text.length, 'a node’s number has eight digits');
  return ok(`${digits.slice(0, GROUP)}-${digits.slice(GROUP)}`);
}

/** Upper-case letters and digits, one to six: what people call a node. */
export const NODE_TAG = /^[A-Z0-9]{1,6}$/;
