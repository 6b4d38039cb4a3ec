import type { BearerView, Settings } from '@tombolo/contract';
import type { Position, RadioEnd } from '@tombolo/core';
import type { Queries } from '../store/database';
import type { CorrectionsByCarried } from './corrections';
import type { GroundReach, MapReach } from './map-reach';

/** What planning knows of this station now. */
export interface PlanningContext {
  readonly queries: Queries;
  readonly settings: Settings;
  readonly ownPosition: Position | null;
  readonly bearers: readonly BearerView[];
  /** Our set and antenna, as Equipment names them, or usual ones. */
  readonly ownEnd: RadioEnd;
  readonly mapReach: MapReach;
  /** The same at another frequency; null where no set with an antenna is listed for it. */
  readonly ownEndAt: (frequencyMHz: number) => RadioEnd | null;
  readonly groundReach: GroundReach;
  /** What forecasts of each sort are corrected by; none for those that are not there. */
  readonly corrections: CorrectionsByCarried;
  readonly nowMs: number;
  /** What is thought off, by the identity of a bearer, a call, the tag of a node, or the internet; none but in a what if. */
  readonly without: ReadonlySet<string>;
}
