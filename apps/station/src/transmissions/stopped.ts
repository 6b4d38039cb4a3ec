import { locksOf, type Settings } from '@tombolo/contract';
import type { BearerRow } from '../store/entities';
import { HELD_WORDS } from './gate';

/** Why nothing of ours goes out by itself over a bearer now, in words; null when it does. */
export function whyStopped(bearer: BearerRow | null | undefined, settings: Settings): string | null {
  if (!bearer) return 'Its bearer is not there any more.';
  if (!bearer.enabled) return `“${bearer.name}” is switched off.`;
  if (settings.heldSince !== null) return HELD_WORDS;
  const [lock] = locksOf(bearer.config.kind, settings);
  if (lock !== undefined) return lock;
  return bearer.state.link === 'up' ? null : (bearer.state.reason ?? `“${bearer.name}” is not connected.`);
}
