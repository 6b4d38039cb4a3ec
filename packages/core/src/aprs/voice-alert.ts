/**
 * Direct-range calling (common practice, no source): listeners leave the volume up behind a tone squelch of 100 Hz on the packet
 * frequency, so that only a packet sent with that tone, from a station in direct range, is heard at all.
 */
export const VOICE_ALERT_TONE_HZ = 100;

/** How long a station counts as in direct range after it was heard so. */
export const DIRECT_RANGE_MS = 60 * 60_000;

export interface DirectCandidate {
  readonly call: string;
  readonly directAtMs: number | null;
  /** A digipeater or gateway on a hill is heard direct, but nobody sits there. */
  readonly attended: boolean;
  readonly distanceKm: number | null;
}

/** Stations in direct range now that somebody may sit at, the nearest first. */
export const inDirectRange = <T extends DirectCandidate>(stations: readonly T[], nowMs: number): T[] =>
  stations
    .filter(({ directAtMs, attended }) => attended && directAtMs !== null && nowMs - directAtMs <= DIRECT_RANGE_MS)
    .sort((a, b) => (a.distanceKm ?? Infinity) - (b.distanceKm ?? Infinity));

/** What to say: own call, what it is, and where one listens. */
export const voiceAlertCall = (ownCall: string, frequencyMHz: number): string =>
  `${ownCall}, voice alert, listening on ${frequencyMHz.toFixed(3)}`;

/** Kilometres around within which others' packets are blocked while one speaks (common practice: a mile, 20–30 miles). */
export const BLOCKED_KM = { hollow: 2, hill: [32, 48] } as const;
