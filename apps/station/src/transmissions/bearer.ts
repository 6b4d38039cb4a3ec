import type { BearerConfig, BearerState } from '@tombolo/contract';
import type { DutyRule, Parsed } from '@tombolo/core';
import type { LinkStream } from '@tombolo/link-stream';
import type { LegDetail } from '../store/entities';
import type { AtEquipment, Taken } from './taken';

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

/** Of which port of the modem, and on which frequency, a radio works now. */
export interface Tuned {
  readonly port: number | null;
  readonly frequencyHz: number | null;
}

/** The port that every adapter fills: a way across, up or down for a reason. */
export interface Bearer {
  start(): void;
  stop(): Promise<void>;
  state(): BearerState;
  /** Takes a changed configuration over while it runs; false, or absent, where it must be started anew. */
  readonly adopt?: (config: BearerConfig) => boolean;
  readonly tuned?: () => Tuned;
  /** Hands over one try; absent for bearers that only listen, and for those that are called in sessions. */
  readonly transmit?: (encoded: EncodedLeg) => Promise<Taken>;
  /** `transmission` counts what the equipment took, from 1: a try of which nobody knows is made again under the same number. */
  readonly encode?: (leg: OutgoingLeg, transmission: number) => Parsed<EncodedLeg>;
  /** What is handed over twice under one number goes out once: an interrupted try may simply be made again. */
  readonly repeatable?: boolean;
  /** The share of each hour that its transmitter may be on the air, where it is limited by law rather than by us. */
  readonly duty?: DutyRule;
  /** The shared channel that it sends on, and how long a frame holds it. */
  readonly air?: {
    channel(): string;
    ms(frame: Uint8Array): number;
    /** Within this it goes out once it is taken, or never; at once where nothing is said. */
    readonly mostWaitMs?: number;
  };
  /** When the next frame may be handed over; at any time where it is absent. */
  readonly freeAtMs?: (urgent: boolean) => number;
  /** Frames of connections wait until then, for something urgent does. */
  readonly giveWay?: (untilMs: number) => void;
  readonly atEquipment?: () => AtEquipment[];
  /** Air time of what it sent since then and of which no attempt is on record: frames of connections, ms. */
  readonly unrecordedMs?: (sinceMs: number) => number;
  /** The serial device that it holds open; null or absent for none. */
  readonly device?: () => string | null;
  /** Frames that wait here for their turn on the air. */
  readonly waiting?: () => number;
  /** Answers that it left out by itself. */
  readonly leftOut?: () => number;
  /** Something that held it was let go. */
  readonly wake?: () => void;
  /** A connection over this bearer; throws in words when there can be none. */
  readonly connect?: (peer: string, path: readonly string[]) => LinkStream;
}
