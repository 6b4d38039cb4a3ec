import { RE2JS } from 're2js';
import { fail, ok, type Parsed } from '../result';
import type { BoardProfile } from './profile';

/** Longest line that a pattern is tried on: boards are on the air, and the air is hostile. */
export const LONGEST_LINE = 400;

/**
 * Patterns come from whoever wrote the profile and meet whatever is on the air: an engine of linear time runs them, without
 * look-around and back-references. Compiled once.
 */
const compiled = new Map<string, RE2JS>();
export function pattern(source: string): {
  test(line: string): boolean;
  exec(line: string): Record<string, string> | null;
} {
  let known = compiled.get(source);
  if (!known) {
    known = RE2JS.compile(source);
    if (compiled.size >= MOST_COMPILED) compiled.clear();
    compiled.set(source, known);
  }
  const expression = known;
  return {
    test: (line) => expression.matcher(line).find(),
    exec(line) {
      const found = expression.matcher(line);
      if (!found.find()) return null;
      const groups: Record<string, string> = {};
      for (const name of Object.keys(expression.namedGroups())) groups[name] = found.group(name) ?? '';
      return groups;
    },
  };
}
const MOST_COMPILED = 200;

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
    try {
      pattern(source);
    } catch (error) {
      return fail(0, `the pattern “${name}” cannot be used: ${(error as Error).message}`);
    }
  }
  return ok(profile);
}
