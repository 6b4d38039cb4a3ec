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

const TYPED = ["yyyy-MM-dd'T'HH:mm", 'yyyy-MM-dd HH:mm', 'd LLL yyyy HH:mm', 'HH:mm'];
const TYPED_DAYS = ['yyyy-MM-dd', 'd LLL yyyy'];

/** A time in UTC as people type it: `2026-11-25 14:05`, `25 Nov 2026 14:05Z`, `14:05` for today, or a day – of which the end is meant when `end`. Null for none. */
export function readUtc(text: string, now: number, end = false): string | null {
  const typed = text.trim().replace(/z$/i, '');
  const options = { zone: 'utc', locale: 'en-GB' } as const;
  const today = DateTime.fromMillis(now, { zone: 'utc' });
  for (const format of TYPED) {
    const at = DateTime.fromFormat(typed, format, options);
    if (!at.isValid) continue;
    const { year, month, day } = today;
    return (format === 'HH:mm' ? at.set({ year, month, day }) : at).toUTC().toISO();
  }
  for (const format of TYPED_DAYS) {
    const at = DateTime.fromFormat(typed, format, options);
    if (at.isValid) return (end ? at.endOf('day') : at).toUTC().toISO();
  }
  return null;
}

/** `12 s`, `4 min`, `3 h`, `2 d`. */
export function age(iso: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - Date.parse(iso)) / 1000));
  if (seconds < 60) return `${seconds} s`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min`;
  if (seconds < 86_400) return `${Math.floor(seconds / 3600)} h`;
  return `${Math.floor(seconds / 86_400)} d`;
}
