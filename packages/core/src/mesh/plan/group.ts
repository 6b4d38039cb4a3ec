import { freeSpaceLossDb } from '../../radio/reach';
import { chanceOfMargin, chirpSettings } from '../../reach/link-budget';
import { dutyRuleOf, type DutyRule } from '../duty';
import { MOST_HOPS } from '../frame';
import { meshAirTimeMs, SPREADING_FACTORS } from '../radio';
import { meshTextFrameOctets } from '../text';

/** A group of nodes that is planned: how far apart, and how much they talk. */
export interface MeshGroup {
  /** Nodes that repeat for others. */
  readonly carriers: number;
  /** From one node to the next that it must hear, at its farthest. */
  readonly neighboursKm: number;
  /** From one end of the group to the other. */
  readonly acrossKm: number;
  readonly powerDbm: number;
  /** Gain of both antennas together, less their cables. */
  readonly gainDb: number;
  /** Houses, trees and hills between neighbours, beyond free space. */
  readonly clutterDb: number;
  readonly frequencyHz: number;
  readonly bandwidthHz: number;
  readonly codingRate: number;
  /** Texts and positions of all of them, an hour. */
  readonly textsPerHour: number;
  /** Characters of a usual text. */
  readonly octets: number;
}

/** What one setting of the modem comes to for a group. */
export interface GroupSetting {
  readonly spreadingFactor: number;
  /** In hand between neighbours, dB. */
  readonly marginDb: number;
  /** That one frame crosses from neighbour to neighbour. */
  readonly chance: number;
  /** Of a usual text. */
  readonly airMs: number;
  /** Of the hour that the channel is taken where everybody hears everybody. */
  readonly channelShare: number;
  /** Of the hour that a carrier which repeats everything is on the air. */
  readonly carrierShare: number;
  /** Why it does not do; empty when it does. */
  readonly faults: readonly string[];
}

export interface GroupPlan {
  /** Hops that the distance asks for. */
  readonly hopsNeeded: number;
  /** One more, for a carrier that is off; null where there are not enough carriers, or no packet goes so far. */
  readonly hopLimit: number | null;
  readonly hopsFault: string | null;
  readonly rule: DutyRule;
  /** From the quickest to the farthest. */
  readonly settings: readonly GroupSetting[];
  /** The quickest that does; null when none does. */
  readonly proposed: GroupSetting | null;
}

/** Fading and what the map does not tell take so much (common practice, no source). */
const LEAST_MARGIN_DB = 10;
/** Beyond it too many collide: of pure ALOHA, which carries 1/(2e) = 18 % at best, rather more than half (common practice, no source). */
const MOST_CHANNEL_SHARE = 0.1;

/** Which setting and which hop limit fit a group, each with what speaks against it. Chances are of free space and the stated loss alone. */
export function planGroup(group: MeshGroup): GroupPlan {
  const hopsNeeded = Math.max(1, Math.ceil(group.acrossKm / group.neighboursKm - 1e-9));
  // Whoever repeats stands between two: so many lie on the longest way.
  const wanted = hopsNeeded - 1;
  const hopsFault =
    hopsNeeded > MOST_HOPS
      ? `It would take ${hopsNeeded} hops, and no packet goes over more than ${MOST_HOPS}.`
      : wanted > group.carriers
        ? `Between the two ends ${wanted} must repeat, and there ${group.carriers === 1 ? 'is' : 'are'} ${group.carriers}.`
        : null;
  const rule = dutyRuleOf(group.frequencyHz, group.bandwidthHz);
  const lossDb = freeSpaceLossDb(group.neighboursKm, group.frequencyHz / 1e6) + group.clutterDb;
  const receivedDbm = group.powerDbm + group.gainDb - lossDb;
  const text = 'x'.repeat(group.octets);
  const settings = chirpSettings(group.bandwidthHz).map(({ sensitivityDbm }, n): GroupSetting => {
    const spreadingFactor = SPREADING_FACTORS[n]!;
    const radio = { spreadingFactor, bandwidthHz: group.bandwidthHz, codingRate: group.codingRate };
    const airMs = meshAirTimeMs(meshTextFrameOctets(text, true), radio);
    const marginDb = receivedDbm - sensitivityDbm;
    const perHour = (group.textsPerHour * airMs) / 3_600_000;
    // Who wrote it sends it once, and at most every carrier repeats it.
    const channelShare = perHour * (1 + group.carriers);
    const carrierShare = perHour;
    const faults = [
      marginDb < LEAST_MARGIN_DB
        ? `Only ${Math.floor(marginDb)} dB in hand between neighbours; ${LEAST_MARGIN_DB} are wanted.`
        : null,
      channelShare > MOST_CHANNEL_SHARE
        ? `It would take ${percent(channelShare)} of the channel; beyond ${percent(MOST_CHANNEL_SHARE)} too many collide.`
        : null,
      rule.mostShare !== null && carrierShare > rule.mostShare
        ? `A carrier would be on the air ${percent(carrierShare)} of the hour; ${percent(rule.mostShare)} are allowed in ${rule.subBand}.`
        : null,
    ].filter((fault) => fault !== null);
    return { spreadingFactor, marginDb, chance: chanceOfMargin(marginDb), airMs, channelShare, carrierShare, faults };
  });
  return {
    hopsNeeded,
    hopLimit: hopsFault === null ? Math.min(MOST_HOPS, hopsNeeded + 1) : null,
    hopsFault,
    rule,
    settings,
    proposed: settings.find(({ faults }) => faults.length === 0) ?? null,
  };
}

/** `0.8 %` */
const percent = (share: number): string => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;

/** Nodes that announce themselves once in `everyMin` each, of which `chance` is heard. */
export interface Announcing {
  readonly nodes: number;
  readonly everyMin: number;
  readonly chance: number;
}

/**
 * After how long the first of a group is heard in `share` of all cases, min: each announces itself once in the interval, at any moment of it
 * as likely, independently of the others. Null where nobody is there, or can be heard.
 */
export function firstHeardMin({ nodes, everyMin, chance }: Announcing, share: number): number | null {
  if (nodes < 1 || !(chance > 0) || !(everyMin > 0)) return null;
  // None of them in the whole intervals before, and not yet in this one: (1 − c)^(k·n) · (1 − c·t/T)^n = 1 − share.
  const left = (1 - share) ** (1 / nodes);
  if (chance >= 1) return everyMin * (1 - left);
  const whole = Math.floor(Math.log(left) / Math.log(1 - chance) + 1e-12);
  return everyMin * (whole + (1 - left / (1 - chance) ** whole) / chance);
}
