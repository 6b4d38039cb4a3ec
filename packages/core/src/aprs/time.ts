import { fail, ok, type Parsed } from '../result';
import type { Note } from './note';

/** A time as packets carry it (Protocol Reference 1.0.1, ch. 6); what the form leaves out is null. */
export interface PacketTime {
  /** `local` is the sender's own zone, which the packet does not name. */
  readonly zone: 'UTC' | 'local';
  readonly month: number | null;
  readonly day: number | null;
  readonly hour: number;
  readonly minute: number;
  readonly second: number | null;
}

export const TIME_OCTETS = 7;
const DAY_MS = 86_400_000;

/** Six digits and `z` (day, hour, minute UTC), `/` (the same, local) or `h` (hour, minute, second UTC), at `at`. */
export function decodeTime(text: string, at: number, note?: Note): Parsed<PacketTime> {
  const form = text[at + 6];
  const [a, b, c] = [pair(text, at), pair(text, at + 2), pair(text, at + 4)];
  if (a < 0 || b < 0 || c < 0 || (form !== 'z' && form !== '/' && form !== 'h'))
    return fail(at, 'the time is not six digits and z, h or /');
  const time: PacketTime =
    form === 'h'
      ? { zone: 'UTC', month: null, day: null, hour: a, minute: b, second: c }
      : { zone: form === 'z' ? 'UTC' : 'local', month: null, day: a, hour: b, minute: c, second: null };
  if (!isTime(time)) return fail(at, `there is no time ${text.slice(at, at + TIME_OCTETS)}`);
  note?.('Time', timeInWords(time), at, at + TIME_OCTETS);
  return ok(time);
}

/** Two digits as a number, or -1. */
function pair(text: string, at: number): number {
  const [a, b] = [text.charCodeAt(at) - 0x30, text.charCodeAt(at + 1) - 0x30];
  return a >= 0 && a <= 9 && b >= 0 && b <= 9 ? 10 * a + b : -1;
}

/** `MMDDHHMM` in UTC, the time of weather reports without position. */
export function decodeMonthTime(text: string, at: number, note?: Note): Parsed<PacketTime> {
  const digits = text.slice(at, at + 8);
  if (!/^\d{8}$/.test(digits)) return fail(at, 'the time is not eight digits');
  const part = (i: number) => Number(digits.slice(i, i + 2));
  const time: PacketTime = { zone: 'UTC', month: part(0), day: part(2), hour: part(4), minute: part(6), second: null };
  if (!isTime(time)) return fail(at, `there is no time ${digits}`);
  note?.('Time', timeInWords(time), at, at + 8);
  return ok(time);
}

const within = (value: number | null, least: number, most: number) =>
  value === null || (value >= least && value <= most);

const isTime = ({ month, day, hour, minute, second }: PacketTime): boolean =>
  within(month, 1, 12) && within(day, 1, 31) && within(hour, 0, 23) && within(minute, 0, 59) && within(second, 0, 59);

const two = (n: number) => String(n).padStart(2, '0');

/** Names of the months, from January. */
export const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** The time in words: `day 9, 23:45 UTC`. */
export function timeInWords({ zone, month, day, hour, minute, second }: PacketTime): string {
  const clock = `${two(hour)}:${two(minute)}${second === null ? '' : `:${two(second)}`}`;
  const date = month !== null ? `${day} ${MONTHS[month - 1]}, ` : day !== null ? `day ${day}, ` : '';
  return `${date}${clock} ${zone === 'UTC' ? 'UTC' : 'local time of the sender'}`;
}

/** The instant nearest to `heardAtMs` that a packet's time can mean, ms; null for local times, whose zone is not told. */
export function instantOf(time: PacketTime, heardAtMs: number): number | null {
  if (time.zone === 'local') return null;
  const heard = new Date(heardAtMs);
  const clock = ((time.hour * 60 + time.minute) * 60 + (time.second ?? 0)) * 1000;
  const candidates: number[] = [];
  const year = heard.getUTCFullYear();
  const month = heard.getUTCMonth();
  const add = (y: number, m: number, day: number) => {
    const midnight = Date.UTC(y, m, day);
    // A day that the month does not have would slip into the next month.
    if (new Date(midnight).getUTCDate() === day) candidates.push(midnight + clock);
  };
  if (time.day === null) {
    const midnight = Date.UTC(year, month, heard.getUTCDate());
    candidates.push(midnight - DAY_MS + clock, midnight + clock, midnight + DAY_MS + clock);
  } else if (time.month === null) for (const step of [-1, 0, 1]) add(year, month + step, time.day);
  else for (const step of [-1, 0, 1]) add(year + step, time.month - 1, time.day);
  let nearest: number | null = null;
  for (const at of candidates)
    if (nearest === null || Math.abs(at - heardAtMs) < Math.abs(nearest - heardAtMs)) nearest = at;
  return nearest;
}

/** `DDHHMMz` of an instant, for sending. */
export function encodeDayTime(atMs: number): string {
  const at = new Date(atMs);
  return `${two(at.getUTCDate())}${two(at.getUTCHours())}${two(at.getUTCMinutes())}z`;
}

/** `HHMMSSh` of an instant, for sending. */
export function encodeClockTime(atMs: number): string {
  const at = new Date(atMs);
  return `${two(at.getUTCHours())}${two(at.getUTCMinutes())}${two(at.getUTCSeconds())}h`;
}

/** `MMDDHHMM` of an instant, for weather reports without position. */
export function encodeMonthTime(atMs: number): string {
  const at = new Date(atMs);
  return `${two(at.getUTCMonth() + 1)}${two(at.getUTCDate())}${two(at.getUTCHours())}${two(at.getUTCMinutes())}`;
}
