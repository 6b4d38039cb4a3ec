/** What was predicted of one sending, and how it came out. */
export interface Judged {
  readonly predicted: number;
  readonly happened: boolean;
}

/** Fewer say too little. */
export const FEWEST_TO_JUDGE = 30;
const BINS = 10;
const PERFECT_TRIALS = 200;

export interface Bin {
  readonly count: number;
  readonly predicted: number;
  readonly happened: number;
  /** Of what happened, 95 %. */
  readonly low: number;
  readonly high: number;
}

export interface Calibration {
  readonly count: number;
  /** Of equal counts, by what was predicted. */
  readonly bins: readonly Bin[];
  /** Mean square of what was predicted less what happened; 0 is perfect, 0.25 is knowing nothing. */
  readonly brier: number;
  /** Its three parts (Murphy 1973): brier = reliability − resolution + uncertainty, with what was predicted taken as its bin’s mean. */
  readonly parts: { readonly reliability: number; readonly resolution: number; readonly uncertainty: number };
  /** Expected calibration error: how far the bins are off, weighted by their counts. */
  readonly error: number;
  /** What a perfect forecaster with the same forecasts would show in 19 of 20 cases by chance. */
  readonly errorByChance: number;
}

/** The interval of a share by Wilson (1927), by default of 95 %. */
export function wilson(
  successes: number,
  count: number,
  z = 1.959964,
): { readonly low: number; readonly high: number } {
  if (count === 0) return { low: 0, high: 1 };
  const share = successes / count;
  const middle = share + z ** 2 / (2 * count);
  const half = z * Math.sqrt((share * (1 - share)) / count + z ** 2 / (4 * count ** 2));
  const whole = 1 + z ** 2 / count;
  return { low: Math.max(0, (middle - half) / whole), high: Math.min(1, (middle + half) / whole) };
}

/** How what was predicted compares with what happened. `random` draws the perfect forecaster. */
export function calibrationOf(judged: readonly Judged[], random: () => number): Calibration {
  const sorted = [...judged].sort((a, b) => a.predicted - b.predicted);
  const groups = inBins(sorted);
  const bins = groups.map((group): Bin => {
    const happened = group.filter((one) => one.happened).length;
    return {
      count: group.length,
      predicted: meanOf(group.map(({ predicted }) => predicted)),
      happened: happened / group.length,
      ...wilson(happened, group.length),
    };
  });
  const count = judged.length;
  const base = count === 0 ? 0 : judged.filter(({ happened }) => happened).length / count;
  const weighed = (of: (bin: Bin) => number) =>
    count === 0 ? 0 : bins.reduce((sum, bin) => sum + bin.count * of(bin), 0) / count;
  const trials = Array.from({ length: PERFECT_TRIALS }, () =>
    errorOf(groups.map((group) => group.map(({ predicted }) => ({ predicted, happened: random() < predicted })))),
  ).sort((a, b) => a - b);
  return {
    count,
    bins,
    brier: count === 0 ? 0 : meanOf(judged.map(({ predicted, happened }) => (predicted - Number(happened)) ** 2)),
    parts: {
      reliability: weighed((bin) => (bin.predicted - bin.happened) ** 2),
      resolution: weighed((bin) => (bin.happened - base) ** 2),
      uncertainty: base * (1 - base),
    },
    error: weighed((bin) => Math.abs(bin.predicted - bin.happened)),
    errorByChance: count === 0 ? 0 : trials[Math.floor(0.95 * PERFECT_TRIALS)]!,
  };
}

function inBins<T>(sorted: readonly T[]): T[][] {
  const bins = Math.min(BINS, sorted.length);
  return Array.from({ length: bins }, (_, n) =>
    sorted.slice(Math.floor((n * sorted.length) / bins), Math.floor(((n + 1) * sorted.length) / bins)),
  );
}

const meanOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

function errorOf(groups: readonly (readonly Judged[])[]): number {
  const count = groups.reduce((sum, group) => sum + group.length, 0);
  return groups.reduce((sum, group) => {
    const off = meanOf(group.map(({ predicted }) => predicted)) - meanOf(group.map(({ happened }) => Number(happened)));
    return sum + (group.length / count) * Math.abs(off);
  }, 0);
}
