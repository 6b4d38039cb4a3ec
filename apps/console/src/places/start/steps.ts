import type { BearerView, Settings } from '@tombolo/contract';

/** What a new station asks, in this order; each can be passed over and come back to. */
export const STEPS = ['who', 'licence', 'where', 'have', 'listen'] as const;
export type Step = (typeof STEPS)[number];

export const STEP_WORDS: Readonly<Record<Step, string>> = {
  who: 'Who you are',
  licence: 'Licence',
  where: 'Where',
  have: 'What you have',
  listen: 'Listen',
};

export const stepOf = (text: string): Step => STEPS.find((step) => step === text) ?? 'who';
export const stepAfter = (step: Step): Step => STEPS[Math.min(STEPS.indexOf(step) + 1, STEPS.length - 1)]!;

/** Whether a step has its answer already. */
export function isAnswered(step: Step, settings: Settings, bearers: readonly BearerView[]): boolean {
  switch (step) {
    case 'who':
      return settings.call !== '' || settings.name !== '';
    case 'licence':
      return settings.licenceConfirmed;
    case 'where':
      return settings.position !== null || settings.region !== 'other';
    case 'have':
      return bearers.length > 0;
    case 'listen':
      return bearers.some(({ lastHeardAt }) => lastHeardAt !== null);
  }
}

/** A station of which nobody has told anything yet. */
export const isNew = (settings: Settings, bearers: readonly BearerView[]): boolean =>
  STEPS.every((step) => !isAnswered(step, settings, bearers));

/** `Renske Hallow` → `RH`: how somebody signs. */
export const initialsOf = (name: string): string =>
  name
    .split(/[\s.]+/)
    .filter(Boolean)
    .map((word) => [...word][0]!.toUpperCase())
    .join('')
    .slice(0, 5);
