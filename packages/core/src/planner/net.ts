import type { Position } from '../geo/geodesic';
import type { MeshRadio } from '../mesh/radio';
import { chirpSensitivityDbm, type RadioEnd } from '../reach/link-budget';
import type { HopLink } from './reliability';

/** A station of the net as far as it matters who reaches whom. */
export interface NetStation {
  readonly call: string;
  /** Null where nobody told; then it cannot be moved. */
  readonly place: Position | null;
  /** Whether it repeats for others. */
  readonly repeats: boolean;
  readonly end: RadioEnd;
}

/** On what all of a net send, and what it needs at a receiver. */
export interface NetRadio {
  readonly frequencyMHz: number;
  readonly needsDbm: number;
}

/** Who hears whom directly, seen from one of them. */
export interface Net {
  readonly own: string;
  readonly radio: NetRadio;
  readonly stations: readonly NetStation[];
  readonly hops: readonly HopLink[];
  /** How often what we send may be repeated; without it, as is the custom of packet radio. */
  readonly mostRepeats?: number;
}

/** Decibels above what is needed from one end to the other, over the ground between. */
export type MarginOver = (
  from: { readonly place: Position; readonly end: RadioEnd },
  to: { readonly place: Position; readonly end: RadioEnd },
  radio: NetRadio,
) => number;

/** On what a mesh sends, and what its receivers need. */
export const netRadioOf = ({
  frequencyHz,
  spreadingFactor,
  bandwidthHz,
}: Pick<MeshRadio, 'frequencyHz' | 'spreadingFactor' | 'bandwidthHz'>): NetRadio => ({
  frequencyMHz: frequencyHz / 1e6,
  needsDbm: chirpSensitivityDbm(spreadingFactor, bandwidthHz),
});

/** Two that do not repeat need not hear each other, but for us. */
export const mayCarry = (net: Net, one: NetStation, other: NetStation): boolean =>
  one.repeats || other.repeats || other.call === net.own || one.call === net.own;

/** A path asks for two digipeaters at most, as is the custom (common practice, no source). */
export const USUAL_REPEATS = 2;

export const mostRepeatsOf = (net: Net): number => net.mostRepeats ?? USUAL_REPEATS;
