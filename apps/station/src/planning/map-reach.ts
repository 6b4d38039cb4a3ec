import {
  bearingBetween,
  OUR_END,
  PACKET_NEEDS_DBM,
  pointsBetween,
  reachOver,
  USUAL_END,
  type Position,
  type RadioEnd,
} from '@tombolo/core';
import type { Heights } from '../reach/heights';

export interface Between {
  readonly key: string;
  readonly from: Position;
  readonly to: Position;
  /** Which end is ours. */
  readonly ours: 'from' | 'to' | null;
}

export interface MapMargin {
  readonly marginDb: number;
  readonly words: string;
  /** From `to` to `from`: the same loss, other powers. */
  readonly marginBackDb: number;
  readonly wordsBack: string;
}

/** How far a link is above what it needs, by the ground between two places; by key. */
export type MapReach = (pairs: readonly Between[]) => Promise<ReadonlyMap<string, MapMargin>>;
/** The same with our end as it is told; null for a usual one. */
export type GroundReach = (pairs: readonly Between[], ours: RadioEnd | null) => Promise<ReadonlyMap<string, MapMargin>>;

/** Of packet radio; the next metre band is no other question. */
export const PACKET_MHZ = 145;
const POINTS = 61;
const FURTHEST_KM = 150;
const MOST_KEPT = 2000;

/** Links reckoned over the elevation tiles of the station; the ground does not change, so the last ones are kept. */
export function createMapReach(heights: Heights): GroundReach {
  const kept = new Map<string, MapMargin>();
  const placeKey = ({ latitude, longitude }: Position) => `${latitude.toFixed(3)},${longitude.toFixed(3)}`;
  return async (pairs, told) => {
    const our = told ?? OUR_END;
    const margins = new Map<string, MapMargin>();
    const wanted: { readonly pair: Between; readonly at: string }[] = [];
    for (const pair of pairs) {
      if (bearingBetween(pair.from, pair.to).distanceKm > FURTHEST_KM) continue;
      const end = pair.ours ? Object.values(our).join() : '';
      const at = `${placeKey(pair.from)}/${placeKey(pair.to)}/${pair.ours ?? ''}/${end}`;
      const known = kept.get(at);
      if (known) margins.set(pair.key, known);
      else wanted.push({ pair, at });
    }
    const along = wanted.map(({ pair }) => pointsBetween(pair.from, pair.to, POINTS));
    const { heightsM } = wanted.length === 0 ? { heightsM: [] } : await heights.at(along.flat());
    for (const [n, { pair, at }] of wanted.entries()) {
      const profile = along[n]!.map(({ distanceKm }, i) => ({ distanceKm, groundM: heightsM[n * POINTS + i] ?? null }));
      const [from, to] = [pair.ours === 'from' ? our : USUAL_END, pair.ours === 'to' ? our : USUAL_END];
      const { receivedDbm, backDbm, distanceKm, known } = reachOver(profile, from, to, PACKET_MHZ);
      const ground = known > 0.5 ? 'over the ground of the map' : 'over the sea, for want of an elevation tile';
      const ends =
        pair.ours && told
          ? 'the set and the antenna that Equipment names for us, and usual ones there'
          : 'usual antennas and powers';
      const words = (marginDb: number) =>
        `A guess from the map: ${distanceKm.toFixed(1)} km ${ground}, ${Math.abs(marginDb).toFixed(0)} dB ${marginDb < 0 ? 'less' : 'more'} than it needs, with ${ends}.`;
      const [marginDb, marginBackDb] = [receivedDbm - PACKET_NEEDS_DBM, backDbm - PACKET_NEEDS_DBM];
      const margin = { marginDb, marginBackDb, words: words(marginDb), wordsBack: words(marginBackDb) };
      margins.set(pair.key, margin);
      kept.set(at, margin);
    }
    for (const old of kept.keys()) if (kept.size > MOST_KEPT) kept.delete(old);
    return margins;
  };
}
