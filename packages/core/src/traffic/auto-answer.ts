import { parseStationCall } from '../link/address';

/** In front of what we answer by ourselves, so that whoever reads it, and any automaton, can tell. (Our own word.) */
export const AUTOMATIC_MARK = 'Auto: ';

/** What answers of automata begin with. (Common practice, no source.) */
const MARKS = /^\s*(?:aa|auto(?:matic)?(?:[ -](?:answer|reply))?|away|out of office|noreply)\s*[:!\]]/i;
/** Words that carry no question for a person. */
const NO_QUESTION = /^\s*(?:\?|ack|rej|qsl\b)/i;

/** Whether a text is one that an automaton wrote, or that one must not answer. */
export const looksAutomatic = (text: string): boolean =>
  MARKS.test(text) || NO_QUESTION.test(text) || text.trim() === '';

/** Between two times of the day, UTC, in minutes since midnight; `from` later than `to` goes over midnight. */
export function isWithinHours(from: number, to: number, nowMs: number): boolean {
  const now = Math.floor(nowMs / 60_000) % 1440;
  return from === to || (from < to ? now >= from && now < to : now >= from || now < to);
}

/** `HH:MM` in minutes since midnight; null for what is none. */
export function minutesOfDay(text: string): number | null {
  const [, hours, minutes] = /^([01]?\d|2[0-3]):?([0-5]\d)$/.exec(text.trim()) ?? [];
  return hours === undefined ? null : Number(hours) * 60 + Number(minutes);
}

/** Answers that go out by themselves: to one sender, and to all, in an hour. */
export const AUTOMATIC_ANSWERS = { perSenderEveryMs: 3_600_000, perHour: 12 } as const;

/** Whether a sender is a station that somebody sits at: no group, no service, no bulletin. */
export const isPerson = (sender: string): boolean => parseStationCall(sender).ok;
