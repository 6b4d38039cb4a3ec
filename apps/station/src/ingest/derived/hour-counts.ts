const HOURS_KEPT = 48;
const SORTS = ['proved', 'inferred', 'missed'] as const;
/** An hour since 1970, and how often a link was proved, inferred and missed in it. */
const WIDTH = 1 + SORTS.length;

/**
 * How often a link was heard, by the hour: two days from the newest hour back, as the database keeps them when more come. Flat, hour after
 * hour, for there are many links of few hours each, and what holds each hour by itself takes several times the room.
 */
export interface HourCounts {
  newest: number;
  readonly flat: number[];
}

export const noHours = (): HourCounts => ({ newest: -Infinity, flat: [] });

/** Counts once more; what is older than two days before the newest hour is let go, or not taken. */
export function countHour(counts: HourCounts, hour: number, sort: (typeof SORTS)[number]): void {
  const { flat } = counts;
  if (hour > counts.newest) {
    counts.newest = hour;
    // From the end, so that what moves up was looked at already.
    for (let at = flat.length - WIDTH; at >= 0; at -= WIDTH) if (flat[at]! <= hour - HOURS_KEPT) flat.splice(at, WIDTH);
  }
  if (hour <= counts.newest - HOURS_KEPT) return;
  // What comes is mostly of the hour that came last.
  let at = flat.length - WIDTH;
  while (at >= 0 && flat[at] !== hour) at -= WIDTH;
  if (at < 0) at = flat.push(hour, 0, 0, 0) - WIDTH;
  flat[at + 1 + SORTS.indexOf(sort)]!++;
}

/** `{"496000":[3,1,0]}`: by the hour how often proved, inferred and missed. */
export function hoursAsJson({ flat }: HourCounts): string {
  const hours: Record<number, number[]> = {};
  for (let at = 0; at < flat.length; at += WIDTH) hours[flat[at]!] = flat.slice(at + 1, at + WIDTH);
  return JSON.stringify(hours);
}
