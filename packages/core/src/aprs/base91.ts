/** Digits of base 91 as positions, comments and extra precision use them (Protocol Reference 1.0.1, ch. 9): `!` is 0. */
export const isBase91 = (code: number): boolean => code >= 33 && code <= 123;

/** The number that `digits` characters from `at` stand for; -1 when one of them is no digit. */
export function base91(text: string, at: number, digits: number): number {
  let value = 0;
  for (let i = at; i < at + digits; i++) {
    const code = text.charCodeAt(i);
    if (!isBase91(code)) return -1;
    value = value * 91 + code - 33;
  }
  return value;
}

export function toBase91(value: number, digits: number): string {
  let text = '';
  let rest = value;
  for (let i = 0; i < digits; i++) {
    text = String.fromCharCode((rest % 91) + 33) + text;
    rest = Math.floor(rest / 91);
  }
  return text;
}
