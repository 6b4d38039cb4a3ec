import { connectionSeconds } from './duration';
import type { LinkFrame } from './link-frame';
import { ahead, LINK_DEFAULTS, linkDown, type LinkParameters, type LinkState } from './link-state';
import type { LinkEvent } from './events';
import { stepLink } from './step';

const parameters: LinkParameters = { ...LINK_DEFAULTS, paclen: 10, window: 3 };
const octets = (length: number) => new Uint8Array(length).fill(0x41);
const up: LinkState = { ...linkDown(parameters), mode: 'connected' };

/** Steps through events; gives the last outcome and all frames. */
function through(state: LinkState, events: LinkEvent[], more: Partial<LinkParameters> = {}) {
  const frames: LinkFrame[] = [];
  let outcome = { state, frames: [], timers: [], indications: [] } as ReturnType<typeof stepLink>;
  events.forEach((event, i) => {
    outcome = stepLink(outcome.state, event, { ...parameters, ...more }, i * 100);
    frames.push(...outcome.frames);
  });
  return { ...outcome, all: frames };
}
const frame = (of: LinkFrame): LinkEvent => ({ kind: 'frame', frame: of });
const rr = (nr: number, command = false, pollFinal = false): LinkEvent => frame({ type: 'RR', command, pollFinal, nr });
const info = (ns: number, nr = 0, pollFinal = false): LinkEvent =>
  frame({ type: 'I', command: true, pollFinal, ns, nr, info: octets(3) });

describe('the window (v2.2 §6.4.1)', () => {
  it('lets k frames out and the next ones as they are acknowledged', () => {
    const full = through(up, [{ kind: 'data', octets: octets(60) }]);
    expect(full.all.map((f) => f.type === 'I' && f.ns)).toEqual([0, 1, 2]);
    const more = through(full.state, [rr(2)]);
    expect(more.all.map((f) => f.type === 'I' && f.ns)).toEqual([3, 4]);
    expect(more.state.sent).toHaveLength(3);
  });
  it('counts round after seven', () => {
    expect([ahead(6, 1), ahead(3, 3), ahead(0, 7)]).toEqual([3, 0, 7]);
    const late: LinkState = { ...up, vs: 7, va: 7 };
    const { all, state } = through(late, [{ kind: 'data', octets: octets(30) }, rr(1)]);
    expect(all.map((f) => f.type === 'I' && f.ns)).toEqual([7, 0, 1]);
    expect([state.va, state.sent.length]).toEqual([1, 1]);
  });
});

describe('acknowledging (v2.2 §6.4.4)', () => {
  it('waits for T2, so that one answer serves several frames', () => {
    const got = through(up, [info(0), info(1), info(2)]);
    expect(got.all).toEqual([]);
    const late = through(got.state, [{ kind: 'timer', timer: 'T2' }]);
    expect(late.all).toEqual([{ type: 'RR', command: false, pollFinal: false, nr: 3 }]);
    expect(through(late.state, [{ kind: 'timer', timer: 'T2' }]).all).toEqual([]);
  });
  it('rides on our own frame when there is one', () => {
    const { all, state } = through(up, [info(0), { kind: 'data', octets: octets(4) }]);
    expect(all).toMatchObject([{ type: 'I', ns: 0, nr: 1 }]);
    expect(state.acknowledgePending).toBe(false);
  });
  it('answers a poll at once with the final bit', () => {
    expect(through(up, [info(0, 0, true)]).all).toEqual([{ type: 'RR', command: false, pollFinal: true, nr: 1 }]);
    expect(through(up, [rr(0, true, true)]).all).toEqual([{ type: 'RR', command: false, pollFinal: true, nr: 0 }]);
  });
  it('takes no I frame that claims to be a response', () => {
    const wrong = frame({ type: 'I', command: false, pollFinal: false, ns: 0, nr: 0, info: octets(2) });
    const { state, indications } = through(up, [wrong]);
    expect([state.vr, indications]).toEqual([0, []]);
  });
});

describe('recovering', () => {
  it('asks for a missing frame once, until it has come', () => {
    const { all, state } = through(up, [info(1), info(2)]);
    expect(all).toEqual([{ type: 'REJ', command: false, pollFinal: false, nr: 0 }]);
    expect(state.rejecting).toBe(true);
    expect(through(state, [info(0)]).state.rejecting).toBe(false);
  });
  it('with SREJ keeps what came ahead, asks for each missing frame alone, and gives all in order', () => {
    const out = through(up, [{ kind: 'negotiated', selective: true }, info(1), info(3)], { window: 7 });
    expect(out.all).toEqual([{ type: 'SREJ', command: false, pollFinal: false, nr: 0 }]);
    const first = through(out.state, [info(0)]);
    // Two were given at once; the next gap is asked for.
    expect(first.indications.filter(({ kind }) => kind === 'data')).toHaveLength(2);
    expect(first.all).toEqual([{ type: 'SREJ', command: false, pollFinal: false, nr: 2 }]);
    const last = through(first.state, [info(2)]);
    expect(last.indications.filter(({ kind }) => kind === 'data')).toHaveLength(2);
    expect([last.state.vr, last.state.kept, last.state.rejecting]).toEqual([4, [], false]);
  });
  it('with SREJ takes no copy of an earlier frame for one ahead, and sends no more than can be told apart', () => {
    const at5: LinkState = { ...up, vr: 5, selective: true };
    // N(S) 1 lies four behind, and four ahead.
    expect(through(at5, [info(1)]).state.kept).toEqual([]);
    const sent = through({ ...up, selective: true }, [{ kind: 'data', octets: octets(70) }], { window: 7 });
    expect(sent.state.sent).toHaveLength(4);
  });
  it('sends from the rejected frame on, and after SREJ that one alone', () => {
    const out = through(up, [{ kind: 'data', octets: octets(30) }]).state;
    const again = through(out, [frame({ type: 'REJ', command: false, pollFinal: false, nr: 1 })]);
    expect(again.all.map((f) => f.type === 'I' && f.ns)).toEqual([1, 2]);
    const one = through(out, [frame({ type: 'SREJ', command: false, pollFinal: false, nr: 1 })]);
    expect(one.all.map((f) => f.type === 'I' && f.ns)).toEqual([1]);
  });
  it('polls when T1 runs out, sends nothing new meanwhile, and goes on at the final', () => {
    const out = through(up, [{ kind: 'data', octets: octets(20) }]).state;
    const polling = through(out, [
      { kind: 'timer', timer: 'T1' },
      { kind: 'data', octets: octets(10) },
    ]);
    expect(polling.state.mode).toBe('timer recovery');
    expect(polling.all).toEqual([{ type: 'RR', command: true, pollFinal: true, nr: 0 }]);
    const back = through(polling.state, [rr(1, false, true)]);
    expect(back.state.mode).toBe('connected');
    expect(back.all.map((f) => f.type === 'I' && f.ns)).toEqual([1, 2]);
  });
  it('waits longer at each try, and gives up after N2', () => {
    let { state } = through(up, [{ kind: 'data', octets: octets(5) }], { n2: 3 });
    const waits: number[] = [];
    for (let i = 0; i < 4; i++) {
      const outcome = stepLink(state, { kind: 'timer', timer: 'T1' }, { ...parameters, n2: 3 }, 1000 * i);
      const wait = outcome.timers.findLast(({ timer }) => timer === 'T1')?.afterMs;
      if (wait) waits.push(wait);
      ({ state } = outcome);
    }
    expect(waits).toHaveLength(3);
    expect(waits[1]!).toBeGreaterThan(waits[0]!);
    expect(waits[2]!).toBeGreaterThan(waits[1]!);
    expect(state.mode).toBe('disconnected');
  });
});

describe('flow control (v2.2 §6.4.10)', () => {
  it('tells the other side at once that we are busy, keeps its frames out, and asks again when we are ready', () => {
    const busy = through(up, [{ kind: 'busy', busy: true }, info(0, 0, true)]);
    expect(busy.all.map(({ type, pollFinal }) => [type, pollFinal])).toEqual([
      ['RNR', false],
      ['RNR', true],
    ]);
    expect(busy.state.vr).toBe(0);
    expect(through(busy.state, [{ kind: 'busy', busy: false }]).all).toEqual([
      { type: 'RR', command: true, pollFinal: true, nr: 0 },
    ]);
  });
  it('sends nothing to a busy peer until it says RR', () => {
    const waiting = through(up, [
      frame({ type: 'RNR', command: false, pollFinal: false, nr: 0 }),
      { kind: 'data', octets: octets(5) },
    ]);
    expect(waiting.all).toEqual([]);
    expect(through(waiting.state, [rr(0)]).all).toMatchObject([{ type: 'I', ns: 0 }]);
  });
});

describe('releasing', () => {
  it('is clean when everything was acknowledged, and says so when not', () => {
    const ua = frame({ type: 'UA', command: false, pollFinal: true });
    const clean = through(up, [{ kind: 'disconnect' }, ua]);
    expect(clean.all).toMatchObject([{ type: 'DISC', command: true, pollFinal: true }]);
    expect(clean.indications).toEqual([{ kind: 'disconnected', reason: 'local', clean: true }]);
    const dirty = through(up, [{ kind: 'data', octets: octets(5) }, { kind: 'disconnect' }, ua]);
    expect(dirty.indications).toEqual([{ kind: 'disconnected', reason: 'local', clean: false }]);
  });
  it('answers what still comes with DM, and a DISC that crosses ours with UA', () => {
    const leaving = through(up, [{ kind: 'disconnect' }]).state;
    expect(through(leaving, [rr(0, true, true)]).all).toEqual([{ type: 'DM', command: false, pollFinal: true }]);
    expect(through(leaving, [frame({ type: 'DISC', command: true, pollFinal: true })]).all).toEqual([
      { type: 'UA', command: false, pollFinal: true },
    ]);
    expect(through(leaving, [frame({ type: 'SABM', command: true, pollFinal: true })]).all).toEqual([
      { type: 'DM', command: false, pollFinal: true },
    ]);
  });
  it('by the other side discards what waits and tells that it was lost', () => {
    const { indications, all } = through({ ...up, peerBusy: true }, [
      { kind: 'data', octets: octets(5) },
      frame({ type: 'DISC', command: true, pollFinal: true }),
    ]);
    expect(all).toEqual([{ type: 'UA', command: false, pollFinal: true }]);
    expect(indications).toEqual([{ kind: 'disconnected', reason: 'peer', clean: false }]);
  });
});

it('the time that octets take grows with them and with every digipeater', () => {
  expect(connectionSeconds(0, 0)).toBe(12);
  expect(connectionSeconds(560, 0)).toBe(22);
  expect(connectionSeconds(560, 1)).toBe(32);
});
