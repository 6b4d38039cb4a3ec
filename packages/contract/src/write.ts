import {
  checkAddressee,
  checkMeshText,
  checkMessageText,
  MAX_MESSAGE_TEXT,
  mostMeshTextOctets,
  parseStationCall,
  splitText,
  type Parsed,
} from '@tombolo/core';
import { z } from 'zod';
import { meshNodeId } from './bearers';
import { boardAddress, type AddressSort } from './people';
import { path } from './settings';
import { instant, precedence } from './traffic';

const oneLine = (most: number) =>
  z
    .string()
    .trim()
    .min(1)
    .max(most)
    .refine((text) => !/[\r\n\u0000-\u001f\u007f]/.test(text), 'one line without control characters');

/** Whom it is for: somebody of the list of people, an address of the sort that the way has, or everybody there. */
export const addressee = z.discriminatedUnion('is', [
  z.object({ is: z.literal('person'), name: z.string().trim().min(1).max(60) }),
  z.object({ is: z.literal('address'), address: z.string().trim().min(1).max(254) }),
  z.object({ is: z.literal('everybody') }),
]);
export type Addressee = z.infer<typeof addressee>;

/** Largest mail that is taken into the outbox, attachments included. */
export const MOST_MAIL_OCTETS = 120_000;

const mailAddress = z.email('a mail address');
const contents = {
  text: z.object({
    is: z.literal('text'),
    body: z.string(),
    /** As several numbered texts where it does not fit one. */
    inParts: z.boolean().default(false),
  }),
  /** A command to a service: its text is made of what the directory says. */
  command: z.object({
    is: z.literal('command'),
    command: z.string().min(1).max(20),
    values: z.record(z.string().max(20), z.string().max(400)),
    /** Our position goes out before it, once. */
    positionFirst: z.boolean().default(false),
  }),
  /** Of a board: to one station, or a bulletin for all. */
  message: z.object({
    is: z.literal('message'),
    bulletin: z.boolean(),
    subject: oneLine(60),
    body: z.string().min(1, 'the text is empty').max(8000),
  }),
  mail: z.object({
    is: z.literal('mail'),
    /** Beside the addressee. */
    alsoTo: z.array(mailAddress).max(19).default([]),
    cc: z.array(mailAddress).max(20).default([]),
    subject: z
      .string()
      .trim()
      .max(200)
      .refine((text) => !/[\r\n]/.test(text), 'one line'),
    body: z.string().max(20_000),
    attachments: z
      .array(
        z.object({
          name: oneLine(100),
          type: z.string().regex(/^[\w.+-]+\/[\w.+-]+$/),
          base64: z.base64().max(4_000_000),
        }),
      )
      .max(5)
      .default([]),
  }),
};
export const content = z.discriminatedUnion('is', [contents.text, contents.command, contents.message, contents.mail]);
export type Content = z.infer<typeof content>;

const bearerId = z.string().min(1);
/** The way across: what a bearer carries, and what that way asks for. */
export const way = z.discriminatedUnion('by', [
  z.object({
    by: z.literal('packets'),
    bearerId,
    path,
    askAcknowledgement: z.boolean(),
    /** How often it is sent at most, the first time counted; absent for as often as the settings say. */
    times: z.number().int().min(2).max(20).optional(),
  }),
  /** The channel whose key it is sent under. */
  z.object({ by: z.literal('texts'), bearerId, channel: z.string().min(1).max(24) }),
  z.object({ by: z.literal('messages'), bearerId }),
  z.object({ by: z.literal('mail'), bearerId }),
]);
export type Way = z.infer<typeof way>;

/** What each way takes. */
export const CONTENTS_OF = {
  packets: ['text', 'command'],
  texts: ['text'],
  messages: ['message'],
  mail: ['mail'],
} as const satisfies Record<Way['by'], readonly Content['is'][]>;

/** By which sort of address each way reaches somebody. */
export const ADDRESS_OF_WAY = {
  packets: 'call',
  texts: 'node',
  messages: 'board',
  mail: 'mail',
} as const satisfies Record<Way['by'], AddressSort>;

/** Why an address is none of a way; null when it is one. */
function addressProblem(by: Way['by'], address: string): string | null {
  const reasonOf = (checked: Parsed<unknown>) => (checked.ok ? null : checked.error.reason);
  switch (by) {
    case 'packets': {
      // A station of amateur radio has an SSID from 0 to 15; services are called in other ways.
      const station = /^(.+)-\d+$/.exec(address.trim());
      const numbered = station && parseStationCall(station[1]!.toUpperCase()).ok;
      return (
        reasonOf(checkAddressee(address)) ??
        (numbered ? reasonOf(parseStationCall(address.trim().toUpperCase())) : null)
      );
    }
    case 'texts':
      return meshNodeId.safeParse(address).success ? null : 'the number of a node';
    case 'messages':
      return boardAddress.safeParse(address).error?.issues[0]?.message ?? null;
    case 'mail':
      return mailAddress.safeParse(address).success ? null : 'a mail address';
  }
}

/** Why a text does not fit a way; null when it does. A sealed channel takes less than an open one; the station looks at that. */
function textProblem(by: Way['by'], { body, inParts }: Extract<Content, { is: 'text' }>): string | null {
  if (by !== 'packets' && by !== 'texts') return null;
  const parts = inParts ? splitText(body, 'a', MOST_TEXT_OCTETS[by]) : { ok: true as const, value: [body] };
  if (!parts.ok) return parts.error.reason;
  for (const part of parts.value) {
    const checked = by === 'packets' ? checkMessageText(part) : checkMeshText(part, false);
    if (!checked.ok) return checked.error.reason;
  }
  return null;
}
const MOST_TEXT_OCTETS = { packets: MAX_MESSAGE_TEXT, texts: mostMeshTextOctets(false) };

/** Ways that reach everybody without an address. */
const TO_EVERYBODY: ReadonlySet<Way['by']> = new Set(['texts']);
/** Ways on which this station tries by itself until it is told that it arrived. */
export const TRIED_HERE: ReadonlySet<Way['by']> = new Set(['packets', 'texts']);
/** Ways whose addresses are in capitals. */
const CAPITALS: ReadonlySet<Way['by']> = new Set(['packets', 'messages']);

/** What to send, to whom, by which way. `id` is made by the console, so that pressing twice sends once. */
export const newItem = z
  .object({
    id: z.uuid(),
    addressee,
    content,
    way,
    precedence: precedence.default('routine'),
    /** After it no further try begins; only where this station tries by itself. */
    deadline: instant.nullable().default(null),
    /** The arrived item that it answers. */
    answers: z.uuid().nullable().default(null),
  })
  .transform((item) =>
    item.addressee.is === 'address' && CAPITALS.has(item.way.by)
      ? { ...item, addressee: { ...item.addressee, address: item.addressee.address.toUpperCase() } }
      : item,
  )
  .superRefine(({ addressee: to, content: what, deadline, way: { by } }, context) => {
    const issue = (at: (string | number)[], message: string | null) => {
      if (message !== null) context.addIssue({ code: 'custom', path: at, message });
    };
    if (deadline !== null && !TRIED_HERE.has(by))
      issue(['deadline'], 'this way waits for a session and knows no deadline');
    if (to.is === 'everybody' && !TO_EVERYBODY.has(by)) issue(['addressee'], 'this way needs an address');
    if (to.is === 'address') issue(['addressee', 'address'], addressProblem(by, to.address));
    const taken: readonly Content['is'][] = CONTENTS_OF[by];
    if (!taken.includes(what.is)) issue(['content', 'is'], `this way takes a ${taken.join(' or a ')}`);
    else if (what.is === 'text') issue(['content', 'body'], textProblem(by, what));
  });
export type NewItem = z.input<typeof newItem>;
/** The same, read. */
export type WrittenItem = z.output<typeof newItem>;
