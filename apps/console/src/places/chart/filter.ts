import type { StationView } from '@tombolo/contract';
import { DIRECT_RANGE_MS } from '@tombolo/core';
import { isReported, meaningOf } from './symbols';

/** What the list and the map show of all that was heard. */
export interface StationFilter {
  readonly text: string;
  readonly kind: KindFilter;
  /** Km from us; null for any distance. */
  readonly withinKm: number | null;
  /** Heard within so many minutes; null for ever. */
  readonly withinMin: number | null;
  readonly bearerId: string;
  /** Muted ones, and objects that were taken off. */
  readonly hidden: boolean;
}

export const KIND_FILTERS = [
  { id: 'all', title: 'All' },
  { id: 'weather', title: 'Weather' },
  { id: 'moving', title: 'Moving' },
  { id: 'digipeaters', title: 'Digipeaters' },
  { id: 'objects', title: 'Objects' },
  { id: 'nodes', title: 'Mesh nodes' },
  { id: 'direct', title: 'In direct range' },
] as const;
export type KindFilter = (typeof KIND_FILTERS)[number]['id'];

export const NO_FILTER: StationFilter = {
  text: '',
  kind: 'all',
  withinKm: null,
  withinMin: null,
  bearerId: '',
  hidden: false,
};

/** A station counts as moving while it has moved and was heard within this time. */
const MOVING_MS = 60 * 60_000;

function isKind(station: StationView, kind: KindFilter, now: number): boolean {
  switch (kind) {
    case 'all':
      return true;
    case 'weather':
      return station.weatherAt !== null;
    case 'moving':
      return (
        !isReported(station) &&
        ((station.speedKnots ?? 0) > 0 || station.moves > 1) &&
        station.positionAt !== null &&
        now - Date.parse(station.positionAt) < MOVING_MS
      );
    case 'digipeaters':
      return station.relaysAt !== null || meaningOf(station) === 'digipeater';
    case 'objects':
      return isReported(station);
    case 'nodes':
      return station.kind === 'node';
    case 'direct':
      return station.directAt !== null && now - Date.parse(station.directAt) <= DIRECT_RANGE_MS;
  }
}

/** Whether a station passes; search looks into call, name, comment, status and the operator's own note. */
export function passes(station: StationView, filter: StationFilter, now: number): boolean {
  if (!filter.hidden && (station.muted || !station.live)) return false;
  if (!isKind(station, filter.kind, now)) return false;
  if (filter.withinKm !== null && (station.distanceKm === null || station.distanceKm > filter.withinKm)) return false;
  if (filter.withinMin !== null && now - Date.parse(station.lastAt) > filter.withinMin * 60_000) return false;
  if (filter.bearerId !== '' && !station.bearers.includes(filter.bearerId)) return false;
  const wanted = filter.text.trim().toLowerCase();
  if (wanted === '') return true;
  const { call, comment, status, note, owner } = station;
  return [call, comment, status, note, owner].some((text) => text?.toLowerCase().includes(wanted));
}

/** How many parts of a filter are set, for the button that opens it. */
export const countFilters = (filter: StationFilter): number =>
  Number(filter.withinKm !== null) +
  Number(filter.withinMin !== null) +
  Number(filter.bearerId !== '') +
  Number(filter.hidden);
