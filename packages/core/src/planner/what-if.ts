import type { Position } from '../geo/geodesic';
import type { RadioEnd } from '../reach/link-budget';
import { cutOffWithout } from './articulation';
import { meanOf } from './beta';
import { beliefByMap, chanceByMap, LEAST_BY_MAP } from './map-belief';
import { crossingChance, type HopLink } from './reliability';

/** A station of the net as far as it matters who reaches whom. */
export interface NetStation {
  readonly call: string;
  /** Null where nobody told; then it cannot be moved. */
  readonly place: Position | null;
  /** Whether it repeats for others. */
  readonly repeats: boolean;
  readonly end: RadioEnd;
}

/** Who hears whom directly, seen from one of them. */
export interface Net {
  readonly own: string;
  readonly stations: readonly NetStation[];
  readonly hops: readonly HopLink[];
  /** For how many digipeaters our path asks at most; without it, as is the custom. */
  readonly mostRepeats?: number;
}

/** What is thought to be otherwise. */
export type Change =
  | { readonly what: 'off'; readonly call: string }
  /** The two no longer hear each other: a cable, a wall, a filter. */
  | { readonly what: 'cut'; readonly from: string; readonly to: string }
  /** Moved, or with another antenna or power: what was heard of it tells nothing any more. */
  | { readonly what: 'changed'; readonly call: string; readonly place: Position; readonly end: RadioEnd }
  /** One more digipeater. */
  | { readonly what: 'added'; readonly call: string; readonly place: Position; readonly end: RadioEnd }
  /** Our path asks for no digipeater, or for one. */
  | { readonly what: 'path'; readonly mostRepeats: 0 | 1 };

/** Decibels above what is needed from one end to the other, over the ground between. */
export type MarginOver = (
  from: { readonly place: Position; readonly end: RadioEnd },
  to: { readonly place: Position; readonly end: RadioEnd },
) => number;

/** The net as it would be, changes in their order. What is not known of a call changes nothing. */
export function changedNet(net: Net, changes: readonly Change[], marginOver: MarginOver): Net {
  return changes.reduce((before, change) => changedBy(before, change, marginOver), net);
}

function changedBy(net: Net, change: Change, marginOver: MarginOver): Net {
  switch (change.what) {
    case 'off':
      return without(net, change.call);
    case 'cut': {
      const ends = new Set([change.from, change.to]);
      return { ...net, hops: net.hops.filter(({ from, to }) => !(ends.has(from) && ends.has(to))) };
    }
    case 'changed': {
      const before = net.stations.find(({ call }) => call === change.call);
      if (!before) return net;
      return withStation(without(net, change.call), { ...before, place: change.place, end: change.end }, marginOver);
    }
    case 'added':
      return withStation(
        without(net, change.call),
        { call: change.call, place: change.place, repeats: true, end: change.end },
        marginOver,
      );
    case 'path':
      return { ...net, mostRepeats: change.mostRepeats };
  }
}

const without = (net: Net, call: string): Net => ({
  ...net,
  stations: net.stations.filter((station) => station.call !== call),
  hops: net.hops.filter(({ from, to }) => from !== call && to !== call),
});

/** With one more, heard by whom the map says. Two that do not repeat need not hear each other, but for us. */
function withStation(net: Net, station: NetStation, marginOver: MarginOver): Net {
  const hops = net.stations.flatMap((other): HopLink[] => {
    const matters = station.repeats || other.repeats || other.call === net.own || station.call === net.own;
    if (!matters || !other.place || !station.place) return [];
    const ends = [
      [station, other],
      [other, station],
    ] as const;
    return ends.flatMap(([from, to]) => {
      const chance = chanceByMap(marginOver({ place: from.place!, end: from.end }, { place: to.place!, end: to.end }));
      return chance < LEAST_BY_MAP ? [] : [{ from: from.call, to: to.call, belief: beliefByMap(chance) }];
    });
  });
  return { ...net, stations: [...net.stations, station], hops: [...net.hops, ...hops] };
}

/** A path asks for two digipeaters at most, as is the custom (common practice, no source). */
const MOST_REPEATS = 2;

export const mostRepeatsOf = (net: Net): number => net.mostRepeats ?? MOST_REPEATS;

/** Chance that one transmission of ours is heard by somebody, straight or by those that repeat it; 0 of who is not there. */
export function chanceOfReaching(net: Net, to: string, random: () => number): number {
  const repeating = new Set(net.stations.flatMap(({ call, repeats }) => (repeats ? [call] : [])));
  // Who does not repeat hears and keeps it.
  const hops = net.hops.filter(({ from }) => from === net.own || repeating.has(from));
  const { draws } = crossingChance(hops, net.own, to, mostRepeatsOf(net), random);
  return draws.reduce((sum, draw) => sum + draw, 0) / draws.length;
}

/** Less than this is no way (common practice, no source). */
export const NO_WAY = 0.05;
/** Less than so much of a difference is not told: it is less than is known. */
export const TELLING = 0.03;

export interface Difference {
  readonly call: string;
  readonly before: number;
  readonly after: number;
  readonly verdict: 'cut off' | 'worse' | 'as before' | 'better' | 'reached anew' | 'not reached';
}

/** What a change does to the chance of reaching somebody. */
export function differenceOf(call: string, before: number, after: number): Difference {
  const verdict =
    after < NO_WAY
      ? before < NO_WAY
        ? 'not reached'
        : 'cut off'
      : before < NO_WAY
        ? 'reached anew'
        : Math.abs(after - before) < TELLING
          ? 'as before'
          : after < before
            ? 'worse'
            : 'better';
  return { call, before, after, verdict };
}

/** A tie needs both directions: an answer has to come back. Weaker ones hold nothing together (common practice, no source). */
const TIED = 0.15;

/** Those on whom others hang in a net, and who; ties weaker than one try of seven left out. */
export function hangingIn(net: Net): ReturnType<typeof cutOffWithout> {
  const strong = new Set(net.hops.flatMap(({ from, to, belief }) => (meanOf(belief) >= TIED ? [`${from}>${to}`] : [])));
  return cutOffWithout(
    net.hops.filter(({ from, to }) => strong.has(`${from}>${to}`) && strong.has(`${to}>${from}`)),
    net.own,
  );
}
