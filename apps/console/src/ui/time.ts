import { DateTime } from 'luxon';

/** `14:05Z`, and the day in front when it is not today. */
export function utcTime(iso: string, now: number = Date.now()): string {
  const at = DateTime.fromISO(iso, { zone: 'utc' });
  const sameDay = at.hasSame(DateTime.fromMillis(now, { zone: 'utc' }), 'day');
  return at.toFormat(sameDay ? "HH:mm'Z'" : "d LLL HH:mm'Z'");
}

/** With seconds, for evidence. */
export const utcSeconds = (iso: string): string => DateTime.fromISO(iso, { zone: 'utc' }).toFormat("HH:mm:ss'Z'");

/** The same in the zone of this device. */
export const localTime = (iso: string): string => DateTime.fromISO(iso).toFormat('d LLL HH:mm:ss ZZZZ');

/** `12 s`, `4 min`, `3 h`, `2 d`. */
export function age(iso: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - Date.parse(iso)) / 1000));
  if (seconds < 60) return `${seconds} s`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min`;
  if (seconds < 86_400) return `${Math.floor(seconds / 3600)} h`;
  return `${Math.floor(seconds / 86_400)} d`;
}
