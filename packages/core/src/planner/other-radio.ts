import { freeSpaceLossDb } from '../radio/reach';
import { SLOPE_DB } from '../reach/link-budget';
import { beliefOf, meanOf, type Belief } from './beta';
import { beliefByMap, chanceByMap, LEAST_BY_MAP } from './map-belief';
import { mayCarry, type MarginOver, type Net, type NetRadio, type NetStation } from './net';
import type { HopLink } from './reliability';

/**
 * A net with all its sets on another setting. A link that was heard as well as the map says, or better, is moved along the slope of chances by
 * as many decibels as the setting is better or worse over that ground, in free space where a place is not known; one that was heard less keeps
 * that share of what the map says. Links that only the new setting bears come in.
 * @param powerW of every set; null for what each has
 */
export function withOtherRadio(net: Net, radio: NetRadio, powerW: number | null, marginOver: MarginOver): Net {
  const before = new Map(net.stations.map((one) => [one.call, one]));
  const stations = net.stations.map((one) => (powerW === null ? one : { ...one, end: { ...one.end, powerW } }));
  const after = new Map(stations.map((one) => [one.call, one]));
  const margin = (of: ReadonlyMap<string, NetStation>, from: string, to: string, on: NetRadio): number | null => {
    const [a, b] = [of.get(from), of.get(to)];
    return a?.place && b?.place ? marginOver({ ...a, place: a.place }, { ...b, place: b.place }, on) : null;
  };
  const onNewSetting = ({ from, to, belief }: HopLink): Belief => {
    const [was, is] = [margin(before, from, to, net.radio), margin(after, from, to, radio)];
    if (was !== null && is !== null) {
      const [byMap, byMapNow] = [chanceByMap(was), chanceByMap(is)];
      // What was missed more than the map says may be blocked for good: a stronger signal does not make up for that.
      if (meanOf(belief) < byMap) return beliefOf((meanOf(belief) / byMap) * byMapNow, belief.alpha + belief.beta);
      return moved(belief, is - was);
    }
    const stronger = powerW === null ? 1 : powerW / (before.get(from)?.end.powerW ?? powerW);
    const lessLossDb = freeSpaceLossDb(1, net.radio.frequencyMHz) - freeSpaceLossDb(1, radio.frequencyMHz);
    return moved(belief, 10 * Math.log10(stronger) + lessLossDb + net.radio.needsDbm - radio.needsDbm);
  };
  const known = new Set(net.hops.map(({ from, to }) => `${from}>${to}`));
  const kept = net.hops.map((hop) => ({ ...hop, belief: onNewSetting(hop) }));
  const borneNow = stations.flatMap((from) =>
    stations.flatMap((to): HopLink[] => {
      if (from === to || known.has(`${from.call}>${to.call}`) || !mayCarry(net, from, to)) return [];
      const marginDb = margin(after, from.call, to.call, radio);
      return marginDb === null ? [] : [{ from: from.call, to: to.call, belief: beliefByMap(chanceByMap(marginDb)) }];
    }),
  );
  return {
    ...net,
    radio,
    stations,
    hops: [...kept, ...borneNow].filter(({ belief }) => meanOf(belief) >= LEAST_BY_MAP),
  };
}

/** A belief so many decibels further along the slope of chances by margin; how much is known stays. */
function moved(belief: Belief, db: number): Belief {
  const odds = (meanOf(belief) / (1 - meanOf(belief))) * Math.exp(db / SLOPE_DB);
  return beliefOf(odds / (1 + odds), belief.alpha + belief.beta);
}
