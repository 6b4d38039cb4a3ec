import {
  DEFAULT_RETRY,
  DISTANCE_UNITS,
  MOST_STATUS_OCTETS,
  OWN_SYMBOLS,
  parseAddress,
  parseStationCall,
  REGIONS,
  symbolOf,
  type RetryPolicy,
} from '@tombolo/core';
import { z } from 'zod';

const regionIds = REGIONS.map((region) => region.id) as [
  (typeof REGIONS)[number]['id'],
  ...(typeof REGIONS)[number]['id'][],
];

/** A path element such as WIDE1-1. */
export const pathElement = z.string().superRefine((text, context) => {
  const address = parseAddress(text);
  if (!address.ok) context.addIssue({ code: 'custom', message: `${text}: ${address.error.reason}` });
});

export const path = z.array(pathElement).max(8, 'a path has at most 8 elements');

export const position = z.object({
  latitude: z.number().min(-90).max(90),
  longitude: z.number().min(-180).max(180),
});

export const retryPolicy = z.object({
  firstS: z.number().min(1).max(3600),
  factor: z.number().min(1).max(4),
  capS: z.number().min(1).max(7200),
  tries: z.number().int().min(1).max(20),
  jitter: z.number().min(0).max(0.5),
}) satisfies z.ZodType<RetryPolicy>;

/** Own call sign in upper case; empty until the operator has typed one. */
export const ownCall = z
  .string()
  .trim()
  .toUpperCase()
  .superRefine((text, context) => {
    if (text === '') return;
    const call = parseStationCall(text);
    if (!call.ok) context.addIssue({ code: 'custom', message: call.error.reason });
    else if (text.includes('-')) context.addIssue({ code: 'custom', message: 'give the SSID in its own field' });
  });

/** Somebody who is reached through this station: by which ways, and whether they hold a licence. */
export const person = z.object({
  name: z.string().trim().min(1).max(60),
  phone: z
    .string()
    .trim()
    .regex(/^\+?[\d ]{4,20}$/, 'a phone number')
    .nullable(),
  mail: z.email('a mail address').nullable(),
  /** Tag of their node in the mesh. */
  meshNode: z.string().trim().max(6).nullable(),
  licensed: z.boolean(),
});
export type Person = z.infer<typeof person>;

export const settings = z.object({
  call: ownCall,
  ssid: z.number().int().min(0).max(15),
  region: z.enum(regionIds),
  /** Channel of the packet radio, MHz; null while the region leaves it open. */
  frequencyMHz: z.number().min(1).max(3000).nullable(),
  path,
  position: position.nullable(),
  /** The two questions that hold the transmitter. */
  licenceConfirmed: z.boolean(),
  antennaConfirmed: z.boolean(),
  retry: retryPolicy,
  /** Unfiled arrived messages of people we know, kept before new ones are rejected. */
  storeLimit: z.number().int().min(1).max(100_000),
  /** Air time that may be spent without a key pressed, s in any ten minutes: on one channel, and for one station asking. */
  automaticAirS: z.number().int().min(1).max(300),
  automaticAirPerStationS: z.number().int().min(1).max(300),
  /** Whole months of what was heard that are kept besides the present one; null for all. What evidence cites stays in any case. */
  keepHeardMonths: z.number().int().min(1).max(600).nullable(),
  /** Backups by the clock: every day, every week or never; and how many are kept. */
  backupEveryDays: z.union([z.literal(1), z.literal(7)]).nullable(),
  backupsKept: z.number().int().min(1).max(60),
  /** Set while everything that would go out is held. */
  heldSince: z.iso.datetime().nullable(),
  txDelayMs: z.number().int().min(0).max(2550),
  people: z.array(person).max(500),
  distanceUnit: z.enum(DISTANCE_UNITS),
  /** Frequency on which we listen for voice, MHz. */
  voiceMHz: z.number().min(1).max(6000).nullable(),
  /** Answers questions of other stations (where we are, whom we hear) by itself. */
  answerQueries: z.boolean(),
  /** How others draw us: table and code of the symbol. */
  symbol: z.string().refine((text) => symbolOf(text) !== null, 'a table and a code, such as /['),
  /** What our status says; empty for nothing. */
  statusText: z
    .string()
    .trim()
    .regex(/^[^|~\p{Cc}]*$/u, 'no control characters, and neither | nor ~')
    .refine(
      (text) => new TextEncoder().encode(text).length <= MOST_STATUS_OCTETS,
      `at most ${MOST_STATUS_OCTETS} octets`,
    ),
});
export type Settings = z.infer<typeof settings>;

/** Holding everything is an action of its own: it must work at once. */
export const settingsChange = settings.omit({ heldSince: true }).partial();
export type SettingsChange = z.infer<typeof settingsChange>;

export const defaultSettings: Settings = {
  call: '',
  ssid: 7,
  region: 'other',
  frequencyMHz: null,
  path: ['WIDE1-1', 'WIDE2-1'],
  position: null,
  licenceConfirmed: false,
  antennaConfirmed: false,
  retry: DEFAULT_RETRY,
  storeLimit: 500,
  automaticAirS: 30,
  automaticAirPerStationS: 6,
  keepHeardMonths: null,
  backupEveryDays: null,
  backupsKept: 7,
  heldSince: null,
  txDelayMs: 300,
  people: [],
  distanceUnit: 'km',
  voiceMHz: null,
  answerQueries: false,
  symbol: OWN_SYMBOLS[0],
  statusText: '',
};

/** `QT2AR-7`, or null while no call is set. */
export const ownStation = ({ call, ssid }: Pick<Settings, 'call' | 'ssid'>): string | null =>
  call === '' ? null : ssid === 0 ? call : `${call}-${ssid}`;

/** What still holds the transmitter, in the order in which it should be answered. */
export function transmitLocks(current: Settings): string[] {
  const locks: string[] = [];
  if (current.call === '') locks.push('Your call sign is not set.');
  if (!current.licenceConfirmed) locks.push('You have not said that your licence covers this transmission.');
  if (!current.antennaConfirmed) locks.push('You have not said that an antenna is connected.');
  return locks;
}
