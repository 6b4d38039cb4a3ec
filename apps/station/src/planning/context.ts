import type { BearerKindId, BearerView, Settings } from '@tombolo/contract';
import type { Correction, Position } from '@tombolo/core';
import type { Queries } from '../store/database';
import type { MapReach } from './map-reach';

/** What planning knows of this station now. */
export interface PlanningContext {
  readonly queries: Queries;
  readonly settings: Settings;
  readonly ownPosition: Position | null;
  readonly bearers: readonly BearerView[];
  readonly mapReach: MapReach;
  /** What forecasts by each kind of bearer are corrected by; none for those that are not there. */
  readonly corrections: ReadonlyMap<BearerKindId, Correction>;
  readonly nowMs: number;
}
