import { checkAddressee, FIELD_KINDS, PROVES, type Service } from '@tombolo/core';
import { z } from 'zod';
import { instant } from './traffic';

const words = (most: number, least = 1) =>
  z
    .string()
    .trim()
    .min(least, 'it is missing')
    .max(most, `at most ${most} characters`)
    .regex(/^\P{Cc}*$/u, 'no control characters');
const id = z.string().regex(/^[a-z][a-zA-Z0-9]{0,19}$/, 'a small letter, then letters and digits, at most 20 in all');

const field = z
  .object({
    id,
    title: words(40),
    kind: z.enum(FIELD_KINDS, 'one of the kinds of fields'),
    optional: z.boolean().default(false),
    offers: z.array(words(40)).max(12, 'at most twelve').default([]),
  })
  .refine(({ id: name, kind }) => (kind === 'text') === (name === 'text'), {
    path: ['id'],
    message: 'the field of free text is called text, and no other is',
  });

const unlike =
  <T>(of: (one: T) => string, what: string) =>
  (all: readonly T[], context: z.RefinementCtx) => {
    const seen = new Set<string>();
    for (const [n, one] of all.entries()) {
      if (seen.has(of(one)))
        context.addIssue({ code: 'custom', path: [n], message: `two ${what} are called “${of(one)}”` });
      seen.add(of(one));
    }
  };

const command = z.object({
  id,
  title: words(40),
  fields: z
    .array(field)
    .max(8, 'at most eight fields')
    .superRefine(unlike(({ id: name }) => name, 'fields')),
  template: words(200),
  asksAcknowledgement: z.boolean().default(true),
  positionFirst: z.boolean().default(false),
  answerWithinS: z
    .number('seconds')
    .int('whole seconds')
    .min(10, '10 s or more')
    .max(604_800, 'a week at most')
    .default(120),
  leftBy: id.nullable().default(null),
  cautions: z.array(words(200)).max(8, 'at most eight cautions').default([]),
});

const answer = z.object({
  pattern: z.string().min(1, 'it is missing').max(400, 'at most 400 characters'),
  proves: z.enum(PROVES, 'one of what an answer can prove'),
  of: z.array(id).max(20).default([]),
});

/** An address that a text can be sent to: a service is called by a word. */
export const serviceAddress = z
  .string()
  .trim()
  .toUpperCase()
  .superRefine((text, context) => {
    const checked = checkAddressee(text);
    if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
  });

/** A service that is reached by message. Whether its templates and patterns can be used is the station's to say. */
export const service = z.object({
  address: serviceAddress,
  name: words(40),
  purpose: words(200),
  reached: words(80, 0).default(''),
  commands: z
    .array(command)
    .min(1, 'at least one command')
    .max(20, 'at most twenty commands')
    .superRefine(unlike(({ id: name }) => name, 'commands')),
  answers: z.array(answer).max(60, 'at most sixty patterns').default([]),
}) satisfies z.ZodType<Service>;
export type WantedService = z.input<typeof service>;

/** A service of the directory, as often as it was changed. */
export const keptService = z.object({ ...service.shape, revision: z.number().int() });
export type KeptService = z.infer<typeof keptService>;

/** What is kept of a service; `revision` as it was looked at, null for one that is not there yet: of two who change it the second is told. */
export const serviceChange = z.object({ service, revision: z.number().int().nullable() });
export type ServiceChange = z.input<typeof serviceChange>;

export const MOST_SERVICES = 200;

/** The directory as a file. */
export const servicesFile = z.object({
  format: z.literal('tombolo services', 'a file of services of this program'),
  version: z.literal(1, 'version 1'),
  services: z
    .array(service)
    .max(MOST_SERVICES, `at most ${MOST_SERVICES} services`)
    .superRefine(unlike(({ address }) => address, 'services')),
});
export type ServicesFile = z.infer<typeof servicesFile>;

/** A text that came from a service: which of its patterns knows it. */
export const serviceText = z.object({
  id: z.uuid(),
  at: instant,
  text: z.string(),
  /** Number of the pattern, from 0; null for a text that none knows. */
  known: z.number().int().nullable(),
  /** What was asked of that service last before it, by field; null where nothing was. */
  asked: z.record(z.string(), z.string()).nullable(),
});
export type ServiceText = z.infer<typeof serviceText>;

/** How many texts of a service a pattern is tried on. */
export const TEXTS_TRIED = 200;

export const serviceTrial = z.object({ pattern: answer.shape.pattern });
export const serviceTried = z.object({ matches: z.array(z.uuid()), of: z.number().int() });
export type ServiceTried = z.infer<typeof serviceTried>;

/** What was begun at a service and not ended since: a group that one is in. */
export const joinedService = z.object({
  address: z.string(),
  /** The command that ends it, with what it takes. */
  leave: z.string(),
  title: z.string(),
  values: z.record(z.string(), z.string()),
  since: instant,
});
export type JoinedService = z.infer<typeof joinedService>;

export const byAddress = z.object({ address: serviceAddress });
