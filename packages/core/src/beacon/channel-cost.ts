/** What beacons cost the channel that everybody shares. */
export interface BeaconCost {
  readonly perHour: number;
  /** Share of the channel that ours take, each repeat counted, 0–1. */
  readonly share: number;
  /** The same if every station that moves or beacons here did as we do. */
  readonly shareIfAll: number;
  /** Chance that one of ours is hit by another one, with the load that is heard now: no worse than this where most hear each other. */
  readonly collision: number;
}

export interface CostInput {
  readonly perHour: number;
  readonly airTimeMs: number;
  /** Times that a digipeater sends it again. */
  readonly repeats: number;
  /** Stations that were heard to send positions lately, ours included. */
  readonly stations: number;
  /** Share of the channel that is heard in use now, 0–1. */
  readonly load: number;
}

/** Beacons alone should leave the channel to the traffic (common practice, no source: 10 to 15 %). */
export const MOST_BEACON_SHARE = 0.1;
/** Shorter is for a test bench (common practice, no source). */
export const BENCH_INTERVAL_S = 60;

/**
 * Chance that a packet of the same length as the others gets through where nobody listens first: e^(−2G) at an offered load G (Abramson 1970,
 * pure ALOHA, from memory). Who hears each other waits, so between those it is better.
 */
export const alohaSuccess = (offeredLoad: number): number => Math.exp(-2 * offeredLoad);

export function beaconCost({ perHour, airTimeMs, repeats, stations, load }: CostInput): BeaconCost {
  const share = (perHour * airTimeMs * (1 + repeats)) / 3_600_000;
  return {
    perHour,
    share,
    shareIfAll: share * Math.max(1, stations),
    collision: 1 - alohaSuccess(Math.min(1, load) + share),
  };
}

/** Why a scheme should be another one, in words; empty when nothing speaks against it. */
export function beaconWarnings(shortestS: number, { shareIfAll }: BeaconCost, stations: number): string[] {
  return [
    ...(shortestS < BENCH_INTERVAL_S
      ? [`Every ${shortestS} s is for a test bench: on a shared channel it takes the place of others.`]
      : []),
    ...(shareIfAll > MOST_BEACON_SHARE
      ? [
          `If all ${stations} stations heard here did the same, beacons alone would take ${Math.round(shareIfAll * 100)} % of the channel; 10 to 15 % is the most that leaves room for traffic.`,
        ]
      : []),
  ];
}
