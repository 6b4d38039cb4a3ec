import type { Position } from '../geo/geodesic';
import type { RadioEnd } from '../reach/link-budget';
import { chanceByMap } from './map-belief';
import { mostRepeatsOf, type MarginOver, type Net } from './net';
import { chancesOfReaching } from './what-if';

export interface PlacementAsked {
  readonly net: Net;
  /** Whom one wants to reach. */
  readonly targets: readonly string[];
  readonly candidates: readonly Position[];
  /** What would be put up there. */
  readonly end: RadioEnd;
  readonly marginOver: MarginOver;
  readonly random: () => number;
}

export interface Placement {
  /** Of the candidates, by their number. */
  readonly candidate: number;
  readonly place: Position;
  /** By how many people in expectation more are reached with it than with those before it. */
  readonly gain: number;
}

/** Of each candidate the chance that it brings one of our transmissions to each target, if nobody else did. */
interface Bringing {
  readonly candidate: number;
  readonly chances: Float64Array;
}

/**
 * Where so many digipeaters more would help most: greedily, one after the other. What is optimised is the number of targets that one
 * transmission reaches in expectation, those that help taken as failing independently. It grows by less the more there are (submodular),
 * so that greedy choice comes within 1 − 1/e of the best (Nemhauser, Wolsey, Fisher 1978; from memory). Tells how many candidates are
 * reckoned as it goes; the value is the choice.
 */
export function* placeRepeaters(asked: PlacementAsked, count: number): Generator<number, readonly Placement[]> {
  const { net, targets, candidates } = asked;
  const bringing: Bringing[] = [];
  const before = holdingBefore(asked);
  for (let n = 0; n < candidates.length; n++) {
    const chances = broughtBy(asked, before, candidates[n]!);
    if (chances.some((chance) => chance > 0)) bringing.push({ candidate: n, chances });
    yield n + 1;
  }
  const reached = chancesOfReaching(net, targets, () => asked.random);
  const missing = Float64Array.from(targets, (call) => 1 - reached(call));
  return greedily(bringing, missing, count).map(({ candidate, gain }) => ({
    candidate,
    place: candidates[candidate]!,
    gain,
  }));
}

/** The greedy choice itself; what gains nothing worth the while is not chosen. */
export function greedily(
  bringing: readonly Bringing[],
  missing: Float64Array,
  count: number,
): { readonly candidate: number; readonly gain: number }[] {
  const left = Float64Array.from(missing);
  const chosen: { candidate: number; gain: number }[] = [];
  while (chosen.length < count) {
    let best: Bringing | null = null;
    let most = LEAST_GAIN;
    for (const one of bringing) {
      let gain = 0;
      for (let n = 0; n < left.length; n++) gain += left[n]! * one.chances[n]!;
      if (gain > most) {
        most = gain;
        best = one;
      }
    }
    if (!best) break;
    for (let n = 0; n < left.length; n++) left[n]! *= 1 - best.chances[n]!;
    chosen.push({ candidate: best.candidate, gain: most });
  }
  return chosen;
}
/** Less than a twentieth of one more who is reached is not worth a mast. */
const LEAST_GAIN = 0.05;

/** How surely each that repeats holds what we sent, so early that one more may repeat it after them. */
function holdingBefore({ net, random }: PlacementAsked): ReadonlyMap<string, number> {
  const most = mostRepeatsOf(net);
  if (most < 2) return new Map();
  // It repeats, and so does the one more.
  const between = { ...net, mostRepeats: most - 2 };
  const repeaters = net.stations.filter(({ call, repeats }) => repeats && call !== net.own).map(({ call }) => call);
  const chance = chancesOfReaching(between, repeaters, () => random);
  return new Map(repeaters.map((call): [string, number] => [call, chance(call)]).filter(([, holds]) => holds > 0));
}

function broughtBy(
  { net, targets, end, marginOver }: PlacementAsked,
  before: ReadonlyMap<string, number>,
  place: Position,
): Float64Array {
  const here = { place, end };
  const chances = new Map(
    net.stations.map((station): [string, { readonly to: number; readonly from: number }] => [
      station.call,
      station.place === null || (!station.repeats && station.call !== net.own && !targets.includes(station.call))
        ? { to: 0, from: 0 }
        : {
            to: chanceByMap(marginOver({ place: station.place, end: station.end }, here, net.radio)),
            from: chanceByMap(marginOver(here, { place: station.place, end: station.end }, net.radio)),
          },
    ]),
  );
  // Straight from us, or by one that repeats.
  let missed = mostRepeatsOf(net) < 1 ? 1 : 1 - (chances.get(net.own)?.to ?? 0);
  for (const [call, holds] of before) missed *= 1 - holds * chances.get(call)!.to;
  return Float64Array.from(targets, (call) => (1 - missed) * (chances.get(call)?.from ?? 0));
}
