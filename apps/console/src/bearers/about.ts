/** `about 40 s`, `about 3 min`. */
export const aboutSeconds = (seconds: number): string =>
  seconds < 90 ? `about ${Math.max(1, Math.round(seconds / 5) * 5)} s` : `about ${Math.round(seconds / 60)} min`;
