import type { BearerView } from '@tombolo/contract';
import type { IconName } from '../ui/icon';
import { utcTime } from '../ui/time';

export const STATE: Record<BearerView['state']['link'], { icon: IconName; words: string }> = {
  up: { icon: 'check-circle-outline', words: 'Up' },
  connecting: { icon: 'dots-horizontal-circle-outline', words: 'Connecting' },
  down: { icon: 'close-circle-outline', words: 'Down' },
  off: { icon: 'minus-circle-outline', words: 'Switched off' },
};

/** Up or down and why, in one sentence. */
export function stateWords({ state }: BearerView, now: number): string {
  const { words } = STATE[state.link];
  const since = `since ${utcTime(state.since, now)}`;
  if (state.link !== 'down') return `${words} ${since}`;
  const next = state.nextTryAt
    ? `; tried again ${Date.parse(state.nextTryAt) > now ? `at ${utcTime(state.nextTryAt, now)}` : 'now'}`
    : '';
  return `${words} ${since}: ${state.reason ?? 'not connected'}${next}`;
}
