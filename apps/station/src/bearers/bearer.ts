import type { BearerConfig, BearerKindId } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import type { Heard } from '../ingest/heard';
import type { RefusalAccount } from '../transmissions/account';
import type { Bearer, Tuned } from '../transmissions/bearer';

export interface BearerContext {
  readonly id: string;
  readonly now: () => number;
  readonly random: () => number;
  /** False when so much waits that the equipment should pause; `ready` calls back when it may go on. */
  readonly heard: (heard: Heard) => boolean;
  readonly ready: (callback: () => void) => void;
  readonly stateChanged: () => void;
  /** Own call with SSID; null while none is set. */
  readonly ownCall: () => string | null;
  /** Why nothing may go out by this bearer now; null when it may. */
  readonly closed: () => string | null;
  readonly held: () => boolean;
  readonly refusals: RefusalAccount;
  readonly database: DataSource;
  readonly log: (message: string) => void;
  readonly wakeOutbox: () => void;
}

export type BearerFactory<Kind extends BearerKindId> = (config: BearerConfig<Kind>, context: BearerContext) => Bearer;

/** How the station works a kind of bearer. */
export interface BearerAdapter<Kind extends BearerKindId = BearerKindId> {
  readonly kind: Kind;
  create(config: BearerConfig<Kind>, context: BearerContext): Bearer;
  /** Why a configuration of the right form cannot be worked all the same; null when it can. */
  fault?(config: BearerConfig<Kind>): string | null;
  /** How long a frame holds the channel; absent or null for those without a channel of their own. */
  frameMs?(config: BearerConfig<Kind>): ((frame: Uint8Array) => number) | null;
  /** What its radio is tuned to; absent for those without one. */
  tuned?(config: BearerConfig<Kind>): Tuned;
  /** Of one that sends no packets: the bearer that answers what it hears; null for none. */
  answersOver?(config: BearerConfig<Kind>): string | null;
  /** The line by which others join a channel, with its key; null where there is no such channel. */
  invitation?(config: BearerConfig<Kind>, channel: string): string | null;
}
