import { fail, ok, type Parsed } from '../result';
import { readPattern } from '../text/pattern';
import type { BoardProfile } from './profile';

/** Longest line that a pattern is tried on: boards are on the air, and the air is hostile. */
export const LONGEST_LINE = 400;

/** Every pattern of a profile that is no regular expression, by name. */
export function checkProfile(profile: BoardProfile): Parsed<BoardProfile> {
  const patterns: Record<string, string> = {
    prompt: profile.prompt,
    'list row': profile.list.row,
    field: profile.read.field,
    carried: profile.read.carried,
    'text begins': profile.read.textBegins,
    'asks for the subject': profile.leave.asksSubject,
    'asks for the text': profile.leave.asksText,
    taken: profile.leave.taken,
    refused: profile.leave.refused,
    ...(profile.mine && { mine: profile.mine.row }),
  };
  for (const [name, source] of Object.entries(patterns)) {
    const read = readPattern(source);
    if (!read.ok) return fail(0, `the pattern “${name}” cannot be used: ${read.error.reason}`);
  }
  return ok(profile);
}
