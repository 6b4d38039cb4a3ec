import { betaQuantile, meanOf, rememberedOf, type Belief } from '@tombolo/core';
import type { RestsOn } from '@tombolo/contract';
import type { Candidate } from './candidate';
import type { LinkRow } from './link-rows';

/** A chance, and between what it lies in nine of ten cases. */
export const spreadOfBelief = rememberedOf((belief): RestsOn['chance'] => ({
  chance: meanOf(belief),
  low: betaQuantile(belief, 0.05),
  high: betaQuantile(belief, 0.95),
}));

/** Whether anything was heard or tried that a way rests on; else it is a guess. */
export const isSeen = ({ rests, tries }: Pick<Candidate, 'rests' | 'tries'>): boolean =>
  tries.answered + tries.unanswered > 0 || rests.some(({ heard, inferred }) => heard + inferred > 0);

export function restsOf(
  from: string,
  to: string,
  belief: Belief,
  there: LinkRow | undefined,
  back: LinkRow | undefined,
  chance: number,
  words: string | null,
  silence: string | null,
  passedOver: number,
): RestsOn {
  const sum = (row: LinkRow | undefined, n: 0 | 1 | 2) =>
    row ? Math.round(Object.values(row.hours).reduce((all, counts) => all + counts[n], 0)) : 0;
  const last = [there, back].flatMap((row) => (row && row.count > 0 ? [row.last_at] : [])).sort((a, b) => +b - +a)[0];
  return {
    from,
    to,
    chance: spreadOfBelief(belief),
    heard: sum(there, 0),
    inferred: sum(there, 1),
    missed: sum(there, 2),
    passedOver: Math.round(passedOver),
    heardBack: sum(back, 0) + sum(back, 1),
    missedBack: sum(back, 2),
    lastAt: last?.toISOString() ?? null,
    silence,
    ours: null,
    before: { chance, words: words ?? 'A guess: the place of one of them is not known.' },
  };
}
