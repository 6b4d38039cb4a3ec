import { checkPositionComment, symbolOf } from '@tombolo/core';
import { z } from 'zod';
import { position } from './place';
import { instant } from './traffic';

/** A web feed of trackers: GeoJSON (docs/formats.md), asked again and again. */
export const trackerFeed = z.object({
  url: z
    .url({ protocol: /^https?$/, error: 'an address that begins with http:// or https://' })
    .max(300, 'at most 300 characters'),
  everyS: z.number('seconds').int('whole seconds').min(30, '30 s or more').max(3600, 'an hour at most').default(60),
});
export type TrackerFeed = z.output<typeof trackerFeed>;

/** How a unit is shown, and whether it goes on the air as an object of ours. */
export const trackerChange = z.strictObject({
  /** Its name on the map: an object of ours bears it. */
  name: z
    .string()
    .regex(/^[ -~]{1,9}$/, 'one to nine characters, without letters from beyond ASCII')
    .refine((text) => text.trim() === text, 'no blanks at its ends'),
  symbol: z.string().refine((text) => symbolOf(text) !== null, 'a table and a code, such as /['),
  showBattery: z.boolean(),
  bridged: z.boolean(),
});
export type TrackerChange = z.output<typeof trackerChange>;

/** What a tracker says of itself. */
export const trackerReport = z.object({
  /** As the feed calls it. */
  unit: z.string().trim().min(1).max(60),
  ...position.shape,
  /** When it was there, as it says. */
  at: z.iso.datetime({ offset: true }),
  batteryPercent: z.number().min(0).max(100).nullable(),
  emergency: z.boolean(),
});
export type TrackerReport = z.infer<typeof trackerReport>;

export const tracker = z.object({
  ...trackerReport.shape,
  ...trackerChange.shape,
  /** Too old to go on the air. */
  stale: z.boolean(),
});
export type Tracker = z.infer<typeof tracker>;

export const trackersNow = z.object({
  feed: trackerFeed.nullable(),
  askedAt: instant.nullable(),
  /** Why the last answer could not be used, or what of it; null where all was. */
  fault: z.string().nullable(),
  units: z.array(tracker),
});
export type TrackersNow = z.infer<typeof trackersNow>;

export const byUnit = z.object({ unit: z.string().min(1).max(60) });

/** Comment of the object that a tracker is on the air: whose it is, how old, and its battery where that may be shown. */
export function trackerComment({
  unit,
  at,
  batteryPercent,
  showBattery,
}: Pick<Tracker, 'unit' | 'at' | 'batteryPercent' | 'showBattery'>): string {
  const whole = [
    `tracker ${unit.replace(/[^ -~]|[|~]/g, '-').slice(0, 20)}`,
    `${at.slice(11, 13)}${at.slice(14, 16)}z`,
    ...(showBattery && batteryPercent !== null ? [`cell ${Math.round(batteryPercent)}%`] : []),
  ].join(' ');
  return checkPositionComment(whole).ok ? whole : 'tracker';
}
