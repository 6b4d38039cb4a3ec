const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** The day in front of a time when it is not today, with the year when it is not this one. */
function dayOf(at: Date, now: Date): string {
  const sameYear = at.getUTCFullYear() === now.getUTCFullYear();
  if (sameYear && at.toISOString().slice(0, 10) === now.toISOString().slice(0, 10)) return '';
  const day = `${at.getUTCDate()} ${MONTHS[at.getUTCMonth()]} `;
  return sameYear ? day : `${day}${at.getUTCFullYear()} `;
}

/** What is shown of an instant that is none: never a page that falls over it. */
const NO_TIME = 'no time';

function utc(iso: string, now: number, clock: [from: number, to: number]): string {
  const at = new Date(iso);
  if (Number.isNaN(at.getTime())) return NO_TIME;
  return `${dayOf(at, new Date(now))}${at.toISOString().slice(...clock)}Z`;
}

/** `14:05Z`, `24 Nov 23:59Z`, `31 Dec 2025 23:59Z`. */
export const utcTime = (iso: string, now: number = Date.now()): string => utc(iso, now, [11, 16]);

/** With the clock of this device beside it where that is another: `14:05Z (15:05)`. */
export function utcAndLocal(iso: string, now: number = Date.now()): string {
  const at = new Date(iso);
  const same = Number.isNaN(at.getTime()) || at.getTimezoneOffset() === 0;
  return same ? utcTime(iso, now) : `${utcTime(iso, now)} (${at.toTimeString().slice(0, 5)})`;
}

/** With seconds, for evidence. */
export const utcSeconds = (iso: string, now: number = Date.now()): string => utc(iso, now, [11, 19]);

/** The same in the zone of this device, with its name: `24 Nov 15:05:00 CET`. */
export function localTime(iso: string, now: number = Date.now()): string {
  const at = new Date(iso);
  if (Number.isNaN(at.getTime())) return NO_TIME;
  const zone = new Intl.DateTimeFormat('en-GB', { timeZoneName: 'short' })
    .formatToParts(at)
    .find(({ type }) => type === 'timeZoneName')!.value;
  const year = at.getFullYear() === new Date(now).getFullYear() ? '' : `${at.getFullYear()} `;
  return `${at.getDate()} ${MONTHS[at.getMonth()]} ${year}${at.toTimeString().slice(0, 8)} ${zone}`;
}

/** `12 s`, `4 min`, `3 h`, `2 d`. */
export function age(iso: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - Date.parse(iso)) / 1000));
  if (seconds < 60) return `${seconds} s`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min`;
  if (seconds < 86_400) return `${Math.floor(seconds / 3600)} h`;
  return `${Math.floor(seconds / 86_400)} d`;
}
