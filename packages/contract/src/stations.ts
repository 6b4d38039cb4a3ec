import type { Frequency } from '@tombolo/core';
import { z } from 'zod';
import { heardHow, pathStatement } from './heard';
import { instant } from './traffic';

/** How it can be called by voice, as it says itself. */
export const frequencyView = z.object({
  frequencyMHz: z.number(),
  toneHz: z.number().nullable(),
  toneSquelch: z.boolean(),
  dcs: z.string().nullable(),
  toneOff: z.boolean(),
  offsetMHz: z.number().nullable(),
  rangeKm: z.number().nullable(),
  narrow: z.boolean(),
  toneBurst: z.boolean().default(false),
  receiveMHz: z.number().nullable().default(null),
}) satisfies z.ZodType<Frequency>;

/**
 * A station, a node of a mesh (by its number as `call`), or an object or item that a station reports: these have `;` or `)` in front of
 * their name as `call`.
 */
export const stationView = z.object({
  call: z.string(),
  kind: z.enum(['station', 'object', 'item', 'node']),
  name: z.string(),
  /** Of objects: who reports it. */
  owner: z.string().nullable(),
  /** False: taken off the map by its owner. */
  live: z.boolean(),
  /** What somebody who is not its owner said of it. */
  conflict: z.string().nullable(),
  firstAt: instant,
  lastAt: instant,
  how: heardHow,
  via: z.array(z.string()),
  words: z.string(),
  /** It is heard over one digipeater, and that one lately repeated our own packets first-hand. */
  repeatsUs: z.boolean(),
  bearerId: z.string().nullable(),
  bearers: z.array(z.string()),
  /** Last heard without a digipeater. */
  directAt: instant.nullable(),
  /** Last seen passing on a packet of somebody else. */
  relaysAt: instant.nullable(),
  /** Whether it takes messages; null when it has not said. */
  messaging: z.boolean().nullable(),
  latitude: z.number().nullable(),
  longitude: z.number().nullable(),
  ambiguity: z.number().int(),
  positionAt: instant.nullable(),
  symbol: z.string().nullable(),
  courseDeg: z.number().nullable(),
  speedKnots: z.number().nullable(),
  altitudeM: z.number().nullable(),
  comment: z.string().nullable(),
  status: z.string().nullable(),
  /** State that its operator set, of Mic-E stations. */
  message: z.string().nullable(),
  frequency: frequencyView.nullable(),
  weatherAt: instant.nullable(),
  telemetryAt: instant.nullable(),
  packets: z.number().int(),
  /** Places it was at so far. */
  moves: z.number().int(),
  /** A place that was reported and not believed. */
  doubtAt: instant.nullable(),
  /** From our own position; null when either is unknown. */
  distanceKm: z.number().nullable(),
  azimuthDeg: z.number().nullable(),
  muted: z.boolean(),
  note: z.string(),
  /** When its row was last changed: what a console asks for the next time. */
  changedAt: instant,
});
export type StationView = z.infer<typeof stationView>;

export const stationsQuery = z.object({ since: instant.optional() });

export const trailPoint = z.object({
  at: instant,
  latitude: z.number(),
  longitude: z.number(),
  courseDeg: z.number().nullable(),
  speedKnots: z.number().nullable(),
  altitudeM: z.number().nullable(),
  /** Why it is kept off the trail. */
  fault: z.string().nullable(),
});
export type TrailPoint = z.infer<typeof trailPoint>;

/** Who heard whom by radio, as far as paths prove it. */
export const heardLink = z.object({
  from: z.string(),
  by: z.string(),
  /** Of nodes of a mesh: tag and number. */
  fromName: z.string().nullable(),
  byName: z.string().nullable(),
  count: z.number().int(),
  /** Of these, how often the sender's own transmission was heard. */
  firstCount: z.number().int(),
  /** Of these, how often the path proves it; the others are inferred. */
  certainCount: z.number().int(),
  firstAt: instant,
  lastAt: instant,
  /** The farthest that it worked, while both places were known. */
  bestKm: z.number().nullable(),
  bestAt: instant.nullable(),
});
export type HeardLink = z.infer<typeof heardLink>;

/** One quantity of one station over time, in the unit that is shown. */
export const series = z.object({
  quantity: z.string(),
  name: z.string(),
  unit: z.string(),
  decimals: z.number().int(),
  pace: z.tuple([z.number(), z.number()]).nullable(),
  points: z.array(z.object({ at: instant, value: z.number() })),
});
export type Series = z.infer<typeof series>;

export const digitalState = z.object({ name: z.string(), label: z.string(), active: z.boolean() });

/** What a station measured: weather, or telemetry with or without definitions. */
export const readingsView = z.object({
  call: z.string(),
  kind: z.enum(['weather', 'telemetry']),
  series: z.array(series),
  digital: z.array(digitalState),
  /** Telemetry: whether the station told what its channels mean. */
  defined: z.boolean(),
  project: z.string().nullable(),
});
export type ReadingsView = z.infer<typeof readingsView>;

export const stationDetail = stationView.extend({
  /** The last packet as monitor text, and what its path tells. */
  line: z.string().nullable(),
  statements: z.array(pathStatement),
  trail: z.array(trailPoint),
  links: z.array(heardLink),
  readings: z.array(readingsView),
});
export type StationDetail = z.infer<typeof stationDetail>;

export const stationChange = z.strictObject({
  muted: z.boolean().optional(),
  note: z.string().max(2000).optional(),
});
export type StationChange = z.infer<typeof stationChange>;

const hours = z.coerce
  .number()
  .min(0.1)
  .max(24 * 31);
/** Whole numbers of trails in a degree: about a metre. */
export const TRAIL_PER_DEGREE = 1e5;
export const trailsQuery = z.object({ hours: hours.default(6), since: instant.optional() });
/**
 * A trail, oldest first: longitude and latitude of the first point, then the steps to the next ones, all in parts of a degree
 * (`TRAIL_PER_DEGREE`). Thousands of trails stay small that way.
 */
export const trailView = z.object({
  call: z.string(),
  // One predicate for the whole list: a schema for each of some hundred thousand numbers is seen on the chart.
  steps: z
    .custom<readonly number[]>(
      (steps) => Array.isArray(steps) && steps.every((step) => Number.isSafeInteger(step)),
      'steps are whole numbers',
    )
    .meta({ type: 'array', items: { type: 'integer' } }),
});
export type TrailView = z.infer<typeof trailView>;
export const readingsQuery = z.object({ kind: z.enum(['weather', 'telemetry']), hours: hours.default(24) });
export const placesExportQuery = z.object({ call: z.string().max(12).optional(), hours: hours.default(24) });
