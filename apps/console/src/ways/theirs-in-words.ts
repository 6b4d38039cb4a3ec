import type { PlannedWay } from '@tombolo/contract';
import { counted } from '@tombolo/core';

/** What came of earlier forecasts for one addressee: `of 14 sendings, 12 were expected to be proved and 6 were`. */
export function theirsInWords({ count, expected, happened }: NonNullable<PlannedWay['theirs']>): string {
  const were = (n: number) => (n === 1 ? 'was' : 'were');
  const about = Math.round(expected);
  return `of ${counted(count, 'sending')}, ${about} ${were(about)} expected to be proved and ${happened} ${were(happened)}`;
}
