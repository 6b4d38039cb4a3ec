import type { KeptPlan } from './kept-plans';

/** Things as they are, what is thought now where that is not kept among them, and the plans that were put beside each other. */
export function columnsOf(
  text: string,
  names: readonly string[],
  kept: readonly KeptPlan[],
): readonly { readonly title: string; readonly plan: string }[] {
  const chosen = names.flatMap((name) => kept.filter((one) => one.name === name));
  if (chosen.length === 0) return [];
  const now = text === '' || chosen.some(({ plan }) => plan === text) ? [] : [{ title: 'Thought now', plan: text }];
  return [{ title: 'As it is', plan: '' }, ...now, ...chosen.map(({ name, plan }) => ({ title: name, plan }))];
}
