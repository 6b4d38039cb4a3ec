import { precedence } from '@tombolo/contract';
import { PATH_SCHOOLS, type PathSchool } from '@tombolo/core';
import { z } from 'zod';

const schools: readonly (PathSchool | 'own' | 'advised')[] = [...PATH_SCHOOLS.map(({ id }) => id), 'own', 'advised'];

/** A file that goes with a mail; kept with the draft, so that nothing else can take it away. */
export const attached = z.object({ name: z.string(), type: z.string(), base64: z.string(), octets: z.number() });
export type Attached = z.infer<typeof attached>;

/** Something that is being written: for whom and on which occasion it is stays with it. */
export const draftSchema = z.object({
  id: z.string().min(1),
  /** The part of Write that it is written in. */
  way: z.string(),
  /** Whom it is for in the end: a name of the list of people, or an address as it was given; empty while only a way's own address is. */
  whom: z.string().catch(''),
  /** Whom it is for, by each way: an address of one means nothing to another. */
  to: z.record(z.string(), z.string()),
  /** Of the mesh: said on purpose, that it is for everybody on the channel. */
  everybody: z.boolean(),
  /** Who takes it by hand to whom, with that name in front of the text; null where it goes to whom it is for. */
  handOver: z.object({ by: z.string(), to: z.string() }).nullable().catch(null),
  /** Of mail and of messages on boards. */
  subject: z.string(),
  cc: z.string(),
  bulletin: z.boolean(),
  /** Of the mesh: under whose key. */
  channel: z.string(),
  body: z.string(),
  askAcknowledgement: z.boolean(),
  precedence: precedence.catch('routine'),
  /** How long it may be tried from the moment that it is sent, minutes; null while there are tries. */
  withinMin: z.number().positive().nullable().catch(null),
  /** `own` is the path that was typed. */
  school: z.enum(schools),
  ownPath: z.string(),
  /** The arrived item that it answers, by the way that it came; null for one that was begun here. */
  occasion: z.object({ item: z.string(), way: z.string() }).nullable(),
  attachments: z.array(attached),
  /** Of a service: which of its commands, and what was entered into it. */
  /** Where it does not fit one text: as several. */
  inParts: z.boolean().catch(false),
  command: z.string().catch(''),
  values: z.record(z.string(), z.string()).catch({}),
  positionFirst: z.boolean().catch(true),
  /** As what it was sent, while nobody knows whether the station took it: the next press sends the same item, after a reload too. */
  tried: z.object({ id: z.string(), what: z.string(), deadline: z.string().nullable() }).nullable().catch(null),
  changedAtMs: z.number(),
});
export type Draft = z.infer<typeof draftSchema>;

export const blankDraft = (id: string, nowMs: number): Draft => ({
  id,
  way: 'radio',
  whom: '',
  to: {},
  everybody: false,
  handOver: null,
  subject: '',
  cc: '',
  bulletin: false,
  channel: '',
  body: '',
  askAcknowledgement: true,
  precedence: 'routine',
  withinMin: null,
  school: 'advised',
  ownPath: '',
  occasion: null,
  attachments: [],
  inParts: false,
  command: '',
  values: {},
  positionFirst: true,
  tried: null,
  changedAtMs: nowMs,
});

/** A draft as the part of Write sees it that it is written in. */
export interface DraftView extends Omit<Draft, 'to' | 'occasion'> {
  readonly addressee: string;
  /** The item that it answers, while it goes by the way that the item came. */
  readonly answers: string | null;
}

export const viewOf = ({ to, occasion, ...draft }: Draft): DraftView => ({
  ...draft,
  addressee: to[draft.way] ?? '',
  answers: occasion?.way === draft.way ? occasion.item : null,
});

export type DraftChange = Partial<Omit<DraftView, 'id' | 'tried' | 'changedAtMs' | 'answers'>> & {
  readonly answers?: null;
};

/**
 * A draft with a change made in the part of Write that it is in. Addresses belong to whom it is for: for another they mean nobody, and an
 * address or a number that is entered by hand is for nobody who was named before.
 */
export function changed(draft: Draft, { addressee, answers, ...change }: DraftChange, nowMs: number): Draft {
  const another = change.whom !== undefined && change.whom !== draft.whom;
  const next: Draft = {
    ...draft,
    ...(another && { to: {}, command: '', values: {}, occasion: null }),
    ...change,
    // What was changed is another item.
    tried: null,
    changedAtMs: nowMs,
  };
  if (addressee !== undefined) next.to = { ...next.to, [next.way]: addressee };
  const elsewhere =
    addressee !== undefined || (change.values !== undefined && farEnd(change.values) !== farEnd(draft.values));
  if (elsewhere && change.whom === undefined) next.whom = '';
  // Who brings it was asked at that address, by that way.
  const otherwise = elsewhere || another || (change.way !== undefined && change.way !== draft.way) || change.everybody;
  if (otherwise && change.handOver === undefined) next.handOver = null;
  if (answers === null) next.occasion = null;
  return next;
}

/** What is entered for a service but the text itself: whom it reaches. */
const farEnd = ({ text: _, ...values }: Draft['values']): string => JSON.stringify(values);

/** Whether there is anything in it that somebody would miss. */
export const isWritten = ({ body, subject, cc, occasion, attachments, values }: Draft): boolean =>
  body.trim() !== '' ||
  Object.values(values).some((value) => value.trim() !== '') ||
  attachments.length > 0 ||
  // An answer is born with its subject.
  (occasion === null && subject.trim() !== '') ||
  cc.trim() !== '';

/** In a few words, for a list: `To QT1NC: Water is rising`. */
export function draftInWords({ way, to, everybody, bulletin, subject, body }: Draft): string {
  const whom = everybody && way === 'mesh' ? 'everybody' : to[way] || 'nobody yet';
  const what = [subject, body]
    .map((text) => text.trim())
    .filter(Boolean)
    .join(' – ');
  return `${bulletin && way === 'board' ? 'Bulletin' : 'To'} ${whom}: ${what.replace(/\s+/g, ' ').slice(0, 80) || 'nothing written'}`;
}
