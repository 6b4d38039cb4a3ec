import { DateTime } from 'luxon';

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
