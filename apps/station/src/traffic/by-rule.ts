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
export const MOST_AT_ONCE = 20;

/** Nothing is changed by rule while nothing can go out. */
export const canGoOut = (settings: Settings): boolean =>
  settings.heldSince === null && transmitLocks(settings).length === 0;
