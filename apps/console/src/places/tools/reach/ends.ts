import type { StationView } from '@tombolo/contract';
import { readDecimal, readPosition, type RadioEnd, type Position } from '@tombolo/core';

/** Where one end of a way stands, and how it is called. */
export interface Place extends Position {
  readonly words: string;
}

/** A station by its call, where its position is known, or a position in any of its forms. */
export function placeOf(text: string, stations: readonly StationView[]): Place | string {
  const typed = text.trim();
  if (typed === '') return 'a call sign of a station that was heard, or a position';
  const call = typed.toUpperCase();
  const station = stations.find((one) => one.call === call);
  if (station)
    return station.latitude === null || station.longitude === null
      ? `${call} has not told where it is`
      : { words: call, latitude: station.latitude, longitude: station.longitude };
  const position = readPosition(typed);
  return position ? { words: typed, ...position } : `no station ${call} was heard, and it is no position`;
}

/** What is entered of one end, each as it was typed. */
export const END_FIELDS = [
  { id: 'antennaM', label: 'Antenna above the ground, m', least: 0.5, most: 500 },
  { id: 'powerW', label: 'Power, W', least: 0.001, most: 2000 },
  { id: 'gainDbi', label: 'Antenna gain less cable loss, dBi', least: -20, most: 30 },
  { id: 'clutterDb', label: 'Loss by what stands around it, dB', least: 0, most: 60 },
] as const;
export type EndField = (typeof END_FIELDS)[number]['id'];

/** The number in a field, or what is wrong with it. */
export function numberOf(text: string, least: number, most: number): number | string {
  const read = readDecimal(text);
  return read >= least && read <= most ? read : `a number from ${least} to ${most}`;
}

/** An end of the link; null where a field is not right. */
export function endOf(typed: Readonly<Record<EndField, string>>): RadioEnd | null {
  const numbers = END_FIELDS.map(({ id, least, most }) => [id, numberOf(typed[id], least, most)] as const);
  return numbers.some(([, number]) => typeof number === 'string')
    ? null
    : (Object.fromEntries(numbers) as Record<EndField, number>);
}
