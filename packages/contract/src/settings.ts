import {
  DEFAULT_RETRY,
  MOST_TRIES,
  MOST_STATUS_OCTETS,
  OWN_SYMBOLS,
  parseStationCall,
  REGIONS,
  symbolOf,
  type RetryPolicy,
} from '@tombolo/core';
import { z } from 'zod';
import { autoAnswer } from './auto-answer';
import { abbreviations } from './abbreviations';
import { phraseDecks } from './phrases';
import { beaconPlan } from './beacon';
import { ownEmergency } from './emergency';
import { goesOut } from './own-objects';
import { position } from './place';
import { positionSource } from './position-source';
import { repeating } from './repeating';
import { trackerFeed } from './trackers';
import { waypointsOut } from './waypoints';

const regionIds = REGIONS.map((region) => region.id) as [
  (typeof REGIONS)[number]['id'],
  ...(typeof REGIONS)[number]['id'][],
];

export { path, pathElement } from './path';

export { position } from './place';

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

/** Who operates, and under which licence. */
export const operatorSettings = z.object({
  call: ownCall,
  ssid: z.number().int().min(0).max(15),
  /** Whom the station belongs to; stays on it. */
  name: z
    .string()
    .trim()
    .max(60)
    .regex(/^\P{Cc}*$/u, 'no control characters'),
  /** The first of the two questions that hold the transmitter. */
  licenceConfirmed: z.boolean(),
});

/** What the station does, whoever operates it. */
export const stationSettings = z.object({
  region: z.enum(regionIds),
  position: position.nullable(),
  /** What keeps the position. */
  positionSource,
  /** How our position goes out by itself; null while it does not. */
  beacon: beaconPlan.nullable(),
  /** Trackers from elsewhere; null for none. */
  trackerFeed: trackerFeed.nullable(),
  /** How our status goes out by itself; null while it does not. */
  statusPlan: goesOut.nullable(),
  /** Repeating for others, as a fill-in; null while it is off. */
  repeating: repeating.nullable(),
  /** What a navigation receiver gets of what is heard; null for nothing. */
  waypointsOut: waypointsOut.nullable(),
  /** Our own call for help, while it goes out. */
  emergency: ownEmergency.nullable(),
  /** The second question. */
  antennaConfirmed: z.boolean(),
  retry: retryPolicy,
  /** Tries at most where it is reckoned whether one more is worth its air time. */
  mostTries: z.number().int().min(2).max(20),
  /** After so many minutes without an answer a text by packet radio goes on by a surer path by itself, once; null for never. */
  otherPathMin: z.number().int().min(1).max(240).nullable(),
  /** After so many minutes without an answer a text is written again for a surer bearer to the same person by itself, once; null for never. */
  otherBearerMin: z.number().int().min(1).max(240).nullable(),
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
  /** Frequency on which we listen for voice, MHz. */
  voiceMHz: z.number().min(1).max(6000).nullable(),
  /** Answers questions of other stations (where we are, whom we hear) by itself. */
  answerQueries: z.boolean(),
  /** How others draw us: table and code of the symbol. */
  symbol: z.string().refine((text) => symbolOf(text) !== null, 'a table and a code, such as /['),
  /** What is written again and again; null for the usual phrases. */
  phraseDecks: phraseDecks.nullable(),
  /** What may be written for what in a text that is too long; null for the usual ones. */
  abbreviations: abbreviations.nullable(),
  /** What is answered by itself to whoever writes; null for nothing. */
  autoAnswer: autoAnswer.nullable(),
  /** Groups whose bulletins are for us; null for all. Those of others are kept, and put away at once. */
  bulletinGroups: z
    .array(z.string().regex(/^[A-Z0-9]{1,5}$/, 'one to five letters or digits'))
    .max(50)
    .nullable(),
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

/** Both; each is kept and changed by itself. */
export const settings = operatorSettings.extend(stationSettings.shape);
export type OperatorSettings = z.infer<typeof operatorSettings>;
export type StationSettings = z.infer<typeof stationSettings>;
export type Settings = z.infer<typeof settings>;

/** The parts in which settings are kept. */
export const SETTINGS_PARTS = { operator: operatorSettings, station: stationSettings } as const;
export type SettingsPart = keyof typeof SETTINGS_PARTS;

/** Holding everything and calling for help are actions of their own: they must work at once. */
export const settingsChange = settings.omit({ heldSince: true, emergency: true }).partial();
export type SettingsChange = z.infer<typeof settingsChange>;

const defaultOperator: OperatorSettings = { call: '', ssid: 7, name: '', licenceConfirmed: false };
const defaultStation: StationSettings = {
  region: 'other',
  position: null,
  positionSource: { by: 'typed' },
  beacon: null,
  trackerFeed: null,
  statusPlan: null,
  repeating: null,
  waypointsOut: null,
  emergency: null,
  antennaConfirmed: false,
  retry: DEFAULT_RETRY,
  mostTries: MOST_TRIES,
  otherPathMin: null,
  otherBearerMin: null,
  storeLimit: 500,
  automaticAirS: 30,
  automaticAirPerStationS: 6,
  keepHeardMonths: null,
  backupEveryDays: null,
  backupsKept: 7,
  heldSince: null,
  voiceMHz: null,
  answerQueries: false,
  symbol: OWN_SYMBOLS[0],
  phraseDecks: null,
  abbreviations: null,
  bulletinGroups: null,
  autoAnswer: null,
  statusText: '',
};
export const defaultSettings: Settings = { ...defaultOperator, ...defaultStation };

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
