/** When a holder hands on what waits there: every so many minutes, from a time of the day on. */
export interface Windows {
  readonly everyMin: number;
  /** Minutes after midnight UTC of one of them. */
  readonly fromMin: number;
}

const DAY_MIN = 1440;

/**
 * The first window at or after a time, ms since 1970. They begin anew with each day, as a timetable does, so that an interval that does not
 * divide the day is shorter over midnight.
 */
export function nextWindowMs({ everyMin, fromMin }: Windows, atMs: number): number {
  const dayMs = Math.floor(atMs / (DAY_MIN * 60_000)) * DAY_MIN * 60_000;
  const firstMin = fromMin % everyMin;
  const sinceMin = (atMs - dayMs) / 60_000;
  const min = firstMin + everyMin * Math.max(0, Math.ceil((sinceMin - firstMin) / everyMin));
  return dayMs + (min < DAY_MIN ? min : DAY_MIN + firstMin) * 60_000;
}

/** When a crossing over such windows can begin, for something that is there `atS` seconds after `nowMs`. */
export const openingOf =
  (windows: Windows, nowMs: number) =>
  (atS: number): number =>
    (nextWindowMs(windows, nowMs + 1000 * atS) - nowMs) / 1000;
