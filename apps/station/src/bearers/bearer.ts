import type { BearerConfig, BearerState } from '@tombolo/contract';
import type { Heard } from '../ingest/heard';

/** Whether the equipment behind a bearer took a frame. */
export type Taken = { readonly taken: true } | { readonly taken: false; readonly reason: string };

/** The port that every adapter fills: a way across, up or down for a reason. */
export interface Bearer {
  start(): void;
  stop(): Promise<void>;
  state(): BearerState;
  /** Hands over one frame (AX.25 without FCS); absent for bearers that only listen. */
  readonly transmit?: (frame: Uint8Array) => Promise<Taken>;
}

export interface BearerContext {
  readonly id: string;
  readonly now: () => number;
  readonly random: () => number;
  readonly heard: (heard: Heard) => void;
  readonly stateChanged: () => void;
  /** KISS TXDELAY in ms, told to the modem at each connection. */
  readonly txDelayMs: () => number;
}

export type BearerFactory<Kind extends BearerConfig['kind']> = (
  config: Extract<BearerConfig, { kind: Kind }>,
  context: BearerContext,
) => Bearer;
