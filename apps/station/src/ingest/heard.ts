import type { Ax25Frame, Parsed } from '@tombolo/core';

/** What a bearer or a recording hands to the pipeline: octets, and when and where they were heard. */
export interface Heard {
  readonly bearerId: string | null;
  readonly importId: string | null;
  readonly port: number | null;
  /** A frame of AX.25, a line of a monitor, or a frame of a mesh. */
  readonly form: 'ax25' | 'line' | 'mesh';
  readonly raw: Uint8Array;
  /** The octets as a frame of AX.25, where whoever brought them has read them already. */
  readonly frame?: Parsed<Ax25Frame>;
  readonly heardAtMs: number;
  /** What the receiver was set to, where that is known. */
  readonly frequencyHz?: number | null;
  /** How well it was received, where the bearer tells. */
  readonly signal?: { readonly snrDb: number | null; readonly rssiDbm: number | null };
  /** Set when the bearer itself could not make a frame of the octets. */
  readonly fault?: { readonly at: number; readonly reason: string };
}
