import {
  parseStationCall,
  PATH_SCHOOLS,
  REGIONS,
  setUpSheet,
  symbolOf,
  type KeptPiece,
  type SheetLine,
  type SheetPlan,
} from '@tombolo/core';
import { z } from 'zod';
import { carriageOf } from './bearers/kind';
import type { BearerView } from './bearers/views';
import type { Tick } from './equipment';
import { ownStation, type Settings } from './settings';

/** What is known of nobody's plan. */
export const NO_PLAN: SheetPlan = {
  call: null,
  symbol: '/[',
  packetMHz: null,
  path: [],
  reportEveryS: null,
  comment: '',
  place: null,
  mesh: null,
};

/** How a set tells where it is (common practice, no source: half an hour where it stays, two minutes in a vehicle). */
export const REPORTS = [
  { id: 'hand', title: 'By hand', hint: 'Only when somebody presses for it.', everyS: null, stays: false },
  {
    id: 'stays',
    title: 'It stays where it is',
    hint: 'Every 30 min, from a typed position.',
    everyS: 1800,
    stays: true,
  },
  { id: 'moves', title: 'It moves', hint: 'Every 2 min, from its receiver.', everyS: 120, stays: false },
] as const;
export type Reports = (typeof REPORTS)[number]['id'];

/** Whose sheet it is, as it is typed. */
export const sheetHolder = z.object({
  /** Empty for us. */
  who: z
    .string()
    .max(20)
    .default('')
    .superRefine((who, context) => {
      const fault = holderFault(who);
      if (fault) context.addIssue({ code: 'custom', message: fault });
    }),
  /** Ours where nothing is said. */
  symbol: z
    .string()
    .refine((text) => symbolOf(text) !== null, 'a table and a code, such as /[')
    .optional(),
  reports: z.enum(REPORTS.map(({ id }) => id)).default('hand'),
});
export interface SheetHolder {
  readonly who: string;
  readonly symbol: string;
  readonly reports: Reports;
}

/** What is wrong with a call sign as it was typed; null for none, or for nothing typed yet. */
export function holderFault(who: string): string | null {
  const read = who.trim() === '' ? null : parseStationCall(who.trim().toUpperCase());
  return read && !read.ok ? read.error.reason : null;
}

/** What somebody is going to do with a set, by what the station knows: channel and path of its modem, or else of the region. */
export function planOf(holder: SheetHolder, settings: Settings, bearers: readonly BearerView[]): SheetPlan {
  const carried = bearers.map((bearer) => ({ bearer, carriage: carriageOf(bearer.config) }));
  const packets = carried.find(({ carriage }) => carriage.what === 'packets');
  const texts = carried.find(({ carriage }) => carriage.what === 'texts')?.carriage;
  const reports = REPORTS.find(({ id }) => id === holder.reports)!;
  const typed = holder.who.trim().toUpperCase();
  return {
    call: typed === '' ? ownStation(settings) : holderFault(typed) === null ? typed : null,
    symbol: holder.symbol,
    packetMHz:
      packets?.bearer.tuned?.frequencyHz !== undefined && packets.bearer.tuned.frequencyHz !== null
        ? packets.bearer.tuned.frequencyHz / 1e6
        : (REGIONS.find(({ id }) => id === settings.region)?.packetMHz ?? null),
    path: packets?.carriage.what === 'packets' ? packets.carriage.path : PATH_SCHOOLS[0].path,
    reportEveryS: reports.everyS,
    comment: '',
    place: reports.stays ? settings.position : null,
    mesh:
      texts?.what === 'texts' && texts.radio
        ? { radio: texts.radio, channels: texts.channels.map(({ name }) => name) }
        : null,
  };
}

/** Whether the sheet of a piece says anything of whoever holds it. */
export const asksWho = (piece: KeptPiece, pieces: readonly KeptPiece[]): boolean =>
  setUpSheet(piece, pieces, NO_PLAN).some(({ id }) => id === 'call');

/** A tick holds for the value that it was put to. */
export const tickHolds = (tick: Tick | undefined, { value }: SheetLine): boolean =>
  tick?.done === true && tick.value === value;
