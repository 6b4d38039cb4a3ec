const MOST_REMEMBERED = 5000;

/** What is reckoned, remembered by its key for what was asked for last: nets ask for the same again and again. */
export function remembered<Asked extends readonly unknown[], T>(
  keyOf: (...asked: Asked) => string,
  reckon: (...asked: Asked) => T,
  most = MOST_REMEMBERED,
): (...asked: Asked) => T {
  const found = new Map<string, T>();
  return (...asked) => {
    const key = keyOf(...asked);
    const known = found.get(key);
    if (known !== undefined) return known;
    if (found.size >= most) found.clear();
    const value = reckon(...asked);
    found.set(key, value);
    return value;
  };
}
