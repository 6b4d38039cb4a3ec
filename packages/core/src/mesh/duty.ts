/** A share of each hour that a transmitter may be on the air at most, in a part of a band. */
export interface DutyRule {
  /** `868.0–868.6 MHz` */
  readonly subBand: string;
  /** 0.01 for one per cent; null where no such limit is known here. */
  readonly mostShare: number | null;
  readonly words: string;
}

interface SubBand {
  readonly fromHz: number;
  readonly toHz: number;
  readonly mostShare: number;
}

/** Over this time the share is counted, sliding. */
export const DUTY_WINDOW_MS = 3_600_000;

/**
 * ETSI EN 300 220, sub-bands for devices that are not specific to a use: 868.0–868.6 MHz with 1 % and 869.4–869.65 MHz with 10 %. The other
 * rows are from memory.
 */
const EUROPE: readonly SubBand[] = [
  { fromHz: 433_050_000, toHz: 434_790_000, mostShare: 0.1 },
  { fromHz: 865_000_000, toHz: 868_000_000, mostShare: 0.01 },
  { fromHz: 868_000_000, toHz: 868_600_000, mostShare: 0.01 },
  { fromHz: 868_700_000, toHz: 869_200_000, mostShare: 0.001 },
  { fromHz: 869_400_000, toHz: 869_650_000, mostShare: 0.1 },
  { fromHz: 869_700_000, toHz: 870_000_000, mostShare: 0.01 },
];
/** Between and across the sub-bands of 863–870 MHz: the strictest of them. */
const STRICTEST = { fromHz: 863_000_000, toHz: 870_000_000, mostShare: 0.001 };

const mhz = (hz: number): string => (hz / 1e6).toFixed(3).replace(/0{1,2}$/, '');
const percent = (share: number): string => `${+(share * 100).toFixed(2)} %`;

/** The rule for a channel, which must lie in one sub-band as a whole. It does not replace what your local rules say. */
export function dutyRuleOf(frequencyHz: number, bandwidthHz: number): DutyRule {
  const low = frequencyHz - bandwidthHz / 2;
  const high = frequencyHz + bandwidthHz / 2;
  const inside = ({ fromHz, toHz }: SubBand) => low >= fromHz && high <= toHz;
  const found = EUROPE.find(inside);
  if (found)
    return {
      subBand: `${mhz(found.fromHz)}–${mhz(found.toHz)} MHz`,
      mostShare: found.mostShare,
      words: `${percent(found.mostShare)} of each hour in Europe (ETSI EN 300 220)`,
    };
  if (inside(STRICTEST))
    return {
      subBand: `863–870 MHz`,
      mostShare: STRICTEST.mostShare,
      words: `outside of the sub-bands, or across two of them: the strictest share, ${percent(STRICTEST.mostShare)} of each hour, is kept`,
    };
  return {
    subBand: `${mhz(low)}–${mhz(high)} MHz`,
    mostShare: null,
    words:
      'no share of the hour is known for it here. In the United States a bandwidth below 500 kHz needs hopping, or transmissions of at most 0.4 s (47 CFR 15.247, from memory): ask your local rules',
  };
}

export interface AirSpent {
  readonly atMs: number;
  readonly ms: number;
}

/** The most that may be spent in the window, ms; null without a limit. */
export const mostInWindowMs = ({ mostShare }: Pick<DutyRule, 'mostShare'>): number | null =>
  mostShare === null ? null : mostShare * DUTY_WINDOW_MS;

/** What was spent in the hour before `nowMs`; what a clock that was set back left in the future counts as well. */
export const spentInWindowMs = (spent: readonly AirSpent[], nowMs: number): number =>
  spent.reduce((sum, { atMs, ms }) => (atMs > nowMs - DUTY_WINDOW_MS ? sum + ms : sum), 0);

/**
 * When a transmission of `ms` fits: now, or as soon as enough has left the sliding hour. Null when it never does, being longer than the
 * share of a whole hour.
 */
export function dutyFreeAtMs(
  spent: readonly AirSpent[],
  rule: Pick<DutyRule, 'mostShare'>,
  ms: number,
  nowMs: number,
): number | null {
  const most = mostInWindowMs(rule);
  if (most === null) return nowMs;
  if (ms > most) return null;
  let used = spentInWindowMs(spent, nowMs);
  if (used + ms <= most) return nowMs;
  const leaving = spent.filter(({ atMs }) => atMs > nowMs - DUTY_WINDOW_MS).sort((a, b) => a.atMs - b.atMs);
  for (const one of leaving) {
    used -= one.ms;
    if (used + ms <= most) return Math.max(nowMs, one.atMs + DUTY_WINDOW_MS);
  }
  return null;
}
