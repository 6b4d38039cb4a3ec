import { z } from 'zod';
import { path } from './settings';
import { chance, instant } from './traffic';

/** How something is carried to an address over one bearer, as it was planned. */
export const plannedCrossing = z.object({
  /** Of packet radio; null of what takes no path. */
  path: path.nullable(),
  /** Who takes it from us: the address itself, or who holds it for that. */
  takenBy: z.string(),
  /** Chance that they do. */
  arrives: chance,
  /** The same, and that it is proved; null where nothing would prove it. */
  proven: chance.nullable(),
});
export type PlannedCrossing = z.infer<typeof plannedCrossing>;

/** A way to hand an item on: what would be sent where, and what stands in the way. */
export const relayProposal = z.object({
  /** What the button says. */
  words: z.string(),
  bearerId: z.string(),
  /** A call, a node, a channel, a mail address. */
  to: z.string(),
  /** Who is meant in the end. */
  person: z.string().nullable(),
  text: z.string(),
  octets: z.number().int(),
  most: z.number().int(),
  /** Third-party traffic into an amateur band: the operator answers for it. */
  needsRelease: z.boolean(),
  /** The rule that forbids it, in words; null when it may go. */
  refused: z.string().nullable(),
  /** Why this way is proposed. */
  reason: z.string(),
  /** Null where nothing can be said of it. */
  planned: plannedCrossing.nullable(),
});
export type RelayProposal = z.infer<typeof relayProposal>;

export const newRelay = z.object({
  /** Made by the console: pressing twice relays once. */
  id: z.uuid(),
  bearerId: z.string().min(1),
  to: z.string().trim().min(1).max(200),
  person: z.string().max(60).nullable().default(null),
  text: z.string().min(1).max(8000),
  released: z.boolean(),
  /** Of packet radio, as it was proposed; absent for the usual one of the bearer. */
  path: path.optional(),
});
export type NewRelay = z.input<typeof newRelay>;

const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time such as 06:00');

/** Relays by itself what matches, within hours and a rate; off until an operator turns it on. */
export const standingRule = z.object({
  id: z.uuid(),
  name: z.string().trim().min(1).max(60),
  fromBearer: z.string().min(1),
  /** Whose items; empty for anybody on that bearer. */
  senders: z.array(z.string().trim().min(1).max(60)).max(50),
  toBearer: z.string().min(1),
  to: z.string().trim().min(1).max(200),
  /** UTC; over midnight when `from` is later than `until`. */
  hours: z.object({ from: clockTime, until: clockTime }),
  mostPerHour: z.number().int().min(1).max(60),
  enabled: z.boolean(),
  createdAt: instant,
});
export type StandingRule = z.infer<typeof standingRule>;
export const newStandingRule = standingRule.omit({ enabled: true, createdAt: true });
export type NewStandingRule = z.input<typeof newStandingRule>;
/** What is told of a rule anew. Whoever changes what it does has to turn it on again, unless they do so in the same breath. */
export const ruleChange = newStandingRule.omit({ id: true }).extend({ enabled: z.boolean() }).partial();
export type RuleChange = z.input<typeof ruleChange>;
