import { locksOf, type BearerConfig, type Settings } from '@tombolo/contract';

/** What must be so before anything goes out by a bearer: asked before every frame, whatever caused it. */
export interface Gate {
  /** Why nothing may go out by a bearer of this kind now, in words; null when it may. */
  closed(kind: BearerConfig['kind']): string | null;
  /** Everything is held by the operator. */
  held(): boolean;
}

export const HELD_WORDS = 'Everything is held.';

/** `settings` gives what is known of them now; while nothing is known nothing goes out. */
export function createGate(settings: () => Settings | null): Gate {
  return {
    closed(kind) {
      const current = settings();
      if (current === null) return 'The settings have not been read yet.';
      if (current.heldSince !== null) return HELD_WORDS;
      const [lock] = locksOf(kind, current);
      return lock ?? null;
    },
    held: () => settings()?.heldSince != null,
  };
}
