import { z } from 'zod';
import { MOST_PEOPLE } from './people';
import { chance, instant } from './traffic';

/** Of so many it is told at a time. */
export const EVERYBODY_AT_ONCE = 10;

/** The internet behind gateways, as something that may fail: no call, tag or bearer is called so. */
export const INTERNET = 'the internet';
/** More is not thought off at once. */
export const MOST_OFF = 20;
const MOST_LETTERS = 64;

/** What is thought off, with commas between: bearers by their identity, stations and services by their call, nodes by their tag, and the internet. */
const offText = z
  .string()
  .regex(new RegExp(`^(?:[^,]{1,${MOST_LETTERS}}(?:,[^,]{1,${MOST_LETTERS}}){0,${MOST_OFF - 1}})?$`));
export const everybodyQuestion = z.object({
  off: offText.default(''),
  /** Behind so many of the list. */
  from: z.coerce.number().int().min(0).max(MOST_PEOPLE).default(0),
});
/** As a list; of a text that names nothing, or too much, an empty one. */
export const offOf = (text: string): string[] =>
  text !== '' && offText.safeParse(text).success ? [...new Set(text.split(','))] : [];

/** Something of which a way makes use, and which may fail. */
const reliance = z.object({
  id: z.string(),
  what: z.enum(['bearer', 'station', 'node', 'service', 'internet']),
  /** What people call it. */
  label: z.string(),
  /** Names of those who would be left without any way if it alone failed as well. */
  needed: z.array(z.string()),
});
export type Reliance = z.infer<typeof reliance>;

/** The ways to some of the list of people, by everything that carries, and on what they rely. */
export const everybodyView = z.object({
  at: instant,
  people: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      /** The surest way; null where none has a chance worth the name. */
      surest: z.object({ title: z.string(), chance, basis: z.enum(['evidence', 'map']) }).nullable(),
      /** By what there is a way: a service, somebody's hand, a bearer; the surest first. */
      by: z.array(z.string()),
      /** Why there is no way; null where there is one, or nothing is known. */
      why: z.string().nullable(),
    }),
  ),
  /** How many stand on the list in all. */
  of: z.number().int(),
  relies: z.array(reliance),
});
export type EverybodyView = z.infer<typeof everybodyView>;
