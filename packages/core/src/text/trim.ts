/** A text without the characters of `unwanted` at its end. One look at each: a pattern with `+$` tries again at every run of them. */
export function withoutEnd(text: string, unwanted: string): string {
  let end = text.length;
  while (end > 0 && unwanted.includes(text[end - 1]!)) end--;
  return text.slice(0, end);
}
