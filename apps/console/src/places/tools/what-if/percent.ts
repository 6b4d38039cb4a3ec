/** A chance as so many of 100: none and all are said only of what is none and all. */
export const percent = (chance: number): string =>
  String(Math.min(99, Math.max(chance < 0.005 ? 0 : 1, Math.round(100 * chance))));
