import { RE2JS } from 're2js';
import { fail, ok, type Parsed } from '../result';

/** What a pattern says of a line: whether it is found, and what its named groups found. */
export interface LinePattern {
  test(line: string): boolean;
  /** Null where it is not found; of a group that took no part the empty text. */
  exec(line: string): Record<string, string> | null;
}

const MOST_COMPILED = 200;
const compiled = new Map<string, RE2JS>();

/**
 * Patterns come from whoever wrote them and meet whatever is on the air: an engine of linear time runs them, without look-around and
 * back-references. Compiled once; throws for what is no pattern.
 */
export function pattern(source: string): LinePattern {
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

/** The same for what somebody typed: why it is no pattern, instead of an error that is thrown. */
export function readPattern(source: string): Parsed<LinePattern> {
  try {
    return ok(pattern(source));
  } catch (error) {
    return fail(0, (error as Error).message);
  }
}
