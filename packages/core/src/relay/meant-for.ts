/** A text that is handed on by somebody else: whom it is for stands in front, `Ferry Office: when do you run again`. */
export const writeMeantFor = (name: string, text: string): string => `${name}: ${text}`;

/**
 * Whom of the names a text says in front that it is for, and the rest of it; null where it says none. As people write it: with a colon, a
 * comma or a dash, with or without `for`. Of two names that begin alike the longer one is meant.
 */
export function readMeantFor(
  text: string,
  names: readonly string[],
): { readonly name: string; readonly text: string } | null {
  for (const name of [...names].sort((a, b) => b.length - a.length)) {
    const start = new RegExp(`^(?:for |to )?${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}\\s*[:,–-]\\s*`, 'iu').exec(
      text,
    );
    if (start) return { name, text: text.slice(start[0].length) };
  }
  return null;
}
