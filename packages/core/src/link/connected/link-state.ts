/**
 * State of one AX.25 data-link connection, modulo 8 (v2.2 §4.2.2, §6.3–6.8 and appendix C4). A plain value: it is never
 * changed in place, `stepLink` gives the next one.
 */
export interface LinkState {
  readonly mode: LinkMode;
  /** Send state variable: number of the next new I frame. */
  readonly vs: number;
  /** Acknowledge state variable: number of the oldest I frame that is not acknowledged. */
  readonly va: number;
  /** Receive state variable: number of the I frame that is expected next. */
  readonly vr: number;
  /** I fields sent and not acknowledged, from `va` on. */
  readonly sent: readonly Uint8Array[];
  /** I fields that wait, each at most PACLEN octets. */
  readonly queue: readonly Uint8Array[];
  /** Tries since the other side was last seen to make progress. */
  readonly rc: number;
  readonly peerBusy: boolean;
  readonly ownBusy: boolean;
  /** A REJ or SREJ was sent and not yet answered by the frame that it asked for. */
  readonly rejecting: boolean;
  /** Both sides offered SREJ: what came behind a missing frame is kept, and only that one asked for (v2.2 §6.4.4.3). */
  readonly selective: boolean;
  /** I fields that came ahead of a missing one, by their number. */
  readonly kept: readonly { readonly ns: number; readonly info: Uint8Array }[];
  readonly acknowledgePending: boolean;
  /** The other side acknowledged or sent something since the link was set up: a second SABM would lose it. */
  readonly moved: boolean;
  /** The end was already told; only the release is still awaited. */
  readonly told: boolean;
  /** Smoothed time from the end of a transmission to its acknowledgement, ms. */
  readonly srttMs: number;
  readonly t1: { readonly startedAtMs: number; readonly airMs: number } | null;
  readonly t2: boolean;
  readonly t3: boolean;
}

export type LinkMode = 'disconnected' | 'awaiting connection' | 'connected' | 'timer recovery' | 'awaiting release';

export interface LinkParameters {
  /** Initial T1 for a direct path, ms; times 2·n + 1 for n digipeaters (v2.2 §6.7.1.1). */
  readonly t1Ms: number;
  /** How long an acknowledgement may wait for a frame to ride on, ms. */
  readonly t2Ms: number;
  /** Silence after which the other side is asked whether it is still there, ms. */
  readonly t3Ms: number;
  /** Tries before the link is given up. */
  readonly n2: number;
  /** Window k: I frames outstanding, 1–7. */
  readonly window: number;
  /** Octets of an I field. */
  readonly paclen: number;
  readonly digipeaters: number;
  /** Both sides offered SREJ by XID before. */
  readonly selective: boolean;
  /** Time that an octet takes on the air, and what each transmission takes besides (TXDELAY, flags, tail), ms. */
  readonly octetMs: number;
  readonly overheadMs: number;
}

/** Defaults of v2.2 §6.7.1 and §6.8 for a 1200 Bd channel. */
export const LINK_DEFAULTS: LinkParameters = {
  t1Ms: 3000,
  t2Ms: 1000,
  t3Ms: 300_000,
  n2: 10,
  window: 4,
  paclen: 256,
  digipeaters: 0,
  selective: false,
  octetMs: 8000 / 1200,
  overheadMs: 350,
};

/** A link that is down; the start of every connection. */
export const linkDown = (parameters: LinkParameters): LinkState => ({
  mode: 'disconnected',
  vs: 0,
  va: 0,
  vr: 0,
  sent: [],
  queue: [],
  rc: 0,
  peerBusy: false,
  ownBusy: false,
  rejecting: false,
  selective: parameters.selective,
  kept: [],
  acknowledgePending: false,
  moved: false,
  told: false,
  srttMs: (parameters.t1Ms * (2 * parameters.digipeaters + 1)) / 2,
  t1: null,
  t2: false,
  t3: false,
});

/** Distance from `from` on to `to`, modulo 8. */
export const ahead = (from: number, to: number): number => (to - from + 8) & 7;
