import { bearingBetween } from '../geo/geodesic';
import type { Fix } from './fix';

/** The fix that is believed, and those that speak against it. */
export interface KeptFix {
  readonly fix: Fix;
  /** When it was received, by our clock, ms. */
  readonly receivedMs: number;
  /** Fixes in a row that cannot follow on it, the last one last. */
  readonly doubted: readonly Fix[];
}

/** Nothing that carries a station goes faster; a fix further off is a jump. */
const MOST_KMH = 1200;
/** So many that agree with each other are right, and what was believed before was not. */
const ENOUGH = 3;
const AGREE_KM = 1;
/** What a fix may be off at rest (common practice, no source). */
const SLACK_KM = 0.2;

const kmBetween = (a: Fix, b: Fix): number => bearingBetween(a, b).distanceKm;

/** Whether a fix can follow on another: not back in the receiver's time, nor faster than anything goes. */
function canFollow(kept: KeptFix, fix: Fix, receivedMs: number): boolean {
  const { toldAt } = kept.fix;
  if (toldAt !== null && fix.toldAt !== null && Date.parse(fix.toldAt) < Date.parse(toldAt)) return false;
  const hours = Math.max(1000, receivedMs - kept.receivedMs) / 3_600_000;
  return kmBetween(kept.fix, fix) <= SLACK_KM + MOST_KMH * hours;
}

/** What is believed after another fix: a jump, or a step back in time, only when it comes again and again. */
export function keepFix(kept: KeptFix | null, fix: Fix, receivedMs: number): KeptFix {
  if (!kept || canFollow(kept, fix, receivedMs)) return { fix, receivedMs, doubted: [] };
  const last = kept.doubted.at(-1);
  const doubted = last && kmBetween(last, fix) <= AGREE_KM ? [...kept.doubted, fix] : [fix];
  return doubted.length >= ENOUGH ? { fix, receivedMs, doubted: [] } : { ...kept, doubted };
}
