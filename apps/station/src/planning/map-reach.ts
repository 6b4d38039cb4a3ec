import {
  bearingBetween,
  OUR_END,
  PACKET_NEEDS_DBM,
  pointsBetween,
  reachOver,
  USUAL_END,
  type NetRadio,
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

/** Two places with what stands there, and how both are told of. */
export interface Ends {
  readonly key: string;
  readonly from: { readonly place: Position; readonly end: RadioEnd };
  readonly to: { readonly place: Position; readonly end: RadioEnd };
  readonly words: string;
}
/** The same with both ends and the setting as they are told. */
export type GroundReach = (pairs: readonly Ends[], radio: NetRadio) => Promise<ReadonlyMap<string, MapMargin>>;

/** Of packet radio; the next metre band is no other question. */
export const PACKET_MHZ = 145;
export const PACKET_RADIO: NetRadio = { frequencyMHz: PACKET_MHZ, needsDbm: PACKET_NEEDS_DBM };
const POINTS = 61;
const FURTHEST_KM = 150;
const MOST_KEPT = 4000;

/** Links reckoned over the elevation tiles of the station; the ground does not change, so the last ones are kept. */
export function createGroundReach(heights: Heights): GroundReach {
  const kept = new Map<string, MapMargin>();
  const keyOf = ({ place: { latitude, longitude }, end }: Ends['from']) =>
    [latitude.toFixed(3), longitude.toFixed(3), end.antennaM, end.powerW, end.gainDbi, end.clutterDb].join();
  return async (pairs, radio) => {
    const margins = new Map<string, MapMargin>();
    const wanted: { readonly pair: Ends; readonly at: string }[] = [];
    for (const pair of pairs) {
      if (bearingBetween(pair.from.place, pair.to.place).distanceKm > FURTHEST_KM) continue;
      const at = [keyOf(pair.from), keyOf(pair.to), radio.frequencyMHz, radio.needsDbm, pair.words].join('/');
      const known = kept.get(at);
      if (known) margins.set(pair.key, known);
      else wanted.push({ pair, at });
    }
    const along = wanted.map(({ pair }) => pointsBetween(pair.from.place, pair.to.place, POINTS));
    const { heightsM } = wanted.length === 0 ? { heightsM: [] } : await heights.at(along.flat());
    for (const [n, { pair, at }] of wanted.entries()) {
      const profile = along[n]!.map(({ distanceKm }, i) => ({ distanceKm, groundM: heightsM[n * POINTS + i] ?? null }));
      const { receivedDbm, backDbm, distanceKm, known } = reachOver(
        profile,
        pair.from.end,
        pair.to.end,
        radio.frequencyMHz,
      );
      const ground = known > 0.5 ? 'over the ground of the map' : 'over the sea, for want of an elevation tile';
      const words = (marginDb: number) =>
        `A guess from the map: ${distanceKm.toFixed(1)} km ${ground}, ${Math.abs(marginDb).toFixed(0)} dB ${marginDb < 0 ? 'less' : 'more'} than it needs, with ${pair.words}.`;
      const [marginDb, marginBackDb] = [receivedDbm - radio.needsDbm, backDbm - radio.needsDbm];
      const margin = { marginDb, marginBackDb, words: words(marginDb), wordsBack: words(marginBackDb) };
      margins.set(pair.key, margin);
      kept.set(at, margin);
    }
    for (const old of kept.keys()) if (kept.size > MOST_KEPT) kept.delete(old);
    return margins;
  };
}

/** By packet radio: our end as Equipment tells it, or a usual one for null, and usual ones elsewhere. */
export const packetReach =
  (reach: GroundReach, told: RadioEnd | null): MapReach =>
  (pairs) =>
    reach(
      pairs.map(({ key, from, to, ours }) => ({
        key,
        from: { place: from, end: ours === 'from' ? (told ?? OUR_END) : USUAL_END },
        to: { place: to, end: ours === 'to' ? (told ?? OUR_END) : USUAL_END },
        words:
          ours && told
            ? 'the set and the antenna that Equipment names for us, and usual ones there'
            : 'usual antennas and powers',
      })),
      PACKET_RADIO,
    );
