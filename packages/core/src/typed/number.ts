/** Between groups of three digits people leave a space, also a narrow or a fixed one, an apostrophe, or write a comma. */
const GROUPED = /^[+\-−]?\d{1,3}(?:[ \u00a0\u2009\u202f'’,]\d{3})+$/;
const WHOLE = /^[+\-−]?\d+$/;
const DECIMAL = /^[+\-−]?(?:\d+(?:[.,]\d+)?|[.,]\d+)$/;

const plain = (text: string): number => Number(text.replace('−', '-').replace(',', '.'));

/** A whole number as people type it: `1000`, `1 000`, `1,000`; NaN for anything else. */
export function readWhole(text: string): number {
  const typed = text.trim();
  if (WHOLE.test(typed)) return plain(typed);
  return GROUPED.test(typed) ? plain(typed.replaceAll(/[^\d+\-−]/g, '')) : NaN;
}

/** A decimal number as people type it, with a point or a comma: `146.52`, `146,52`; NaN for anything else. */
export function readDecimal(text: string): number {
  const typed = text.trim();
  return DECIMAL.test(typed) ? plain(typed) : NaN;
}
