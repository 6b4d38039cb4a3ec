import {
  causeWords,
  counted,
  ruleBaseOf,
  SYMPTOMS,
  type CheckState,
  type OwnCause,
  type SymptomId,
} from '@tombolo/core';

export const symptomWords = (id: SymptomId): string => SYMPTOMS.find((one) => one.id === id)!.words;

/** `5 s`, `2 min`. */
export const aboutWords = (seconds: number): string =>
  seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`;

/** `7 %`; what is possible is never said to be 0, and what is not certain never to be 100. */
export function chanceWords(chance: number): string {
  if (chance >= 1) return 'nothing else is left';
  const percent = Math.round(chance * 100);
  return percent < 1 ? 'under 1 %' : percent > 99 ? 'over 99 %' : `${percent} %`;
}

type Question = Extract<CheckState, { is: 'question' }>;

/** Why this is asked now. */
export function whyNow({ test, expectedS, exact, leaves }: Question): string {
  if (test.danger !== undefined) return `Asked before everything else. ${test.danger}`;
  const outcomes = leaves
    .map(({ outcomeId, left }) => `“${test.outcomes.find(({ id }) => id === outcomeId)!.words}” leaves ${left}`)
    .join(', ');
  return `It takes about ${aboutWords(test.costS)}: ${outcomes}. In this order the fault is known after ${aboutWords(expectedS!)} on average${exact ? '; no other order is quicker' : ''}.`;
}

/** What was found in a check that was kept, in words. */
export const foundWords = (symptom: SymptomId, found: string, own: readonly OwnCause[]): string =>
  causeWords(ruleBaseOf(symptom, own), found).words;

export const possibleWords = (n: number): string => `${counted(n, 'cause')} still possible`;
