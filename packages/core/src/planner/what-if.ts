import type { Position } from '../geo/geodesic';
import type { MeshRadio } from '../mesh/radio';
import type { RadioEnd } from '../reach/link-budget';
import { cutOffWithout } from './articulation';
import { meanOf } from './beta';
import { beliefByMap, chanceByMap, LEAST_BY_MAP } from './map-belief';
import { mayCarry, mostRepeatsOf, netRadioOf, type MarginOver, type Net, type NetStation } from './net';
import { withOtherRadio } from './other-radio';
import { crossingChance, floodChances, type HopLink } from './reliability';

/** What is thought to be otherwise. */
export type Change =
  | { readonly what: 'off'; readonly call: string }
  /** The two no longer hear each other: a cable, a wall, a filter. */
  | { readonly what: 'cut'; readonly from: string; readonly to: string }
  /** Moved, or with another antenna or power: what was heard of it tells nothing any more. */
  | { readonly what: 'changed'; readonly call: string; readonly place: Position; readonly end: RadioEnd }
  /** One more that repeats. */
  | { readonly what: 'added'; readonly call: string; readonly place: Position; readonly end: RadioEnd }
  /** What we send asks to be repeated so often at most. */
  | { readonly what: 'path'; readonly mostRepeats: number }
  /** All nodes of a mesh are set otherwise, to another band, spreading factor, bandwidth or power; null for the power that each has. */
  | ({ readonly what: 'radio'; readonly powerW: number | null } & Pick<
      MeshRadio,
      'frequencyHz' | 'spreadingFactor' | 'bandwidthHz'
    >);

/**
 * The net as it would be. Another setting comes first and what is cut last, whatever stands first: a link that the map would give again stays
 * cut. What is not known of a call changes nothing.
 */
export function changedNet(net: Net, changes: readonly Change[], marginOver: MarginOver): Net {
  const turn = ({ what }: Change) => (what === 'radio' ? 0 : what === 'cut' ? 2 : 1);
  return [...changes]
    .sort((a, b) => turn(a) - turn(b))
    .reduce((before, change) => changedBy(before, change, marginOver), net);
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
    case 'radio':
      return withOtherRadio(net, netRadioOf(change), change.powerW, marginOver);
  }
}

const without = (net: Net, call: string): Net => ({
  ...net,
  stations: net.stations.filter((station) => station.call !== call),
  hops: net.hops.filter(({ from, to }) => from !== call && to !== call),
});

/** With one more, heard by whom the map says. */
function withStation(net: Net, station: NetStation, marginOver: MarginOver): Net {
  const hops = net.stations.flatMap((other): HopLink[] => {
    if (!mayCarry(net, station, other) || !other.place || !station.place) return [];
    const ends = [
      [station, other],
      [other, station],
    ] as const;
    return ends.flatMap(([from, to]) => {
      const chance = chanceByMap(
        marginOver({ place: from.place!, end: from.end }, { place: to.place!, end: to.end }, net.radio),
      );
      return chance < LEAST_BY_MAP ? [] : [{ from: from.call, to: to.call, belief: beliefByMap(chance) }];
    });
  });
  return { ...net, stations: [...net.stations, station], hops: [...net.hops, ...hops] };
}

/** Hops that carry: who does not repeat hears and keeps it. */
function carryingHops({ own, stations, hops }: Net): HopLink[] {
  const repeating = new Set(stations.flatMap(({ call, repeats }) => (repeats ? [call] : [])));
  return hops.filter(({ from }) => from === own || repeating.has(from));
}

/** Chance that one transmission of ours is heard by somebody, straight or by those that repeat it; 0 of who is not there. */
export function chanceOfReaching(net: Net, to: string, random: () => number): number {
  const { draws } = crossingChance(carryingHops(net), net.own, to, mostRepeatsOf(net), random);
  return draws.reduce((sum, draw) => sum + draw, 0) / draws.length;
}

/** Over more that repeat a crossing has too many links for every state to be looked at; then the flood is sampled once, for all of them. */
const FEW_REPEATERS = 2;

/** The same for several; `random` is made anew for each question, so that two nets are drawn by the same chances. */
export function chancesOfReaching(
  net: Net,
  calls: readonly string[],
  random: () => () => number,
): (call: string) => number {
  if (net.stations.filter(({ call, repeats }) => repeats && call !== net.own).length > FEW_REPEATERS) {
    const flood = floodChances(carryingHops(net), net.own, mostRepeatsOf(net), random());
    return (call) => flood.get(call) ?? 0;
  }
  const chances = new Map(calls.map((call) => [call, chanceOfReaching(net, call, random())]));
  return (call) => chances.get(call) ?? 0;
}

/** Less than this is no way (common practice, no source). */
export const NO_WAY = 0.05;
/** Less than so much of a difference is not told: it is less than is known. */
export const TELLING = 0.03;

export interface Difference {
  readonly call: string;
  readonly before: number;
  readonly after: number;
  readonly verdict: 'off' | 'cut off' | 'worse' | 'as before' | 'better' | 'reached anew' | 'not reached';
}

/** What changes do to the chance of reaching somebody. Who is thought off by them is not cut off by anything. */
export function differenceOf(call: string, before: number, after: number, changes: readonly Change[] = []): Difference {
  const isOff = changes.some((one) => one.what === 'off' && one.call === call);
  const verdict = isOff
    ? 'off'
    : after < NO_WAY
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
