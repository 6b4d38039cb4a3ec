import type { RetryPolicy } from '@tombolo/core';
import type { Precedence, Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import type { Bearer, OutgoingLeg } from './bearer';
import type { LegDetail } from '../store/entities';

export interface OutboxContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  /** Bearers of this process that may and can transmit now. */
  readonly ready: () => { id: string; bearer: Bearer }[];
  readonly now: () => number;
  readonly random: () => number;
  /** Name of this process on its leases. */
  readonly owner: string;
  readonly log: (message: string) => void;
  /** The path by which something that goes out by itself is sent to somebody; null: as it was queued. */
  readonly pathOfAnswer: (answer: {
    readonly bearerId: string;
    readonly to: string;
  }) => Promise<readonly string[] | null>;
}

/** A transmission whose time has come. */
export interface DueLeg {
  id: string;
  /** Null for what belongs to no item. */
  item_id: string | null;
  role: 'convey' | 'acknowledge' | 'reject' | 'answer';
  bearer_id: string;
  from_call: string;
  to_call: string;
  path: string[];
  info: Buffer;
  acknowledgement_asked: boolean;
  policy: RetryPolicy;
  detail: LegDetail | null;
  number: string | null;
  precedence: Precedence;
}

/** What a bearer has to know of it. */
export const outgoing = (leg: DueLeg): OutgoingLeg => ({
  id: leg.id,
  fromCall: leg.from_call,
  toCall: leg.to_call,
  path: leg.path,
  info: leg.info,
  detail: leg.detail,
  number: leg.number,
});
