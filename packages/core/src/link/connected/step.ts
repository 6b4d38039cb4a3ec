import type { LinkEvent, LinkOutcome, LinkTimer } from './events';
import type { LinkFrame } from './link-frame';
import { ahead, linkDown, type LinkParameters, type LinkState } from './link-state';
import { KEPT_AHEAD, LinkWork } from './link-work';
import { queuedBehind } from './queued-behind';

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

class Step extends LinkWork {
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
    this.s.queue = queuedBehind(this.s.queue, octets, this.p.paclen);
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
}
