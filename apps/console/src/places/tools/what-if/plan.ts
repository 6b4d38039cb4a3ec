import {
  BANDWIDTHS_HZ,
  checkMeshFrequency,
  MOST_HOPS,
  parseNodeNumber,
  parseStationCall,
  SPREADING_FACTORS,
  type Change,
  type Position,
  type RadioEnd,
} from '@tombolo/core';
import { z } from 'zod';
import type { NetWords } from './net-words';

const call = z
  .string()
  .max(9)
  .refine((text) => parseStationCall(text).ok || parseNodeNumber(text).ok);
const place = z.object({ latitude: z.number().min(-90).max(90), longitude: z.number().min(-180).max(180) });
const end = z.object({
  antennaM: z.number().min(0.5).max(500),
  powerW: z.number().min(0.001).max(2000),
  gainDbi: z.number().min(-20).max(30),
  clutterDb: z.number().min(0).max(60),
});
/** No licence-free band allows a node more (common practice, no source). */
export const MOST_MESH_W = 5;
const change = z.discriminatedUnion('what', [
  z.object({ what: z.literal('off'), call }),
  z.object({ what: z.literal('cut'), from: call, to: call }),
  z.object({ what: z.literal('changed'), call, place, end }),
  z.object({ what: z.literal('added'), call: z.string().regex(/^NEW-[1-9]$/), place, end }),
  z.object({ what: z.literal('path'), mostRepeats: z.number().int().min(0).max(MOST_HOPS) }),
  z
    .object({
      what: z.literal('radio'),
      frequencyHz: z.number().int(),
      spreadingFactor: z.number().refine((n) => SPREADING_FACTORS.some((one) => one === n)),
      bandwidthHz: z.number().refine((n) => BANDWIDTHS_HZ.some((one) => one === n)),
      powerW: z.number().min(0.001).max(MOST_MESH_W).nullable(),
    })
    .refine(({ frequencyHz, bandwidthHz }) => checkMeshFrequency(frequencyHz, bandwidthHz).ok),
]) satisfies z.ZodType<Change>;
const MOST_CHANGES = 12;
const plan = z.array(change).max(MOST_CHANGES);
export type Plan = readonly Change[];

/** A plan as it stands in an address, and back; what was tampered with is no plan. */
export const planText = (changes: Plan): string => (changes.length === 0 ? '' : JSON.stringify(changes));
export function planOf(text: string): Plan {
  try {
    const read = plan.safeParse(text === '' ? [] : JSON.parse(text));
    return read.success ? read.data : [];
  } catch {
    return [];
  }
}

/** A plan and one more change; what was said before of the same thing no longer holds. */
export function withChange(changes: Plan, added: Change): Plan {
  const about = (one: Change) =>
    one.what === 'cut'
      ? `cut ${[one.from, one.to].sort().join(' ')}`
      : one.what === 'path' || one.what === 'radio'
        ? one.what
        : one.call;
  return [...changes.filter((one) => about(one) !== about(added)), added].slice(-MOST_CHANGES);
}

/** One more that repeats, with the first name that is free. */
export function addedAt(changes: Plan, at: Position, over: RadioEnd): Change {
  const taken = new Set(changes.flatMap((one) => (one.what === 'added' ? [one.call] : [])));
  const number = [1, 2, 3, 4, 5, 6, 7, 8].find((n) => !taken.has(`NEW-${n}`)) ?? 9;
  return { what: 'added', call: `NEW-${number}`, place: { latitude: at.latitude, longitude: at.longitude }, end: over };
}

const where = ({ latitude, longitude }: Position): string =>
  `${Math.abs(latitude).toFixed(4)}° ${latitude < 0 ? 'S' : 'N'} ${Math.abs(longitude).toFixed(4)}° ${longitude < 0 ? 'W' : 'E'}`;
const withWhat = ({ antennaM, powerW }: RadioEnd): string => `antenna ${antennaM} m above the ground, ${powerW} W`;

/** One change in words, by what people call the stations. */
export function changeWords(one: Change, labelOf: (call: string) => string, words: NetWords): string {
  switch (one.what) {
    case 'path':
      return words.limit === 'hop limit'
        ? `What you send may be repeated ${one.mostRepeats === 1 ? 'once' : `up to ${one.mostRepeats} times`}`
        : one.mostRepeats === 0
          ? 'Your path asks for no digipeater'
          : one.mostRepeats === 1
            ? 'Your path asks for one digipeater alone'
            : `Your path asks for ${one.mostRepeats} digipeaters`;
    case 'radio':
      return `All nodes at ${one.frequencyHz / 1e6} MHz, spreading factor ${one.spreadingFactor}, ${one.bandwidthHz / 1000} kHz${one.powerW === null ? '' : `, ${one.powerW} W`}`;
    case 'off':
      return `${labelOf(one.call)} is off`;
    case 'cut':
      return `${labelOf(one.from)} and ${labelOf(one.to)} do not hear each other`;
    case 'changed':
      return `${labelOf(one.call)} stands at ${where(one.place)}, ${withWhat(one.end)}`;
    case 'added':
      return `${one.call}, a ${words.repeater} more, at ${where(one.place)}, ${withWhat(one.end)}`;
  }
}
