import type { LinkEnd, LinkIndication, LinkTimer } from './events';
import type { LinkFrame } from './link-frame';
import { ahead, linkDown, type LinkParameters, type LinkState } from './link-state';

type Draft = { -readonly [Key in keyof LinkState]: LinkState[Key] };

/** Octets of a frame around its I field: addresses without digipeaters, control, PID, FCS and two flags. */
const FRAME_OCTETS = 20;
const MIN_T1_MS = 1000;
const MAX_T1_MS = 30_000;
const MOST_BACKOFF = 8;
/** With SREJ a window of more than half of the numbers could not be told from copies of the one before. */
export const KEPT_AHEAD = 3;

/** What a step does to a link: the state as it becomes, and what goes out of it. What the events mean is in step.ts. */
export class LinkWork {
  protected readonly s: Draft;
  protected readonly frames: LinkFrame[] = [];
  protected readonly timers: { timer: LinkTimer; afterMs: number | null }[] = [];
  protected readonly indications: LinkIndication[] = [];

  constructor(
    state: LinkState,
    protected readonly p: LinkParameters,
    private readonly nowMs: number,
  ) {
    this.s = { ...state };
  }

  // Acknowledging

  /** N(R) lies between the oldest unacknowledged and the next new frame (§4.2.3.5). */
  protected canAcknowledge(nr: number): boolean {
    return ahead(this.s.va, nr) <= this.s.sent.length;
  }

  protected acknowledge(nr: number): void {
    const { s } = this;
    const count = ahead(s.va, nr);
    if (count === 0) return;
    s.va = nr;
    s.moved = true;
    s.sent = s.sent.slice(count);
    s.rc = 0;
    if (s.sent.length === 0 && s.queue.length === 0) this.indications.push({ kind: 'drained' });
  }

  /** What an N(R) outside of an answer to our enquiry means for T1 and T3 ("check I frame acknowledged"). */
  protected acknowledged(nr: number): void {
    const { s } = this;
    const progress = ahead(s.va, nr) > 0;
    this.acknowledge(nr);
    if (s.mode !== 'connected') return;
    if (s.peerBusy) {
      this.startT3();
      if (s.t1 === null) this.startT1(0);
    } else if (s.sent.length === 0) {
      if (s.t1 !== null) this.stopT1(progress);
      this.startT3();
    } else if (progress) {
      this.startT1(this.airMs(s.sent));
    }
  }

  // Sending

  protected sendWaiting(): void {
    const { s } = this;
    if (s.mode !== 'connected' || s.peerBusy || s.queue.length === 0) return;
    const window = s.selective ? Math.min(KEPT_AHEAD + 1, this.p.window) : this.p.window;
    const room = window - s.sent.length;
    if (room <= 0) return;
    const fresh = s.queue.slice(0, room);
    s.queue = s.queue.slice(fresh.length);
    s.sent = [...s.sent, ...fresh];
    for (const octets of fresh) {
      this.information(s.vs, octets);
      s.vs = (s.vs + 1) & 7;
    }
    this.startT1(this.airMs(s.sent));
  }

  protected retransmit(): void {
    const { s } = this;
    s.sent.forEach((octets, i) => this.information((s.va + i) & 7, octets));
    this.startT1(this.airMs(s.sent));
  }

  protected information(ns: number, info: Uint8Array): void {
    this.frames.push({ type: 'I', command: true, pollFinal: false, ns, nr: this.s.vr, info });
    this.nothingPending();
  }

  protected enquire(): void {
    this.supervisory(this.s.ownBusy ? 'RNR' : 'RR', true, true);
    this.startT1(this.airMs(this.s.sent));
  }

  protected answer(final: boolean): void {
    this.supervisory(this.s.ownBusy ? 'RNR' : 'RR', false, final);
  }

  protected supervisory(type: 'RR' | 'RNR' | 'REJ' | 'SREJ', command: boolean, pollFinal: boolean): void {
    this.frames.push({ type, command, pollFinal, nr: this.s.vr });
    this.nothingPending();
  }

  protected unnumbered(type: 'SABM' | 'DISC' | 'DM' | 'UA', command: boolean, pollFinal: boolean): void {
    this.frames.push({ type, command, pollFinal });
  }

  /** FRMR of §4.3.3.9 with the W bit: a control field that this side does not know. */
  protected rejectFrame(frame: LinkFrame): void {
    const control = 0x6f | (frame.pollFinal ? 0x10 : 0);
    const info = Uint8Array.of(control, (this.s.vr << 5) | (this.s.vs << 1), 0x01);
    this.frames.push({ type: 'FRMR', command: false, pollFinal: frame.pollFinal, info });
  }

  private nothingPending(): void {
    this.s.acknowledgePending = false;
    if (!this.s.t2) return;
    this.s.t2 = false;
    this.timers.push({ timer: 'T2', afterMs: null });
  }

  // Coming up and going down

  protected accept(pollFinal: boolean): void {
    Object.assign(this.s, { ...linkDown(this.p), ownBusy: this.s.ownBusy });
    this.unnumbered('UA', false, pollFinal);
    this.up(true);
  }

  protected up(incoming: boolean): void {
    const { s } = this;
    this.stopT1(true);
    Object.assign(s, { mode: 'connected', vs: 0, va: 0, vr: 0, rc: 0, moved: false, kept: [] });
    this.indications.push({ kind: 'connected', incoming });
    this.startT3();
    this.sendWaiting();
  }

  /** Sends DISC and waits for the answer; the user is told now when it is a failure. */
  protected release(reason: LinkEnd): void {
    const { s } = this;
    if (reason !== 'local') this.end(reason);
    const clean = this.isClean();
    this.stopAll();
    Object.assign(s, { mode: 'awaiting release', rc: 0, told: reason !== 'local' });
    // What was not acknowledged stays, so that the end can say whether it was clean.
    if (clean) Object.assign(s, { queue: [], sent: [] });
    this.unnumbered('DISC', true, true);
    this.startT1(0);
  }

  protected down(reason: LinkEnd, clean = this.isClean()): void {
    this.stopAll();
    if (!this.s.told) this.end(reason, clean);
    Object.assign(this.s, { ...linkDown(this.p), ownBusy: this.s.ownBusy });
  }

  private end(reason: LinkEnd, clean = this.isClean()): void {
    this.indications.push({ kind: 'disconnected', reason, clean });
  }

  private isClean(): boolean {
    return this.s.sent.length === 0 && this.s.queue.length === 0;
  }

  // Timers

  /** T1 from the end of what is being sent: the modem does not say when that is, so its air time is added. */
  protected startT1(airMs: number): void {
    const { s, p } = this;
    const backoff = Math.min(2 ** s.rc, MOST_BACKOFF);
    const waitMs = Math.min(MAX_T1_MS, Math.max(MIN_T1_MS, 2 * s.srttMs)) * backoff;
    s.t1 = { startedAtMs: this.nowMs, airMs };
    this.timers.push({ timer: 'T1', afterMs: airMs * (1 + p.digipeaters) + p.overheadMs + waitMs });
    this.stopT3();
  }

  protected stopT1(measure: boolean): void {
    const { s } = this;
    if (s.t1 === null) return;
    // A time is taken only where no frame was sent twice: otherwise nobody knows which one was answered.
    if (measure && s.rc === 0) {
      const taken = this.nowMs - s.t1.startedAtMs - s.t1.airMs * (1 + this.p.digipeaters);
      s.srttMs = Math.max(0, (7 * s.srttMs + Math.max(0, taken)) / 8);
    }
    s.t1 = null;
    this.timers.push({ timer: 'T1', afterMs: null });
  }

  protected startT2(): void {
    this.s.t2 = true;
    this.timers.push({ timer: 'T2', afterMs: this.p.t2Ms });
  }

  protected startT3(): void {
    if (this.s.t1 !== null) return;
    this.s.t3 = true;
    this.timers.push({ timer: 'T3', afterMs: this.p.t3Ms });
  }

  private stopT3(): void {
    if (!this.s.t3) return;
    this.s.t3 = false;
    this.timers.push({ timer: 'T3', afterMs: null });
  }

  private stopAll(): void {
    this.stopT1(false);
    this.stopT3();
    if (!this.s.t2) return;
    this.s.t2 = false;
    this.timers.push({ timer: 'T2', afterMs: null });
  }

  private airMs(fields: readonly Uint8Array[]): number {
    let octets = 0;
    for (const field of fields) octets += field.length + FRAME_OCTETS;
    return octets * this.p.octetMs + fields.length * (this.p.overheadMs / 2);
  }
}
