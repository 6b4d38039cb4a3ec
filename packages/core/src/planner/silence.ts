/** How often something was heard of a station, and how long not any more. */
export interface Heard {
  readonly count: number;
  /** Over which time, s, up to when it was heard last. */
  readonly overS: number;
  readonly silentS: number;
  /** For so long of its silence it would have been heard. Absent: all the time. */
  readonly listenedS?: number;
  /** How many come together, less than one where they come more evenly than by chance: `burstsOf`. Absent: as many as they do at most. */
  readonly bursts?: number;
  /** How often it goes silent for hours, for each hour that it is there: `leavesAnHour`. Absent: not known. */
  readonly leavesAnHour?: number;
  /** How often it comes back, for each hour that it is silent: `returnsAnHour`. Absent: not known. */
  readonly returnsAnHour?: number;
}

/** From less no habit is told. */
export const FEWEST_HEARD = 5;
const LEAST_OVER_S = 600;
/** Before anything is known of it: one of fifty is off, or has gone (common practice, no source). */
const OFF_BEFORE = 0.02;
/** Nor is one that comes and goes taken for gone before it misses something (common practice, no source). */
const MOST_OFF = 0.5;
/** Nor is one that comes and goes taken for there before it is heard (common practice, no source). */
const MOST_BACK = 0.5;
/** An hour without a packet may be one of bad conditions; more in a row are not (common practice, no source). */
const FEWEST_SILENT_HOURS = 2;
/** Before anything is known it counts as so many hours in which it did not leave. */
const HELD_HOURS = 12;
/** Before anything is known whoever went comes back within a day, as if that had been seen half a time (common practice, no source). */
const RETURNS_BEFORE = 0.5;
/** Traffic comes in bursts: silence counts as if so many times less had been heard, unless it is known to come evenly (common practice, no source). */
const MOST_BURSTS = 3;
/** From fewer whole hours it is not told how evenly somebody is heard. */
const FEWEST_HOURS = 6;

/**
 * Chance that a station is still there: who was heard steadily and is silent for long may be off. Silence of one that was seldom heard tells
 * nothing.
 */
export function stillThere({
  count,
  overS,
  silentS,
  listenedS = silentS,
  bursts = MOST_BURSTS,
  leavesAnHour = 0,
  returnsAnHour = 0,
}: Heard): number {
  if (count < FEWEST_HEARD || overS < LEAST_OVER_S) return 1;
  const due = (count / overS) * Math.max(0, listenedS);
  const left = Math.min(MOST_OFF, 1 - Math.exp((-leavesAnHour * Math.max(0, silentS)) / 3600));
  // Where less than one was to be expected nothing is missing: who is known to come and go may have gone all the same.
  if (due / Math.max(1, bursts) <= 1) return 1 - left;
  const expected = due / bursts;
  const off = Math.max(OFF_BEFORE, left);
  const there = (1 - off) * Math.exp(-expected);
  // Whoever came back since one was due last is there and not heard yet.
  const back = Math.min(MOST_BACK, (returnsAnHour * overS) / count / 3600);
  const stayed = there / (there + off);
  return stayed + (1 - stayed) * back;
}

const HALVINGS = 50;

/**
 * How many packets an hour come of a station while it is there, from the hours in which it was heard at all, so many on average: the others
 * are left out, for it may have been away (the rate of a Poisson distribution by its mean without zeros, from memory; by halving). Where they
 * come more evenly than by chance it is too few.
 */
export function rateWithoutZeros(mean: number): number {
  if (!(mean > 1)) return 0;
  let [low, high] = [0, mean];
  for (let n = 0; n < HALVINGS; n++) {
    const rate = (low + high) / 2;
    if (mean * (1 - Math.exp(-rate)) > rate) low = rate;
    else high = rate;
  }
  return (low + high) / 2;
}

/** Evenness is only believed as far as the hours tell it against so many in which packets come by chance (common practice, no source). */
const HELD_EVEN_HOURS = 4;

/**
 * How many packets come together, by those of each hour in which a station was heard at all, in their order: the index of dispersion
 * (variance over mean), 1 where they come by chance. Below one they come by a plan of which some are lost: each is lost with a chance that is
 * the index itself (binomial counts), and so many in a row are as unlikely as by chance if −ln(index) / (1 − index) times as many were due;
 * one over that is given.
 * @param hours packets by the number of the hour since 1970; the first and the last hour of each run are part hours and left out
 */
export function burstsOf(hours: ReadonlyMap<number, number>): number {
  const whole = [...hours].filter(([hour]) => hours.has(hour - 1) && hours.has(hour + 1)).map(([, count]) => count);
  if (whole.length < FEWEST_HOURS) return MOST_BURSTS;
  const mean = whole.reduce((sum, count) => sum + count, 0) / whole.length;
  const variance = whole.reduce((sum, count) => sum + (count - mean) ** 2, 0) / (whole.length - 1);
  const index = variance / mean;
  if (index >= 1) return Math.min(MOST_BURSTS, index);
  const held = (index * whole.length + HELD_EVEN_HOURS) / (whole.length + HELD_EVEN_HOURS);
  return (1 - held) / -Math.log(held);
}

/**
 * How often a station goes silent for some hours and comes back, for each hour in which it was heard; held to none.
 * @param hours packets by the number of the hour since 1970
 * @param anyHeard the hours in which anybody was heard: of the others nothing can be told
 */
export function leavesAnHour(hours: ReadonlyMap<number, number>, anyHeard: readonly number[]): number {
  const { leaves, there } = comings(hours, anyHeard);
  return leaves / (there + HELD_HOURS);
}

/** How often a station that is silent for some hours comes back, for each hour of such silences. Parameters as of `leavesAnHour`. */
export function returnsAnHour(hours: ReadonlyMap<number, number>, anyHeard: readonly number[]): number {
  const { leaves, away } = comings(hours, anyHeard);
  return (leaves + RETURNS_BEFORE) / (away + HELD_HOURS);
}

/** Silences of some hours that it came back from, the hours that these took, and those in which it was heard. */
function comings(hours: ReadonlyMap<number, number>, anyHeard: readonly number[]) {
  const first = Math.min(...hours.keys());
  const last = Math.max(...hours.keys());
  let [leaves, silent, away, there] = [0, 0, 0, 0];
  for (const hour of anyHeard.filter((one) => one >= first && one <= last).sort((a, b) => a - b)) {
    if (!hours.has(hour)) {
      silent++;
      continue;
    }
    there++;
    if (silent >= FEWEST_SILENT_HOURS) {
      leaves++;
      away += silent;
    }
    silent = 0;
  }
  return { leaves, away, there };
}

const HOUR_MS = 3_600_000;
/** Over so many hours it is told how often the carrier was heard for each of its own. */
const CARRIED_HOURS = 2;
const LEAST_CARRIED_S = 60;
/** A carrier that is heard half as often as before is there, with less to carry (common practice, no source). */
const STILL_CARRIES = 0.5;

/** What was heard of a station and of the one over whom it is heard. */
export interface HeardThrough {
  /** Packets of the station by the number of the hour since 1970. */
  readonly hours: ReadonlyMap<number, number>;
  /** Packets of the one that carries them, likewise. */
  readonly carrier: ReadonlyMap<number, number>;
  /** When the station was heard last, ms since 1970. */
  readonly lastMs: number;
  readonly nowMs: number;
  readonly silentS: number;
}

/**
 * For which share of a silence, 0 to 1, it would have been heard: while the one over whom it is heard is silent itself nothing is missed.
 * Told hour by hour from how often that one was heard since, of half as often as it was before; 1 where nothing is known of it.
 */
export function carriedShare({ hours, carrier, lastMs, nowMs, silentS }: HeardThrough): number {
  const last = Math.floor(lastMs / HOUR_MS);
  const first = last - CARRIED_HOURS;
  const sum = (of: ReadonlyMap<number, number>, from: number, to: number) =>
    [...of].reduce((all, [hour, count]) => all + (hour >= from && hour <= to ? count : 0), 0);
  // One that is not heard itself tells nothing.
  const carried = sum(carrier, first, last);
  if (carried === 0) return 1;
  const toOne = carried / Math.max(1, sum(hours, first, last));
  const overS = (lastMs - HOUR_MS * Math.max(first, Math.min(...carrier.keys()))) / 1000;
  const aSecond = (STILL_CARRIES * carried) / Math.max(LEAST_CARRIED_S, overS);
  // Of the hour in which it was heard last, what the carrier sent beyond its share was later.
  const rest = Math.max(0, (carrier.get(last) ?? 0) - toOne * (hours.get(last) ?? 0));
  /** For how long of an hour, s, it carried with so many packets. */
  const carriedIn = (hour: number, count: number) => {
    const overMs = Math.min(nowMs, HOUR_MS * (hour + 1)) - Math.max(lastMs, HOUR_MS * hour);
    return Math.min(Math.max(0, overMs) / 1000, count / aSecond);
  };
  const carriedS = [...carrier].reduce(
    (all, [hour, count]) => all + (hour > last ? carriedIn(hour, count) : 0),
    carriedIn(last, rest),
  );
  return silentS > 0 ? Math.min(1, carriedS / silentS) : 1;
}
