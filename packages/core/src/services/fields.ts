import { parseStationCall } from '../link/address';
import { fail, ok, type Parsed } from '../result';
import { readDecimal } from '../typed/number';
import type { FieldKind } from './service';

/** RFC 5321, 4.5.3.1: octets of the local part and of the domain. */
const MOST_LOCAL = 64;
const MOST_DOMAIN = 255;
/** RFC 5322, 3.2.3: dot-atom-text. */
const DOT_ATOM = /^[A-Za-z0-9!#$%&'*+/=?^_`-]+(?:\.[A-Za-z0-9!#$%&'*+/=?^_`-]+)*$/;
/** RFC 1123, 2.1: labels of a host name. */
const HOST = /^[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?(?:\.[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?)+$/;
/** ITU-T E.164 allows 15 digits of a number, before which a prefix for abroad may stand. */
const MOST_DIGITS = 20;
const LEAST_DIGITS = 3;
/** Short waves to microwaves, MHz. */
const LOWEST_MHZ = 0.1;
const HIGHEST_MHZ = 300_000;

/** Digits alone, as services take a number: `+00 (555) 0142` is `005550142`. */
function readPhone(typed: string): Parsed<string> {
  const bare = typed.replace(/^\+/, '').replace(/[\s().\/\u2010-\u2015-]/g, '');
  const at = bare.search(/\D/);
  if (at >= 0) return fail(typed.indexOf(bare[at]!), `“${bare[at]}” is no digit`);
  return bare.length < LEAST_DIGITS || bare.length > MOST_DIGITS
    ? fail(0, `a phone number has ${LEAST_DIGITS} to ${MOST_DIGITS} digits, this has ${bare.length}`)
    : ok(bare);
}

/** An address that stands alone in a line, without a name and without quotes. */
function readMail(typed: string): Parsed<string> {
  const blank = typed.search(/\s/);
  if (blank >= 0) return fail(blank, 'no blanks within a mail address');
  const at = typed.lastIndexOf('@');
  if (at < 0) return fail(typed.length, 'an “@” is missing');
  const [local, domain] = [typed.slice(0, at), typed.slice(at + 1)];
  if (!DOT_ATOM.test(local) || local.length > MOST_LOCAL) return fail(0, `“${local}” cannot stand before the “@”`);
  // Unsafe on the air: channels of a modem are switched by it.
  if (/[{|}~]/.test(local)) return fail(0, 'that address cannot be sent by packet radio');
  return HOST.test(domain) && domain.length <= MOST_DOMAIN
    ? ok(`${local}@${domain.toLowerCase()}`)
    : fail(at + 1, domain === '' ? 'nothing stands behind the “@”' : `“${domain}” is no mail domain`);
}

const inCapitals =
  (pattern: RegExp, what: string) =>
  (typed: string): Parsed<string> => {
    const text = typed.toUpperCase();
    return pattern.test(text) ? ok(text) : fail(0, what);
  };

function readFrequency(typed: string): Parsed<string> {
  const mhz = readDecimal(typed.replace(/MHz$/i, ''));
  if (!Number.isFinite(mhz)) return fail(0, 'a frequency in MHz, such as 7.185');
  if (mhz < LOWEST_MHZ || mhz > HIGHEST_MHZ) return fail(0, `between ${LOWEST_MHZ} and ${HIGHEST_MHZ} MHz`);
  return ok(String(Number(mhz.toFixed(6))));
}

function readFreeText(typed: string): Parsed<string> {
  const text = typed.replace(/[\r\n\t ]+/g, ' ').trim();
  const at = text.search(/[|~{\u0000-\u001f\u007f]/);
  return at < 0
    ? ok(text)
    : fail(at, `${/[|~{]/.test(text[at]!) ? `“${text[at]}”` : 'a control character'} cannot be sent`);
}

const READERS: Readonly<Record<FieldKind, (typed: string) => Parsed<string>>> = {
  phone: readPhone,
  mail: readMail,
  group: inCapitals(/^[A-Z0-9]{1,9}$/, 'one to nine letters and digits'),
  call: (typed) => {
    const call = typed.toUpperCase();
    const read = parseStationCall(call);
    return read.ok ? ok(call) : read;
  },
  place: (typed) =>
    /^[\p{L}\p{N}][\p{L}\p{N} .'-]{0,29}$/u.test(typed)
      ? ok(typed.replace(/ +/g, ' '))
      : fail(0, 'a locator or the name of a place, at most 30 letters and digits'),
  reference: inCapitals(/^[A-Z0-9]{1,6}[-/][A-Z0-9]{1,6}$/, 'a reference such as HS-014'),
  frequency: readFrequency,
  mode: inCapitals(/^[A-Z0-9]{1,8}$/, 'a mode such as SSB, one to eight letters and digits'),
  text: readFreeText,
};

/** What was typed into a field, as it is sent; total: fails in words with what is wrong. */
export function readField(kind: FieldKind, typed: string): Parsed<string> {
  const text = typed.trim();
  return text === '' ? fail(0, 'it is missing') : READERS[kind](text);
}
