import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { LINKTYPE_AX25, pcapHeader, pcapRecord } from '../../formats/pcap';
import { joinOctets } from '../../octets';
import { decodeFrame, encodeFrame } from '../ax25';
import { addressLinkFrame, controlOf, linkFrameOf, type LinkFrame } from './link-frame';
import { LINK_DEFAULTS, type LinkParameters, linkDown } from './link-state';
import type { LinkEvent } from './events';
import { stepLink } from './step';
import { calm, chanceOf, linkPair, type End, type Weather } from './testing/pair';

const kinds = (end: End) => end.indications.map((indication) => indication.kind);
const types = (end: End) => end.sentFrames.map(({ type }) => type);
const octets = (length: number, from = 0) => Uint8Array.from({ length }, (_, i) => (from + i) & 0xff);
const lose = (which: (frame: LinkFrame, n: number) => boolean): Weather => {
  let n = 0;
  return (frame) => ({ lost: which(frame, n++), delayMs: 100, twice: false });
};

describe('a connection', () => {
  it('is set up, carries octets in frames of PACLEN, and is released cleanly', () => {
    const pair = linkPair(calm, { paclen: 128 });
    pair.a.give({ kind: 'connect' });
    pair.a.give({ kind: 'data', octets: octets(300) });
    pair.run(60_000);
    expect(pair.b.received).toEqual([...octets(300)]);
    expect(kinds(pair.a)).toEqual(['connected', 'drained']);
    pair.a.give({ kind: 'disconnect' });
    pair.run(120_000);
    expect(pair.a.indications.at(-1)).toEqual({ kind: 'disconnected', reason: 'local', clean: true });
    expect(pair.b.indications.at(-1)).toEqual({ kind: 'disconnected', reason: 'peer', clean: true });
    expect(pair.a.sentFrames.filter(({ type }) => type === 'I')).toHaveLength(3);
    expect([pair.a.state.mode, pair.b.state.mode]).toEqual(['disconnected', 'disconnected']);
  });

  it('joins small writes into one frame while the window is full', () => {
    const pair = linkPair(calm, { window: 1, paclen: 100 });
    pair.a.give({ kind: 'connect' });
    pair.run(1000);
    for (let i = 0; i < 21; i++) pair.a.give({ kind: 'data', octets: octets(10, i * 10) });
    pair.run(60_000);
    expect(pair.b.received).toEqual([...octets(210)]);
    expect(pair.a.sentFrames.filter(({ type }) => type === 'I')).toHaveLength(3);
  });

  it('that is refused or not answered ends with its reason, after N2 tries', () => {
    const refusing = linkPair(calm);
    refusing.a.give({ kind: 'connect' });
    refusing.a.give({ kind: 'frame', frame: { type: 'DM', command: false, pollFinal: true } });
    expect(refusing.a.indications).toEqual([{ kind: 'disconnected', reason: 'refused', clean: true }]);

    const silent = linkPair(
      lose(() => true),
      { n2: 4 },
    );
    silent.a.give({ kind: 'connect' });
    silent.run(600_000);
    expect(types(silent.a)).toEqual(['SABM', 'SABM', 'SABM', 'SABM']);
    expect(silent.a.indications).toEqual([{ kind: 'disconnected', reason: 'no answer', clean: true }]);
  });

  it('asks again for a lost frame by REJ, once', () => {
    let losing = true;
    const pair = linkPair(
      lose((frame) => frame.type === 'I' && frame.ns === 1 && losing && !(losing = false)),
      { paclen: 10 },
    );
    pair.a.give({ kind: 'connect' });
    pair.run(500);
    pair.a.give({ kind: 'data', octets: octets(40) });
    pair.run(60_000);
    expect(pair.b.received).toEqual([...octets(40)]);
    expect(types(pair.b).filter((type) => type === 'REJ')).toHaveLength(1);
    expect(pair.a.sentFrames.flatMap((frame) => (frame.type === 'I' ? [frame.ns] : []))).toEqual([0, 1, 2, 3, 1, 2, 3]);
  });

  it('finds out by poll and final that the last frame was lost', () => {
    let losing = true;
    const pair = linkPair(lose((frame) => frame.type === 'I' && losing && !(losing = false)));
    pair.a.give({ kind: 'connect' });
    pair.run(500);
    pair.a.give({ kind: 'data', octets: octets(5) });
    pair.run(100_000);
    expect(pair.b.received).toEqual([...octets(5)]);
    const enquiry = pair.a.sentFrames.find(({ type }) => type === 'RR');
    expect(enquiry).toMatchObject({ command: true, pollFinal: true });
    expect(pair.b.sentFrames.find(({ type }) => type === 'RR')).toMatchObject({ command: false, pollFinal: true });
  });

  it('is given up after N2 when only short frames pass', () => {
    const pair = linkPair(
      lose((frame) => frame.type === 'I'),
      { n2: 5 },
    );
    pair.a.give({ kind: 'connect' });
    pair.run(500);
    pair.a.give({ kind: 'data', octets: octets(5) });
    pair.run(3_600_000, () => pair.a.state.mode === 'disconnected');
    expect(pair.a.indications.at(-1)).toEqual({ kind: 'disconnected', reason: 'no answer', clean: false });
  });

  it('waits for a busy receiver without counting it as a failure, and goes on when it is ready', () => {
    const pair = linkPair(calm, { n2: 3 });
    pair.a.give({ kind: 'connect' });
    pair.run(500);
    pair.b.give({ kind: 'busy', busy: true });
    pair.run(700);
    pair.a.give({ kind: 'data', octets: octets(9) });
    pair.run(400_000);
    expect(pair.b.received).toEqual([]);
    expect(pair.a.state.mode).not.toBe('disconnected');
    pair.b.give({ kind: 'busy', busy: false });
    pair.run(500_000);
    expect(pair.b.received).toEqual([...octets(9)]);
  });

  it('asks a silent peer by T3, and ends when it is gone', () => {
    let gone = false;
    const pair = linkPair(
      lose(() => gone),
      { t3Ms: 30_000, n2: 2 },
    );
    pair.a.give({ kind: 'connect' });
    pair.run(29_000);
    expect(types(pair.a)).toEqual(['SABM']);
    pair.run(31_000);
    expect(types(pair.a)).toContain('RR');
    gone = true;
    pair.run(3_600_000, () => pair.a.state.mode === 'disconnected');
    expect(pair.a.indications.at(-1)).toEqual({ kind: 'disconnected', reason: 'no answer', clean: true });
  });

  it('tells when the other side starts anew, breaks the numbering or rejects a frame', () => {
    const down = (frame: LinkFrame) => {
      const pair = linkPair(calm);
      pair.a.give({ kind: 'connect' });
      pair.run(500);
      pair.a.give({ kind: 'data', octets: octets(3) });
      pair.run(60_000);
      pair.a.give({ kind: 'data', octets: octets(3) });
      pair.a.give({ kind: 'frame', frame });
      return pair.a.indications.find(({ kind }) => kind === 'disconnected');
    };
    expect(down({ type: 'SABM', command: true, pollFinal: true })).toMatchObject({ reason: 'reset', clean: false });
    expect(down({ type: 'RR', command: false, pollFinal: false, nr: 5 })).toMatchObject({ reason: 'protocol' });
    expect(down({ type: 'FRMR', command: false, pollFinal: false, info: octets(3) })).toMatchObject({
      reason: 'protocol',
    });
    expect(down({ type: 'DM', command: false, pollFinal: false })).toMatchObject({ reason: 'peer', clean: false });
    expect(down({ type: 'UA', command: false, pollFinal: true })).toBeUndefined();
  });

  it('answers modulo 128 with FRMR, strangers with DM, and a repeated SABM with UA again', () => {
    const answer = (frame: LinkFrame) => {
      const { frames } = stepLink(linkDown(LINK_DEFAULTS), { kind: 'frame', frame }, LINK_DEFAULTS, 0);
      return frames;
    };
    expect(answer({ type: 'SABME', command: true, pollFinal: true })).toMatchObject([
      { type: 'FRMR', info: Uint8Array.of(0x7f, 0, 1) },
    ]);
    expect(answer({ type: 'RR', command: true, pollFinal: true, nr: 0 })).toMatchObject([
      { type: 'DM', pollFinal: true },
    ]);
    expect(answer({ type: 'RR', command: false, pollFinal: true, nr: 0 })).toEqual([]);
    const pair = linkPair(calm);
    pair.a.give({ kind: 'connect' });
    pair.run(500);
    pair.b.give({ kind: 'frame', frame: { type: 'SABM', command: true, pollFinal: true } });
    expect(types(pair.b)).toEqual(['UA', 'UA']);
    expect(kinds(pair.b)).toEqual(['connected']);
  });
});

/** Weather with everything in it, drawn from a seed. */
function storm(seed: number, loss: number): Weather {
  const chance = chanceOf(seed);
  return () => ({ lost: chance() < loss, delayMs: 50 + chance() * 2000, twice: chance() < 0.1 });
}

/** Both sides send, close when all is acknowledged; gives what each end can say of it. */
function exchange(seed: number, loss: number, more: Partial<LinkParameters> = {}) {
  const chance = chanceOf(seed ^ 0x5eed);
  const pair = linkPair(storm(seed, loss), {
    paclen: 1 + Math.floor(chance() * 64),
    window: 1 + Math.floor(chance() * 7),
    n2: 10,
    t3Ms: 60_000,
    ...more,
  });
  const outward = octets(Math.floor(chance() * 600), seed);
  const homeward = octets(Math.floor(chance() * 600), seed + 7);
  pair.a.give({ kind: 'connect' });
  pair.run(200_000, () => kinds(pair.a).includes('connected') && kinds(pair.b).includes('connected'));
  for (let at = 0; at < outward.length; at += 37) pair.a.give({ kind: 'data', octets: outward.subarray(at, at + 37) });
  pair.b.give({ kind: 'data', octets: homeward });
  const over = (end: End) => end.indications.some(({ kind }) => kind === 'disconnected');
  const idle = (end: End) => end.state.sent.length === 0 && end.state.queue.length === 0;
  pair.run(7_200_000, () => over(pair.a) || over(pair.b) || (idle(pair.a) && idle(pair.b)));
  return { ...pair, outward, homeward, over, idle };
}

describe('any schedule of loss, copies and delay', () => {
  const isPrefix = (part: readonly number[], whole: Uint8Array) => part.every((octet, i) => octet === whole[i]);

  it.each([
    ['REJ', false, 3000],
    ['SREJ', true, 2000],
  ])(
    'delivers the exact octets in order, or says that it failed (with %s, seeded schedules)',
    (_, selective, schedules) => {
      const failures = new Map<number, number>();
      for (let seed = 1; seed <= schedules; seed++) {
        const loss = [0, 0.05, 0.2, 0.5][seed % 4]!;
        const run = exchange(seed, loss, { selective });
        // Never a wrong, missing or doubled octet in between.
        expect({ seed, ok: isPrefix(run.b.received, run.outward) && isPrefix(run.a.received, run.homeward) }).toEqual({
          seed,
          ok: true,
        });
        const failed = run.over(run.a) || run.over(run.b);
        if (failed) failures.set(loss, (failures.get(loss) ?? 0) + 1);
        else
          expect({
            seed,
            idle: run.idle(run.a) && run.idle(run.b),
            out: run.b.received.length,
            home: run.a.received.length,
          }).toEqual({
            seed,
            idle: true,
            out: run.outward.length,
            home: run.homeward.length,
          });
      }
      // In fair weather none fails; a fifth lost is hard on a few, half of all frames lost is too much for many.
      expect([failures.get(0), failures.get(0.05)]).toEqual([undefined, undefined]);
      expect(failures.get(0.2) ?? 0).toBeLessThan(8);
      expect(failures.get(0.5)).toBeGreaterThan(schedules / 30);
    },
    120_000,
  );

  it('ends by itself: no schedule leaves a link that waits for nothing', () => {
    fc.assert(
      fc.property(fc.integer(), fc.double({ min: 0, max: 0.9, noNaN: true }), (seed, loss) => {
        const run = exchange(seed, loss);
        for (const end of [run.a, run.b])
          if (end.state.mode !== 'disconnected') expect(end.state.t1 !== null || end.state.t3).toBe(true);
      }),
      { numRuns: 200 },
    );
  }, 60_000);

  it('is a pure step: the same state and event give the same outcome and leave the state alone', () => {
    const frame = fc.oneof(
      fc.record({
        type: fc.constant('I' as const),
        command: fc.boolean(),
        pollFinal: fc.boolean(),
        ns: fc.nat(7),
        nr: fc.nat(7),
        info: fc.uint8Array({ maxLength: 8 }),
      }),
      fc.record({
        type: fc.constantFrom('RR' as const, 'RNR' as const, 'REJ' as const, 'SREJ' as const),
        command: fc.boolean(),
        pollFinal: fc.boolean(),
        nr: fc.nat(7),
      }),
      fc.record({
        type: fc.constantFrom('SABM' as const, 'SABME' as const, 'DISC' as const, 'DM' as const, 'UA' as const),
        command: fc.boolean(),
        pollFinal: fc.boolean(),
      }),
    );
    const event: fc.Arbitrary<LinkEvent> = fc.oneof(
      frame.map((f) => ({ kind: 'frame' as const, frame: f as LinkFrame })),
      fc.constantFrom<LinkEvent>(
        { kind: 'connect' },
        { kind: 'disconnect' },
        { kind: 'busy', busy: true },
        { kind: 'busy', busy: false },
        { kind: 'timer', timer: 'T1' },
        { kind: 'timer', timer: 'T2' },
        { kind: 'timer', timer: 'T3' },
      ),
      fc.uint8Array({ minLength: 1, maxLength: 40 }).map((data) => ({ kind: 'data' as const, octets: data })),
    );
    fc.assert(
      fc.property(fc.array(event, { maxLength: 40 }), (events) => {
        let state = linkDown(LINK_DEFAULTS);
        for (const [i, e] of events.entries()) {
          const before = JSON.stringify(state);
          const once = stepLink(state, e, LINK_DEFAULTS, i * 1000);
          expect(JSON.stringify(stepLink(state, e, LINK_DEFAULTS, i * 1000))).toBe(JSON.stringify(once));
          expect(JSON.stringify(state)).toBe(before);
          expect(once.state.sent.length).toBe((once.state.vs - once.state.va + 8) & 7);
          expect(once.state.sent.length).toBeLessThanOrEqual(LINK_DEFAULTS.window);
          state = once.state;
        }
      }),
      { numRuns: 500 },
    );
  });
});

describe('frames of a connection', () => {
  const local = { call: 'QT2AR', ssid: 7 };
  const remote = { call: 'QT1BB', ssid: 4 };
  const path = [{ call: 'QT0BR', ssid: 1 }];
  const all: LinkFrame[] = [
    { type: 'SABM', command: true, pollFinal: true },
    { type: 'UA', command: false, pollFinal: true },
    { type: 'I', command: true, pollFinal: false, ns: 5, nr: 3, info: octets(12, 0x41) },
    { type: 'I', command: true, pollFinal: true, ns: 7, nr: 0, info: octets(3, 0x41) },
    { type: 'RR', command: false, pollFinal: false, nr: 6 },
    { type: 'RR', command: true, pollFinal: true, nr: 1 },
    { type: 'RNR', command: false, pollFinal: true, nr: 2 },
    { type: 'REJ', command: false, pollFinal: false, nr: 4 },
    { type: 'DISC', command: true, pollFinal: true },
    { type: 'DM', command: false, pollFinal: true },
    { type: 'FRMR', command: false, pollFinal: false, info: Uint8Array.of(0x7f, 0x00, 0x01) },
  ];
  const encoded = all.map((frame) => {
    const octetsOf = encodeFrame(addressLinkFrame(local, remote, path, frame));
    if (!octetsOf.ok) throw new Error(octetsOf.error.reason);
    return octetsOf.value;
  });

  it('come back from their octets', () => {
    for (const [i, frame] of all.entries()) {
      const decoded = decodeFrame(encoded[i]!);
      const back = decoded.ok ? linkFrameOf(decoded.value) : decoded;
      expect(back).toEqual({ ok: true, value: frame });
    }
    expect(all.map(controlOf).map((control) => control.toString(16))).toEqual(
      // v2.2 figures 4.2–4.4, worked out by hand.
      ['3f', '73', '6a', '1e', 'c1', '31', '55', '89', '53', '1f', '87'],
    );
  });

  it('are dissected by a general network analyser as they were meant', () => {
    const folder = mkdtempSync(join(tmpdir(), 'tombolo-link-'));
    try {
      const file = join(folder, 'link.pcap');
      const records = encoded.map((frame, i) => pcapRecord(frame, 1000 * i, LINKTYPE_AX25));
      writeFileSync(file, joinOctets([pcapHeader(LINKTYPE_AX25), ...records]));
      const fields = ['ax25.ctl', 'ax25.ctl.n_s', 'ax25.ctl.n_r', 'ax25.ctl.p', 'ax25.ctl.f'];
      // Source: tshark of Debian's packages. It shows P and F under two names, whichever it takes the frame for.
      const text = execFileSync('tshark', ['-r', file, '-V'], {
        encoding: 'utf8',
        stdio: ['ignore', 'pipe', 'ignore'],
      });
      const rows = execFileSync(
        'tshark',
        ['-r', file, '-T', 'fields', '-E', 'separator=;', ...fields.flatMap((field) => ['-e', field])],
        { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] },
      )
        .trim()
        .split('\n')
        .map((row) => row.split(';'));
      expect(rows).toHaveLength(all.length);
      const names = [...text.matchAll(/Control field: (.*)$|Control field, (.*)$/gm)].map(
        (match) => match[1] ?? match[2],
      );
      for (const [i, frame] of all.entries()) {
        const [control, ns, nr] = rows[i]!;
        expect(Number(control)).toBe(controlOf(frame));
        if (frame.type === 'I') expect(Number(ns)).toBe(frame.ns);
        if ('nr' in frame) expect(Number(nr)).toBe(frame.nr);
      }
      expect(names.length === 0 || names.length === all.length).toBe(true);
      for (const [type, words] of [
        ['SABM', 'SABM'],
        ['UA', 'UA'],
        ['RNR', 'RNR'],
        ['REJ', 'REJ'],
        ['DISC', 'DISC'],
        ['FRMR', 'FRMR'],
      ])
        expect({ type, found: text.includes(words!) }).toEqual({ type, found: true });
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
