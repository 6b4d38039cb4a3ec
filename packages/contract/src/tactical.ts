import { parseStationCall } from '@tombolo/core';
import { z } from 'zod';
import { ADDRESSES } from './people';

/** A name by its task, such as Shelter 2; never one that could be taken for a call. */
export const tacticalName = z
  .string()
  .trim()
  .min(2, 'at least two characters')
  .max(24, 'at most 24 characters')
  .regex(/^\p{L}[\p{L}\p{N} ./-]*$/u, 'a letter first, then letters, digits, blanks and . / -')
  .refine((name) => !parseStationCall(name.toUpperCase()).ok, 'that could be taken for a call sign');

/** Which station goes by a name from now on; whoever had the name has it no more. */
export const tacticalChange = z.object({ name: tacticalName, call: ADDRESSES.call });
export type TacticalChange = z.infer<typeof tacticalChange>;

/** Who went by a name from when until when; null while it still holds. */
export const tacticalView = z.object({
  id: z.uuid(),
  name: z.string(),
  call: z.string(),
  since: z.iso.datetime(),
  until: z.iso.datetime().nullable(),
});
export type TacticalView = z.infer<typeof tacticalView>;

/** So many hold at a time; of what is over, so many of the last are told. */
export const MOST_TACTICAL = 200;
export const MOST_TACTICAL_OVER = 500;

/** The name that a station had at an instant (ISO 8601), the last one given of several; without an instant, the one that holds. */
export function tacticalNameOf(names: readonly TacticalView[], call: string, at?: string): string | null {
  const station = call.trim().toUpperCase();
  const atMs = at === undefined ? null : Date.parse(at);
  const holds = ({ since, until }: TacticalView) =>
    atMs === null ? until === null : Date.parse(since) <= atMs && (until === null || atMs < Date.parse(until));
  return (
    names
      .filter((one) => one.call === station && holds(one))
      .sort((a, b) => Date.parse(b.since) - Date.parse(a.since))[0]?.name ?? null
  );
}
