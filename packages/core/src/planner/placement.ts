import type { Position } from '../geo/geodesic';
import type { RadioEnd } from '../reach/link-budget';
import { meanOf } from './beta';
import { chanceByMap } from './map-belief';
import { chanceOfReaching, mostRepeatsOf, type MarginOver, type Net } from './what-if';

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
  for (let n = 0; n < candidates.length; n++) {
    const chances = broughtBy(asked, candidates[n]!);
    if (chances.some((chance) => chance > 0)) bringing.push({ candidate: n, chances });
    yield n + 1;
  }
  const missing = Float64Array.from(targets, (call) => 1 - chanceOfReaching(net, call, asked.random));
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

function broughtBy({ net, targets, end, marginOver }: PlacementAsked, place: Position): Float64Array {
  const here = { place, end };
  const chances = new Map(
    net.stations.map((station): [string, { readonly to: number; readonly from: number }] => [
      station.call,
      station.place === null || (!station.repeats && station.call !== net.own && !targets.includes(station.call))
        ? { to: 0, from: 0 }
        : {
            to: chanceByMap(marginOver({ place: station.place, end: station.end }, here)),
            from: chanceByMap(marginOver(here, { place: station.place, end: station.end })),
          },
    ]),
  );
  // Straight from us, or by one that repeats: it is the second then, if the path asks for two.
  const most = mostRepeatsOf(net);
  let missed = most < 1 ? 1 : 1 - (chances.get(net.own)?.to ?? 0);
  for (const { call, repeats } of net.stations) {
    if (most < 2 || !repeats || call === net.own) continue;
    const first = net.hops.find((hop) => hop.from === net.own && hop.to === call);
    if (first) missed *= 1 - meanOf(first.belief) * chances.get(call)!.to;
  }
  return Float64Array.from(targets, (call) => (1 - missed) * (chances.get(call)?.from ?? 0));
}
