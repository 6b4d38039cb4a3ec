import { RUNGS, type RadioEnd } from '@tombolo/core';
import { z } from 'zod';
import { chance, instant, precedence, spread } from './traffic';
import { meshRadio } from './bearers/mesh-mqtt';
import { way } from './write';

/** Longest time that a way is planned for. */
export const MOST_PLANNED_MIN = 7 * 24 * 60;
/** Own tries that are so old still tell whether somebody answers. */
export const OWN_TRIES_DAYS = 30;

/** Which ways there are for somebody, for a text of that length. */
export const waysQuestion = z.object({
  /** A name of the list of people, or any address. */
  to: z.string().trim().min(1).max(254),
  text: z.string().max(20_000).default(''),
  precedence: precedence.default('routine'),
  /** Minutes that it has; null for as long as it takes. */
  withinMin: z.number().positive().max(MOST_PLANNED_MIN).nullable().default(null),
});
export type WaysQuestion = z.infer<typeof waysQuestion>;

/** One hop that a chance rests on, opened down to what was heard. */
export const restsOn = z.object({
  from: z.string(),
  to: z.string(),
  chance: spread,
  heard: z.number().int(),
  inferred: z.number().int(),
  missed: z.number().int(),
  /** Tries that failed, for what it did not repeat while others did counts: about a third of a miss each. */
  passedOver: z.number().int(),
  /** Heard the other way, which counts for less. */
  heardBack: z.number().int(),
  missedBack: z.number().int(),
  lastAt: instant.nullable(),
  /** That one of them may be off, for it is silent longer than its habit; null where that is not so. */
  silence: z.string().nullable(),
  /** Of our own first hop: packets of ours in a day whose path asked for that first (`WIDE2` for any count of it), and how many of them it was heard repeating; of a mesh, where nobody signs a repeat, no element is named, and anybody repeated them. Null where there were none. */
  ours: z.object({ element: z.string().nullable(), sent: z.number().int(), repeated: z.number().int() }).nullable(),
  /** What was believed before anything was heard, and why. */
  before: z.object({ chance, words: z.string() }),
});
export type RestsOn = z.infer<typeof restsOn>;

export const VIRTUES = [
  'surest',
  'fastest',
  'least air time',
  'best proof',
  'fewest hands',
  'fails for other reasons',
] as const;

/** What came of the forecasts for one addressee: so many were to be expected to be proved, and so many were. */
const theirs = z.object({ count: z.number().int(), expected: z.number(), happened: z.number().int() });

export const plannedWay = z.object({
  id: z.string(),
  title: z.string(),
  /** What sets it apart from the others. */
  virtues: z.array(z.enum(VIRTUES)),
  sentences: z.tuple([z.string(), z.string()]),
  arrives: spread,
  /** Chance that it arrives where the one that is proposed first does not, by the links and causes that both hang on; null for that one. */
  afterFirst: chance.nullable(),
  /** Chance that it works at all, however often it is tried: the path is right, their set is on, and they answer texts. Null where that is not doubted. */
  works: chance.nullable(),
  /** Over how many digipeaters its answer is reckoned: as many as their own packets ask for, where that is known, else as many as ours. Null where digipeaters carry none. */
  answer: z.object({ hops: z.number().int(), known: z.boolean() }).nullable(),
  /** What was reckoned before it was corrected by how earlier forecasts came out; null where nothing was. */
  reckoned: chance.nullable(),
  /** What came of earlier forecasts for the same addressee, which corrects it besides what came of all; null where none was judged. */
  theirs: theirs.nullable(),
  /** What would prove it to us, and how likely; null where nothing would. */
  proof: z.object({ rung: z.enum(RUNGS), proven: spread }).nullable(),
  expectedS: z.number(),
  ninetyS: z.number(),
  airS: z.number(),
  hands: z.number().int(),
  /** Strips of its causeway: who hands it to whom, and the chance of each. */
  strips: z.array(z.object({ from: z.string(), to: z.string(), chance, seen: z.boolean() })),
  rests: z.array(restsOn),
  tries: z.object({
    answered: z.number().int(),
    unanswered: z.number().int(),
    /** Of those that were not answered, so many fell into a silence of theirs, and count for little. */
    inSilence: z.number().int(),
  }),
  basis: z.enum(['evidence', 'map']),
  cautions: z.array(z.string()),
  /** How it is sent: the way, the address by it, and the command of a service. */
  send: z.object({
    way,
    to: z.string(),
    inParts: z.boolean(),
    command: z
      .object({ service: z.string(), command: z.string(), values: z.record(z.string(), z.string()) })
      .nullable(),
    /** Who takes it to the addressee by hand, whose name then stands in front of the text; null where nobody has to. */
    broughtBy: z.string().nullable(),
  }),
});
export type PlannedWay = z.infer<typeof plannedWay>;

/**
 * Whether a way has shown that it works: something of ours was answered by it, or, for one without a digipeater, the other end was heard
 * straight. What is only believed stands among the ways, to be chosen; nobody's text goes by it unasked.
 */
export const hasShown = ({
  tries,
  rests,
  send: { way: by, to },
}: {
  readonly tries: Pick<PlannedWay['tries'], 'answered'>;
  readonly rests: readonly Pick<RestsOn, 'from' | 'heard'>[];
  readonly send: Pick<PlannedWay['send'], 'way' | 'to'>;
}): boolean =>
  tries.answered > 0 ||
  (by.by === 'packets' && by.path.length === 0 && rests.some(({ from, heard }) => from === to && heard > 0));

/** A question to the far set, answered by itself, that would tell most of the ways to it for its air time. */
const askFirst = z.object({
  title: z.string(),
  text: z.string(),
  /** Expected, its answer and what repeats both included. */
  airS: z.number(),
  /** Of what is open about the ways to it now, the share that it is expected to settle. */
  settles: chance,
  /** Ways to it of which it tells. */
  ways: z.number().int(),
  send: plannedWay.shape.send,
});
export type AskFirst = z.infer<typeof askFirst>;

export const waysView = z.object({
  at: instant,
  /** Whom it was taken for: a person of the list, or null for the address as it was given. */
  person: z.string().nullable(),
  /** The one that is proposed first: the surest, or what takes less of the channel and is nearly as sure. None is beaten by another in everything, but for those that are there because they share nothing with it. */
  ways: z.array(plannedWay),
  /** What does not go, why, and what would bring it back. */
  excluded: z.array(z.object({ title: z.string(), reason: z.string(), remedy: z.string() })),
  /** True when there was no room for every way that was found. */
  cut: z.boolean(),
  /** Null where nothing is worth asking. */
  askFirst: askFirst.nullable(),
});
export type WaysView = z.infer<typeof waysView>;

const bin = z.object({ count: z.number().int(), predicted: chance, happened: chance, low: chance, high: chance });
export const calibration = z.object({
  name: z.string(),
  count: z.number().int(),
  bins: z.array(bin).readonly(),
  brier: z.number(),
  parts: z.object({ reliability: z.number(), resolution: z.number(), uncertainty: z.number() }),
  error: z.number(),
  errorByChance: z.number(),
});
export type CalibrationView = z.infer<typeof calibration>;

/** What was predicted and what came of it: all, by kind of bearer, and by what it rested on. */
export const predictionsView = z.object({
  all: calibration,
  byBearer: z.array(calibration),
  byBasis: z.array(calibration),
  /** By kind of bearer, what is told of what was reckoned, for what it is corrected by: some chances as examples. */
  corrections: z.array(
    z.object({
      name: z.string(),
      examples: z.array(z.object({ reckoned: chance, told: chance })).readonly(),
      /** For whom they came out most otherwise than for the rest, those first. */
      theirs: z.array(theirs.extend({ to: z.string() })).readonly(),
    }),
  ),
  /** Sendings that are still open, and those that asked for no acknowledgement, so that nothing can be said of them. */
  open: z.number().int(),
  enough: z.number().int(),
});
export type PredictionsView = z.infer<typeof predictionsView>;

/** A station of the net, as it is known now. */
const radioEnd = z.object({
  antennaM: z.number(),
  powerW: z.number(),
  gainDbi: z.number(),
  clutterDb: z.number(),
}) satisfies z.ZodType<RadioEnd>;

const netStation = z.object({
  /** Its call, or the number of a node. */
  call: z.string(),
  /** What people say: the call, or what the node is called. */
  label: z.string(),
  /** Of the list of people, or what a node tells of itself; null where nobody has that call. */
  name: z.string().nullable(),
  place: z.object({ latitude: z.number(), longitude: z.number() }).nullable(),
  repeats: z.boolean(),
  /** Whether a change of the chance to reach it is told; a digipeater of nobody is only gone over. */
  wanted: z.boolean(),
  /** How it stands on the air: ours by Equipment, others as is usual. */
  end: radioEnd,
});

/** Who hears whom directly, and how surely, by packet radio or on one mesh: what a change of the net is reckoned from. */
export const netView = z.object({
  at: instant,
  own: z.string().nullable(),
  /** The bearer of a mesh; null for packet radio. */
  bearerId: z.string().nullable(),
  /** On what a mesh works; null for packet radio, and while it is not set. */
  mesh: meshRadio.nullable(),
  /** How often what we send may be repeated at most. */
  mostRepeats: z.number().int(),
  /** What one more that repeats would be put up with. */
  addedEnd: radioEnd,
  stations: z.array(netStation),
  hops: z.array(
    z.object({
      from: z.string(),
      to: z.string(),
      /** The chance as a belief, Beta(alpha, beta). */
      belief: z.object({ alpha: z.number(), beta: z.number() }),
      /** Whether it was heard, there or back; else it is a guess, for all that was missed. */
      seen: z.boolean(),
    }),
  ),
  silences: z.array(z.string()),
});
export type NetView = z.infer<typeof netView>;

/** Who would hear one transmission of ours that goes to everybody, such as a position, over each of the usual paths. */
export const audienceView = z.object({
  at: instant,
  /** Of how many stations it is told. */
  stations: z.number().int(),
  paths: z.array(
    z.object({
      path: z.array(z.string()),
      /** How many of them hear it on average. */
      expected: z.number(),
    }),
  ),
  /** The path that is enough: a longer one brings hardly more. Null where nobody is known to hear any. */
  enough: z.array(z.string()).nullable(),
});
export type AudienceView = z.infer<typeof audienceView>;
