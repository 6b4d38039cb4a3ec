import type { BearerConfig, BearerState } from '@tombolo/contract';
import type { Parsed } from '@tombolo/core';
import type { LinkStream } from '@tombolo/link-stream';
import type { DataSource } from 'typeorm';
import type { Heard } from '../ingest/heard';
import type { LegDetail } from '../store/entities';

/** Whether the equipment behind a bearer took a frame. */
export type Taken = { readonly taken: true } | { readonly taken: false; readonly reason: string };

/** What an attempt needs to know of its leg. */
export interface OutgoingLeg {
  readonly id: string;
  readonly fromCall: string;
  readonly toCall: string;
  readonly path: readonly string[];
  readonly info: Uint8Array;
  readonly detail: LegDetail | null;
  readonly number: string | null;
}

/** One try of a leg as the bearer would send it. */
export interface EncodedLeg {
  readonly frame: Uint8Array;
  /** As text, for the record. */
  readonly line: string;
  /** By which it is recognised when it is heard again. */
  readonly identity: Buffer;
}

/** The port that every adapter fills: a way across, up or down for a reason. */
export interface Bearer {
  start(): void;
  stop(): Promise<void>;
  state(): BearerState;
  /** Hands over one try; absent for bearers that only listen, and for those that are called in sessions. */
  readonly transmit?: (frame: Uint8Array) => Promise<Taken>;
  readonly encode?: (leg: OutgoingLeg, attempt: number) => Parsed<EncodedLeg>;
  /** A connection over this bearer; throws in words when there can be none. */
  readonly connect?: (peer: string, path: readonly string[]) => LinkStream;
}

export interface BearerContext {
  readonly id: string;
  readonly now: () => number;
  readonly random: () => number;
  readonly heard: (heard: Heard) => void;
  readonly stateChanged: () => void;
  /** KISS TXDELAY in ms, told to the modem at each connection. */
  readonly txDelayMs: () => number;
  /** Own call with SSID; null while none is set. */
  readonly ownCall: () => string | null;
  readonly database: DataSource;
  readonly log: (message: string) => void;
  readonly wakeOutbox: () => void;
}

export type BearerFactory<Kind extends BearerConfig['kind']> = (
  config: Extract<BearerConfig, { kind: Kind }>,
  context: BearerContext,
) => Bearer;
