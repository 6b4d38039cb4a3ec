import { octetsOfText, textOfOctets } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { withoutEnd } from '../text/trim';
import { readBulletinLine } from './bulletin-line';

/** Protocol Reference 1.0.1, ch. 14: addressee of 9, text of at most 67 characters. */
export const MAX_MESSAGE_TEXT = 67;
const ADDRESSEE_LENGTH = 9;
const FORBIDDEN_IN_TEXT = /[|~{]/;

export type MessageData =
  | {
      readonly kind: 'message';
      readonly addressee: string;
      readonly text: string;
      /** Line number of 1–5 characters; null asks for no acknowledgement. */
      readonly number: string | null;
      /** What stood behind `{`, whole: what older stations send back in their acknowledgement. */
      readonly numberField: string | null;
      /** 1.1 addendum: `{MM}AA` acknowledges our message AA; an empty text says only "I can do it". */
      readonly replyAck: string | null;
    }
  | {
      readonly kind: 'ack' | 'rej';
      readonly addressee: string;
      /** As it was written: words such as “reject” read like an answer to a number. */
      readonly text: string;
      readonly number: string;
      readonly replyAck: string | null;
    }
  | {
      readonly kind: 'bulletin';
      readonly addressee: string;
      /** `0`–`9` for a bulletin, `A`–`Z` for an announcement; the word of a weather warning. */
      readonly id: string;
      readonly announcement: boolean;
      readonly group: string | null;
      readonly text: string;
    };

/** Reads the information field of a message, acknowledgement, rejection or bulletin (`:` first). */
export function decodeMessage(info: Uint8Array): Parsed<MessageData> {
  if (info[0] !== 0x3a) return fail(0, 'a message starts with a colon');
  if (info.length < ADDRESSEE_LENGTH + 2) return fail(info.length, 'the message is cut off inside its addressee');
  if (info[ADDRESSEE_LENGTH + 1] !== 0x3a)
    return fail(ADDRESSEE_LENGTH + 1, 'no colon behind the nine characters of the addressee');
  const addressee = textOfOctets(info, 1, ADDRESSEE_LENGTH + 1).trimEnd();
  if (addressee === '') return fail(1, 'the addressee is empty');
  const body = withoutEnd(textOfOctets(info, ADDRESSEE_LENGTH + 2), '\r\n');

  const line = readBulletinLine(addressee);
  if (line)
    return ok({
      kind: 'bulletin',
      addressee,
      id: line.line,
      announcement: line.sort === 'announcement',
      group: line.sort === 'warning' ? 'NWS' : line.group,
      text: body,
    });
  const answer =
    (body.startsWith('ack') || body.startsWith('rej')) &&
    /^(ack|rej)([A-Za-z0-9]{1,5})(?:\}([A-Za-z0-9]{0,2}))?\s*$/.exec(body);
  if (answer) {
    return ok({
      kind: answer[1] as 'ack' | 'rej',
      addressee,
      text: body,
      number: answer[2]!,
      replyAck: answer[3] || null,
    });
  }
  const brace = body.lastIndexOf('{');
  const field = brace < 0 ? null : body.slice(brace + 1).trimEnd();
  const numbered = field === null ? null : /^([A-Za-z0-9]{1,5})(\}([A-Za-z0-9]{0,2}))?$/.exec(field);
  if (!numbered) {
    return ok({
      kind: 'message',
      addressee,
      text: body,
      number: null,
      numberField: null,
      replyAck: null,
    });
  }
  return ok({
    kind: 'message',
    addressee,
    text: body.slice(0, brace),
    number: numbered[1]!,
    numberField: field,
    replyAck: numbered[2] === undefined ? null : numbered[3]!,
  });
}

/** Why a text cannot go out as a message, with the offset of the first fault. */
export function checkMessageText(text: string): Parsed<string> {
  if (text.trim() === '') return fail(0, 'the text is empty');
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code < 0x20 || code === 0x7f) return fail(i, 'line breaks and control characters cannot be sent');
  }
  const forbidden = FORBIDDEN_IN_TEXT.exec(text);
  if (forbidden) return fail(forbidden.index, `the character ${forbidden[0]} cannot be sent in a text`);
  const octets = octetsOfText(text).length;
  if (octets > MAX_MESSAGE_TEXT)
    return fail(MAX_MESSAGE_TEXT, `${octets} of ${MAX_MESSAGE_TEXT} characters: shorten the text or send it in parts`);
  return ok(text);
}

/** An addressee as the format carries it: upper case, 1–9 printable characters, no colon. */
export function checkAddressee(text: string): Parsed<string> {
  const addressee = text.trim().toUpperCase();
  if (addressee === '') return fail(0, 'the addressee is empty');
  if (addressee.length > ADDRESSEE_LENGTH) return fail(ADDRESSEE_LENGTH, 'an addressee has at most 9 characters');
  const foreign = /[^A-Z0-9-]/.exec(addressee);
  if (foreign) return fail(foreign.index, `“${foreign[0]}” cannot stand in an addressee`);
  return ok(addressee);
}

const head = (addressee: string) => `:${addressee.padEnd(ADDRESSEE_LENGTH)}:`;

export interface MessageToSend {
  readonly addressee: string;
  readonly text: string;
  readonly number?: string | null;
  /** 1.1 addendum: undefined sends a plain number; null says "I understand reply-acks"; a text acknowledges it. */
  readonly replyAck?: string | null;
}

/** Octets of a message; fails when addressee, text or number does not fit the format. */
export function encodeMessage(message: MessageToSend): Parsed<Uint8Array> {
  const addressee = checkAddressee(message.addressee);
  if (!addressee.ok) return addressee;
  const text = checkMessageText(message.text);
  if (!text.ok) return text;
  let tail = '';
  if (message.number != null) {
    if (!/^[A-Za-z0-9]{1,5}$/.test(message.number)) return fail(0, 'a message number has 1–5 letters or digits');
    tail = `{${message.number}`;
    if (message.replyAck !== undefined) {
      if (message.number.length > 2 || (message.replyAck ?? '').length > 2)
        return fail(0, 'numbers with a reply-ack have at most 2 characters');
      tail += `}${message.replyAck ?? ''}`;
    }
  }
  return ok(octetsOfText(head(addressee.value) + text.value + tail));
}

/** Octets of `ackNNN` or `rejNNN`; `numberField` is what stood behind `{`, echoed whole. */
export function encodeAnswer(kind: 'ack' | 'rej', addressee: string, numberField: string): Parsed<Uint8Array> {
  const to = checkAddressee(addressee);
  if (!to.ok) return to;
  if (!/^[A-Za-z0-9]{1,5}(\}[A-Za-z0-9]{0,2})?$/.test(numberField))
    return fail(0, 'a message number has 1–5 letters or digits');
  return ok(octetsOfText(`${head(to.value)}${kind}${numberField}`));
}

/** Octets of a bulletin (`id` 0–9) or announcement (`id` A–Z), perhaps for a named group. */
export function encodeBulletin(id: string, group: string | null, text: string): Parsed<Uint8Array> {
  if (!/^[0-9A-Z]$/.test(id)) return fail(0, 'a bulletin is numbered 0–9, an announcement A–Z');
  if (group !== null && !/^[A-Z0-9]{1,5}$/.test(group)) return fail(0, 'a bulletin group has 1–5 letters or digits');
  const body = checkMessageText(text);
  if (!body.ok) return body;
  return ok(octetsOfText(head(`BLN${id}${group ?? ''}`) + body.value));
}

/** What looked like an answer to a number, as the text that it may be as well. */
export const asText = ({ addressee, text }: Extract<MessageData, { kind: 'ack' | 'rej' }>) =>
  ({ kind: 'message', addressee, text, number: null, numberField: null, replyAck: null }) as const;

/** Message numbers of two characters, 00–ZZ in base 36, so that a reply-ack fits (1.1 addendum). */
export const MESSAGE_NUMBERS = 36 * 36;
export const messageNumber = (counter: number): string =>
  (((counter % MESSAGE_NUMBERS) + MESSAGE_NUMBERS) % MESSAGE_NUMBERS).toString(36).toUpperCase().padStart(2, '0');
