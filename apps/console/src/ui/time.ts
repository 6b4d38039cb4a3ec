import { DateTime } from 'luxon';

/** The day in front of a time when it is not today, with the year when it is not this one. */
function dayOf(at: DateTime, now: number): string {
  const today = DateTime.fromMillis(now, { zone: at.zone });
  return at.hasSame(today, 'day') ? '' : at.hasSame(today, 'year') ? 'd LLL ' : 'd LLL yyyy ';
}

const utc = (iso: string): DateTime => DateTime.fromISO(iso, { zone: 'utc' });

/** `14:05Z`, `24 Nov 23:59Z`, `31 Dec 2025 23:59Z`. */
export const utcTime = (iso: string, now: number = Date.now()): string =>
  utc(iso).toFormat(`${dayOf(utc(iso), now)}HH:mm'Z'`);

/** With seconds, for evidence. */
export const utcSeconds = (iso: string, now: number = Date.now()): string =>
  utc(iso).toFormat(`${dayOf(utc(iso), now)}HH:mm:ss'Z'`);

/** The same in the zone of this device. */
export const localTime = (iso: string, now: number = Date.now()): string => {
  const at = DateTime.fromISO(iso);
  return at.toFormat(`${dayOf(at, now) || 'd LLL '}HH:mm:ss ZZZZ`);
};

/** `12 s`, `4 min`, `3 h`, `2 d`. */
export function age(iso: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - Date.parse(iso)) / 1000));
  if (seconds < 60) return `${seconds} s`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min`;
  if (seconds < 86_400) return `${Math.floor(seconds / 3600)} h`;
  return `${Math.floor(seconds / 86_400)} d`;
}
