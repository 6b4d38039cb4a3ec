import type { Frequency, HeardPath } from '@tombolo/core';

/** A node of a mesh is kept by its number. */
export type StationKind = 'station' | 'object' | 'item' | 'node';

/** What is known of a station or an object: a fold over what was heard of it, kept so that it need not be folded again. */
export interface StationState {
  readonly call: string;
  readonly kind: StationKind;
  readonly name: string;
  /** Of objects: who reports it. */
  readonly owner: string | null;
  readonly live: boolean;
  /** What somebody who is not its owner said of an object. */
  readonly conflict: string | null;
  readonly firstAtMs: number;
  readonly lastAtMs: number;
  /** When it was heard the way that `how`, `via` and `words` tell. */
  readonly howAtMs: number;
  readonly how: HeardPath['how'];
  readonly via: readonly string[];
  readonly words: string;
  readonly bearerId: string | null;
  readonly bearers: readonly string[];
  readonly directAtMs: number | null;
  /** When it was last seen passing on a packet of somebody else. */
  readonly relaysAtMs: number | null;
  readonly messaging: boolean | null;
  readonly positionAtMs: number | null;
  readonly latitude: number | null;
  readonly longitude: number | null;
  readonly ambiguity: number;
  readonly symbol: string | null;
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
  readonly altitudeM: number | null;
  readonly comment: string | null;
  readonly frequency: Frequency | null;
  readonly status: string | null;
  readonly statusAtMs: number | null;
  readonly message: string | null;
  readonly weatherAtMs: number | null;
  readonly telemetryAtMs: number | null;
  readonly packets: number;
  /** Points of the trail, for telling who moves. */
  readonly moves: number;
  /** The last place that was kept off the trail. */
  readonly doubt: { readonly atMs: number; readonly latitude: number; readonly longitude: number } | null;
}
