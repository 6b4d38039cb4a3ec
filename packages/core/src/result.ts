/** Why and where (octet or character offset) a parser gave up. */
export interface ParseError {
  readonly at: number;
  readonly reason: string;
}

/** What every parser of the core returns: a value, or a typed failure. Parsers never throw. */
export type Parsed<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: ParseError };

export const ok = <T>(value: T): Parsed<T> => ({ ok: true, value });

export const fail = (at: number, reason: string): { ok: false; error: ParseError } => ({
  ok: false,
  error: { at, reason },
});
