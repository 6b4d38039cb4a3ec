import type { LinkFrame } from './link-frame';
import { ahead, linkDown, type LinkParameters, type LinkState } from './link-state';

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

type Draft = { -readonly [Key in keyof LinkState]: LinkState[Key] };

/** Octets of a frame around its I field: addresses without digipeaters, control, PID, FCS and two flags. */
const FRAME_OCTETS = 20;
const MIN_T1_MS = 1000;
const MAX_T1_MS = 30_000;
const MOST_BACKOFF = 8;
/** With SREJ a window of more than half of the numbers could not be told from copies of the one before. */
const KEPT_AHEAD = 3;

/**
 * One step of the data-link state machine of AX.25 v2.2, modulo 8 (appendix C4). Pure: the next state, frames to send in
 * order, timers and what the user is told. It departs from the diagrams where these would lose data without saying so:
 * a second SABM, an FRMR or an N(R) that cannot be ends the link with a reason, instead of setting it up
 * anew underneath the user; a second UA – a copy over another digipeater – is ignored; and the tries are counted until
 * the other side acknowledges something new, so that a link over which only short frames pass is given up after N2 as well.
 */
export function stepLink(state: LinkState, event: LinkEvent, parameters: LinkParameters, nowMs: number): LinkOutcome {
  return new Step(state, parameters, nowMs).run(event);
}

class Step {
  private readonly s: Draft;
  private readonly frames: LinkFrame[] = [];
  private readonly timers: { timer: LinkTimer; afterMs: number | null }[] = [];
  private readonly indications: LinkIndication[] = [];

  constructor(
    state: LinkState,
    private readonly p: LinkParameters,
    private readonly nowMs: number,
  ) {
    this.s = { ...state };
  }

  run(event: LinkEvent): LinkOutcome {
    switch (event.kind) {
      case 'connect':
        this.connect();
        break;
      case 'disconnect':
        this.disconnect();
        break;
      case 'data':
        this.enqueue(event.octets);
        break;
      case 'busy':
        this.setBusy(event.busy);
        break;
      case 'polled':
        if (this.s.mode === 'connected' || this.s.mode === 'timer recovery') this.answer(true);
        else this.unnumbered('DM', false, true);
        break;
      case 'negotiated':
        this.s.selective = event.selective;
        break;
      case 'frame':
        this.receive(event.frame);
        break;
      case 'timer':
        this.expired(event.timer);
        break;
    }
    return { state: this.s, frames: this.frames, timers: this.timers, indications: this.indications };
  }

  // What the user asks for

  private connect(): void {
    if (this.s.mode !== 'disconnected') return;
    Object.assign(this.s, { ...linkDown(this.p), queue: this.s.queue, mode: 'awaiting connection' });
    this.unnumbered('SABM', true, true);
    this.startT1(0);
  }

  private disconnect(): void {
    const { mode } = this.s;
    if (mode === 'disconnected' || mode === 'awaiting release') return;
    this.release('local');
  }

  private enqueue(octets: Uint8Array): void {
    if (octets.length === 0 || this.s.mode === 'awaiting release') return;
    const { paclen } = this.p;
    const queue = [...this.s.queue];
    let at = 0;
    const last = queue.at(-1);
    if (last && last.length < paclen) {
      at = Math.min(octets.length, paclen - last.length);
      const filled = new Uint8Array(last.length + at);
      filled.set(last);
      filled.set(octets.subarray(0, at), last.length);
      queue[queue.length - 1] = filled;
    }
    for (; at < octets.length; at += paclen) queue.push(octets.slice(at, at + paclen));
    this.s.queue = queue;
    this.sendWaiting();
  }

  private setBusy(busy: boolean): void {
    if (this.s.ownBusy === busy) return;
    this.s.ownBusy = busy;
    if (this.s.mode !== 'connected' && this.s.mode !== 'timer recovery') return;
    // The other side is told at once, and asked, so that it need not find out by its timer (§6.4.10).
    if (busy) this.supervisory('RNR', false, false);
    else this.enquire();
  }

  // Timers

  private expired(timer: LinkTimer): void {
    const { s } = this;
    if (timer === 'T1') {
      if (s.t1 === null) return;
      s.t1 = null;
      this.t1Expired();
    } else if (timer === 'T2') {
      if (!s.t2) return;
      s.t2 = false;
      if (s.acknowledgePending && (s.mode === 'connected' || s.mode === 'timer recovery')) this.answer(false);
    } else {
      if (!s.t3) return;
      s.t3 = false;
      if (s.mode !== 'connected') return;
      s.mode = 'timer recovery';
      s.rc = 1;
      this.enquire();
    }
  }

  private t1Expired(): void {
    const { s } = this;
    switch (s.mode) {
      case 'awaiting connection':
      case 'awaiting release':
        if (s.rc + 1 >= this.p.n2) return this.down(s.mode === 'awaiting connection' ? 'no answer' : 'local');
        s.rc++;
        this.unnumbered(s.mode === 'awaiting connection' ? 'SABM' : 'DISC', true, true);
        return this.startT1(0);
      case 'connected':
      case 'timer recovery':
        if (s.rc >= this.p.n2) {
          // The other side, should it hear us after all, learns that the link is gone.
          this.unnumbered('DM', false, false);
          return this.down('no answer');
        }
        s.rc++;
        s.mode = 'timer recovery';
        return this.enquire();
    }
  }

  // Frames

  private receive(frame: LinkFrame): void {
    switch (this.s.mode) {
      case 'disconnected':
        return this.receiveDisconnected(frame);
      case 'awaiting connection':
        return this.receiveAwaitingConnection(frame);
      case 'awaiting release':
        return this.receiveAwaitingRelease(frame);
      case 'connected':
      case 'timer recovery':
        return this.receiveConnected(frame);
    }
  }

  private receiveDisconnected(frame: LinkFrame): void {
    if (frame.type === 'SABM' && frame.command) return this.accept(frame.pollFinal);
    if (!frame.command) return;
    if (frame.type === 'SABME') this.rejectFrame(frame);
    else this.unnumbered('DM', false, frame.pollFinal);
  }

  private receiveAwaitingConnection(frame: LinkFrame): void {
    switch (frame.type) {
      case 'SABM':
        return this.unnumbered('UA', false, frame.pollFinal);
      case 'DISC':
        return this.unnumbered('DM', false, frame.pollFinal);
      case 'UA':
        if (!frame.pollFinal) return;
        return this.up(false);
      case 'DM':
        if (!frame.pollFinal) return;
        return this.down('refused');
      case 'FRMR':
        return this.down('protocol');
    }
  }

  private receiveAwaitingRelease(frame: LinkFrame): void {
    switch (frame.type) {
      case 'SABM':
        return this.unnumbered('DM', false, frame.pollFinal);
      case 'DISC':
        return this.unnumbered('UA', false, frame.pollFinal);
      case 'UA':
      case 'DM':
        if (frame.pollFinal) this.down('local');
        return;
      default:
        if (frame.command && frame.pollFinal) this.unnumbered('DM', false, true);
    }
  }

  private receiveConnected(frame: LinkFrame): void {
    const { s } = this;
    switch (frame.type) {
      case 'SABM':
        if (!s.moved) {
          // The other side has not shown yet that it is up: it did not hear our UA, nor what we sent behind it.
          this.unnumbered('UA', false, frame.pollFinal);
          if (s.sent.length > 0) this.retransmit();
          return;
        }
        // Whoever holds the port decides about the new connection: this one is over.
        return this.down('reset');
      case 'SABME':
        return this.rejectFrame(frame);
      case 'DISC':
        this.unnumbered('UA', false, frame.pollFinal);
        return this.down('peer');
      case 'DM':
        return this.down('peer', false);
      case 'FRMR':
        return this.release('protocol');
      case 'UA':
        return;
      case 'RR':
      case 'RNR':
      case 'REJ':
      case 'SREJ':
        return this.receiveSupervisory(frame);
      case 'I':
        return this.receiveInformation(frame);
    }
  }

  private receiveSupervisory(frame: LinkFrame & { type: 'RR' | 'RNR' | 'REJ' | 'SREJ' }): void {
    const { s } = this;
    if (!this.canAcknowledge(frame.nr)) return this.release('protocol');
    s.peerBusy = frame.type === 'RNR';
    const final = !frame.command && frame.pollFinal;
    if (frame.command && frame.pollFinal) this.answer(true);
    if (s.mode === 'timer recovery' && final) {
      this.stopT1(true);
      this.acknowledge(frame.nr);
      s.mode = 'connected';
      if (s.peerBusy) {
        // It is there and says so: being busy is no failure.
        s.rc = 0;
        this.startT1(0);
      } else if (s.sent.length === 0) {
        s.rc = 0;
        this.startT3();
      } else {
        this.retransmit();
      }
      return this.sendWaiting();
    }
    if (frame.type === 'REJ') {
      this.acknowledge(frame.nr);
      if (s.mode === 'connected') {
        this.stopT1(false);
        this.startT3();
      }
      if (s.sent.length > 0) this.retransmit();
    } else if (frame.type === 'SREJ') {
      const lost = s.sent[ahead(s.va, frame.nr)];
      if (lost) this.information(frame.nr, lost);
    } else {
      this.acknowledged(frame.nr);
    }
    this.sendWaiting();
  }

  private receiveInformation(frame: LinkFrame & { type: 'I' }): void {
    const { s } = this;
    // An I frame is a command; one that says otherwise is discarded (error S of the diagrams).
    if (!frame.command) return;
    if (!this.canAcknowledge(frame.nr)) return this.release('protocol');
    this.acknowledged(frame.nr);
    if (s.ownBusy) {
      if (frame.pollFinal) this.answer(true);
    } else if (frame.ns === s.vr) {
      s.rejecting = false;
      s.moved = true;
      this.take(frame.info);
      for (let next = this.keptNext(); next !== undefined; next = this.keptNext()) this.take(next.info);
      if (s.kept.length > 0) {
        s.rejecting = true;
        this.supervisory('SREJ', false, frame.pollFinal);
      } else if (frame.pollFinal) this.answer(true);
      else if (!s.acknowledgePending) {
        s.acknowledgePending = true;
        this.startT2();
      }
    } else {
      const gap = ahead(s.vr, frame.ns);
      if (s.selective && gap <= KEPT_AHEAD && !s.kept.some(({ ns }) => ns === frame.ns))
        s.kept = [...s.kept, { ns: frame.ns, info: frame.info }];
      if (s.rejecting) {
        if (frame.pollFinal) this.answer(true);
      } else {
        s.rejecting = true;
        this.supervisory(s.selective && s.kept.length > 0 ? 'SREJ' : 'REJ', false, frame.pollFinal);
      }
    }
    this.sendWaiting();
  }

  private take(info: Uint8Array): void {
    this.s.vr = (this.s.vr + 1) & 7;
    this.indications.push({ kind: 'data', octets: info });
  }

  /** What was kept and is next in order now; it is kept no longer. */
  private keptNext(): { readonly ns: number; readonly info: Uint8Array } | undefined {
    const { s } = this;
    const found = s.kept.find(({ ns }) => ns === s.vr);
    if (found) s.kept = s.kept.filter((one) => one !== found);
    return found;
  }

  // Acknowledging

  /** N(R) lies between the oldest unacknowledged and the next new frame (§4.2.3.5). */
  private canAcknowledge(nr: number): boolean {
    return ahead(this.s.va, nr) <= this.s.sent.length;
  }

  private acknowledge(nr: number): void {
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
  private acknowledged(nr: number): void {
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

  private sendWaiting(): void {
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

  private retransmit(): void {
    const { s } = this;
    s.sent.forEach((octets, i) => this.information((s.va + i) & 7, octets));
    this.startT1(this.airMs(s.sent));
  }

  private information(ns: number, info: Uint8Array): void {
    this.frames.push({ type: 'I', command: true, pollFinal: false, ns, nr: this.s.vr, info });
    this.nothingPending();
  }

  private enquire(): void {
    this.supervisory(this.s.ownBusy ? 'RNR' : 'RR', true, true);
    this.startT1(this.airMs(this.s.sent));
  }

  private answer(final: boolean): void {
    this.supervisory(this.s.ownBusy ? 'RNR' : 'RR', false, final);
  }

  private supervisory(type: 'RR' | 'RNR' | 'REJ' | 'SREJ', command: boolean, pollFinal: boolean): void {
    this.frames.push({ type, command, pollFinal, nr: this.s.vr });
    this.nothingPending();
  }

  private unnumbered(type: 'SABM' | 'DISC' | 'DM' | 'UA', command: boolean, pollFinal: boolean): void {
    this.frames.push({ type, command, pollFinal });
  }

  /** FRMR of §4.3.3.9 with the W bit: a control field that this side does not know. */
  private rejectFrame(frame: LinkFrame): void {
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

  private accept(pollFinal: boolean): void {
    Object.assign(this.s, { ...linkDown(this.p), ownBusy: this.s.ownBusy });
    this.unnumbered('UA', false, pollFinal);
    this.up(true);
  }

  private up(incoming: boolean): void {
    const { s } = this;
    this.stopT1(true);
    Object.assign(s, { mode: 'connected', vs: 0, va: 0, vr: 0, rc: 0, moved: false, kept: [] });
    this.indications.push({ kind: 'connected', incoming });
    this.startT3();
    this.sendWaiting();
  }

  /** Sends DISC and waits for the answer; the user is told now when it is a failure. */
  private release(reason: LinkEnd): void {
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

  private down(reason: LinkEnd, clean = this.isClean()): void {
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
  private startT1(airMs: number): void {
    const { s, p } = this;
    const backoff = Math.min(2 ** s.rc, MOST_BACKOFF);
    const waitMs = Math.min(MAX_T1_MS, Math.max(MIN_T1_MS, 2 * s.srttMs)) * backoff;
    s.t1 = { startedAtMs: this.nowMs, airMs };
    this.timers.push({ timer: 'T1', afterMs: airMs * (1 + p.digipeaters) + p.overheadMs + waitMs });
    this.stopT3();
  }

  private stopT1(measure: boolean): void {
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

  private startT2(): void {
    this.s.t2 = true;
    this.timers.push({ timer: 'T2', afterMs: this.p.t2Ms });
  }

  private startT3(): void {
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
