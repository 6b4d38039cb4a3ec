import type { LinkFrame } from './link-frame';
import type { LinkState } from './link-state';

export type LinkTimer = 'T1' | 'T2' | 'T3';

export type LinkEvent =
  | { readonly kind: 'connect' }
  | { readonly kind: 'disconnect' }
  | { readonly kind: 'data'; readonly octets: Uint8Array }
  | { readonly kind: 'busy'; readonly busy: boolean }
  /** Asked by a UI frame that polls (v2.2 appendix C4). */
  | { readonly kind: 'polled' }
  /** XID told what both sides offer. */
  | { readonly kind: 'negotiated'; readonly selective: boolean }
  | { readonly kind: 'frame'; readonly frame: LinkFrame }
  | { readonly kind: 'timer'; readonly timer: LinkTimer };

export type LinkEnd =
  /** We disconnected. */
  | 'local'
  | 'peer'
  /** The other side answered that it takes no connection. */
  | 'refused'
  | 'no answer'
  /** The other side started anew while data was under way. */
  | 'reset'
  /** The other side broke the protocol, or says that we did. */
  | 'protocol';

export type LinkIndication =
  | { readonly kind: 'connected'; readonly incoming: boolean }
  | { readonly kind: 'data'; readonly octets: Uint8Array }
  /** Everything that was given to the link is acknowledged. */
  | { readonly kind: 'drained' }
  /** `clean` when everything that was given to the link was acknowledged. */
  | { readonly kind: 'disconnected'; readonly reason: LinkEnd; readonly clean: boolean };

export interface LinkOutcome {
  readonly state: LinkState;
  readonly frames: readonly LinkFrame[];
  /** Timers to start anew, or to stop when `afterMs` is null. */
  readonly timers: readonly { readonly timer: LinkTimer; readonly afterMs: number | null }[];
  readonly indications: readonly LinkIndication[];
}
