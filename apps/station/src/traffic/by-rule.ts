import { transmitLocks, type Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import type { PlanningContext } from '../planning/context';

/** What the rules for texts that nobody answers work with. */
export interface ByRuleContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly planning: () => Promise<PlanningContext>;
  readonly wakeOutbox: () => void;
  readonly now: () => number;
}

/** What is surer by less is not worth a change: it is less than is known. */
export const SURER = 0.1;
/** Once is no silence yet. */
export const LEAST_TRIES = 2;
/** Of more at once the rest has its turn the next time. */
const MOST_AT_ONCE = 20;
/** More than these are not even looked for. */
export const MOST_LOOKED_FOR = 1000;
/** How often a rule has its turn. */
export const RULE_TURN_MS = 60_000;

/** Those whose turn it is, of all in their order: those that nothing can be done for do not keep the others from theirs. */
export function inTurn<T>(all: readonly T[], nowMs: number): readonly T[] {
  if (all.length <= MOST_AT_ONCE) return all;
  const first = (Math.floor(nowMs / RULE_TURN_MS) * MOST_AT_ONCE) % all.length;
  return [...all.slice(first), ...all.slice(0, first)].slice(0, MOST_AT_ONCE);
}

/** Nothing is changed by rule while nothing can go out. */
export const canGoOut = (settings: Settings): boolean =>
  settings.heldSince === null && transmitLocks(settings).length === 0;
