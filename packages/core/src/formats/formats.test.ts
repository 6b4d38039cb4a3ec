import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { arbitraryFrame } from '../link/ax25.test';
import { decodeFrame, encodeFrame, frameKind, type Ax25Frame } from '../link/ax25';
import { hexOfOctets, joinOctets, octetsOfHex, octetsOfText, textOfOctets } from '../octets';
import { formatCsv } from './csv';
import { createLineSplitter } from './lines';
import { createCaptureReader } from './capture-reader';
import { OctetQueue } from './octet-queue';
import { LINKTYPE_AX25, LINKTYPE_AX25_KISS, pcapHeader, pcapRecord } from './pcap';

const octetsOf = (frame: Ax25Frame) => {
  const encoded = encodeFrame(frame);
  if (!encoded.ok) throw new Error(encoded.error.reason);
  return encoded.value;
};

describe('capture files', () => {
  let folder: string;
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'capture-'))));
  afterAll(() => rmSync(folder, { recursive: true }));

  const dissect = (file: string, ...fields: string[]) =>
    execFileSync('tshark', ['-r', file, '-T', 'fields', '-E', 'separator=;', ...fields.flatMap((f) => ['-e', f])], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    })
      .trimEnd()
      .split('\n')
      .map((row) => row.split(';'));

  // The outside check: a general network analyser must read in our capture what we meant.
  it.each([LINKTYPE_AX25, LINKTYPE_AX25_KISS])(
    'are dissected by a network analyser as we meant (link type %i)',
    (linkType) => {
      const ui = fc.sample(arbitraryFrame, { numRuns: 40, seed: 7 });
      const controls = [0x00, 0xb4, 0x61, 0x65, 0x79, 0x3f, 0x73, 0x53, 0x1f, 0x03];
      const others = fc.sample(arbitraryFrame, { numRuns: controls.length, seed: 8 }).map((frame, i): Ax25Frame => {
        const control = controls[i]!;
        const hasInfo = (control & 1) === 0 || control === 3;
        return { ...frame, control, pid: hasInfo ? 0xf0 : null, info: hasInfo ? frame.info : new Uint8Array(0) };
      });
      const frames = [...ui, ...others];
      const file = join(folder, `${linkType}.pcap`);
      const start = Date.UTC(2026, 0, 1);
      writeFileSync(
        file,
        joinOctets([
          pcapHeader(linkType),
          ...frames.map((frame, i) => pcapRecord(octetsOf(frame), start + 1234.5 * i, linkType, 3)),
        ]),
      );
      // `ax25.dst` and the like print the seven octets as they are on the air.
      const rows = dissect(
        file,
        'frame.time_epoch',
        'ax25.dst',
        'ax25.src',
        'ax25.ctl',
        'ax25.pid',
        'frame.len',
        'ax25.ctl.n_s',
        'ax25.ctl.n_r',
        'ax25.via1',
        'ax25.via8',
        'ax25.ctl.p',
        'ax25.ctl.f',
      );
      expect(rows).toHaveLength(frames.length);
      frames.forEach((frame, i) => {
        const raw = hexOfOctets(octetsOf(frame));
        const [time, destination, source, control, pid, length, ns, nr, via1, via8, poll, final] = rows[i]!;
        const plain = (field: string | undefined) => (field ?? '').replace(/:/g, '');
        expect(Number(time)).toBeCloseTo((start + 1234.5 * i) / 1000, 5);
        expect(plain(destination)).toBe(raw.slice(0, 14));
        expect(plain(source)).toBe(raw.slice(14, 28));
        expect(Number(control)).toBe(frame.control);
        if (frame.pid !== null) expect(Number(pid)).toBe(frame.pid);
        expect(Number(length)).toBe(raw.length / 2 + (linkType === LINKTYPE_AX25_KISS ? 1 : 0));
        const kind = frameKind(frame.control);
        if ('ns' in kind) expect(Number(ns)).toBe(kind.ns);
        if ('nr' in kind) expect(Number(nr)).toBe(kind.nr);
        if (poll || final) expect([poll, final].includes('1') || [poll, final].includes('True')).toBe(kind.pollFinal);
        if (frame.repeaters.length > 0) expect(plain(via1)).toBe(raw.slice(28, 42));
        if (frame.repeaters.length === 8) expect(plain(via8)).toBe(raw.slice(28 + 7 * 14, 42 + 7 * 14));
      });
      expect(ui.some((frame) => frame.repeaters.length === 8)).toBe(true);
    },
  );

  it('show addresses with SSIDs, the information field and the repeated flag to the analyser', () => {
    const frame: Ax25Frame = {
      ...fc.sample(arbitraryFrame, { numRuns: 1, seed: 1 })[0]!,
      commandBits: { destination: true, source: false },
      destination: { call: 'APZTOM', ssid: 0 },
      source: { call: 'QT2AR', ssid: 7 },
      repeaters: [
        { call: 'QT0BR', ssid: 1, repeated: true },
        { call: 'WIDE2', ssid: 1, repeated: false },
      ],
      info: octetsOfText(':QT4LB-8  :Fuel low{01'),
    };
    const file = join(folder, 'one.pcap');
    writeFileSync(file, joinOctets([pcapHeader(), pcapRecord(octetsOf(frame), 0)]));
    const text = execFileSync('tshark', ['-r', file, '-V', '-x'], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    expect(text).toMatch(/Source: QT2AR-7/);
    expect(text).toMatch(/Destination: APZTOM/);
    expect(text).toMatch(/Via 1: QT0BR-1/);
    expect(text).toMatch(/Via 2: WIDE2-1/);
    expect(text).toContain(hexOfOctets(frame.info));
    // The analyser has no field for the H bit: read it in the octet it prints.
    const vias = dissect(file, 'ax25.via1', 'ax25.via2')[0]!.map((via) => octetsOfHex(via.replace(/:/g, ''))!);
    expect(vias.map((via) => via[6]! >> 7)).toEqual([1, 0]);
  });

  it('come back from any cut of the file, with times and ports', () => {
    const frames = fc.sample(arbitraryFrame, { numRuns: 20, seed: 3 }).map(octetsOf);
    const file = joinOctets([
      pcapHeader(),
      ...frames.map((frame, i) => pcapRecord(frame, 1000 * i + 0.5, LINKTYPE_AX25_KISS, i % 16)),
    ]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200 }), (size) => {
        const reader = createCaptureReader();
        const records = [];
        for (let at = 0; at < file.length; at += size) {
          const part = reader.push(file.subarray(at, at + size));
          if (!part.ok) throw new Error(part.error.reason);
          records.push(...part.value);
        }
        expect(reader.end()).toEqual([]);
        expect(records.map((r) => r.kind === 'record' && [r.atMs, r.port, hexOfOctets(r.frame)])).toEqual(
          frames.map((frame, i) => [1000 * i + 0.5, i % 16, hexOfOctets(frame)]),
        );
      }),
      { numRuns: 30 },
    );
  });

  it('explain foreign, cut and damaged files', () => {
    const read = (octets: Uint8Array) => createCaptureReader().push(octets);
    expect(read(new Uint8Array(30))).toMatchObject({ ok: false, error: { reason: expect.stringContaining('magic') } });
    expect(read(pcapHeader(1))).toMatchObject({ ok: false, error: { reason: expect.stringContaining('link type 1') } });
    const reader = createCaptureReader();
    reader.push(joinOctets([pcapHeader(), pcapRecord(new Uint8Array(20), 0).subarray(0, 30)]));
    expect(reader.end()).toMatchObject([{ reason: 'the file ends inside a record' }]);
    const huge = pcapRecord(new Uint8Array(4), 0);
    new DataView(huge.buffer).setUint32(8, 0x7fffffff, true);
    expect(read(joinOctets([pcapHeader(), huge]))).toMatchObject({
      ok: true,
      value: [{ kind: 'fault', reason: expect.stringContaining('damaged') }],
    });
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (octets) => {
        const result = read(joinOctets([pcapHeader(), octets]));
        expect(result.ok).toBe(true);
      }),
    );
  });

  // Source: editcap of Debian's packages writes the newer format, in either resolution of time.
  it('of the newer format are read as the analyser’s own converter writes them, whatever they are cut into', () => {
    const frames = fc.sample(arbitraryFrame, { numRuns: 12, seed: 4 }).map(octetsOf);
    const start = Date.UTC(2026, 10, 26, 5);
    const old = join(folder, 'old.pcap');
    writeFileSync(
      old,
      joinOctets([
        pcapHeader(),
        ...frames.map((frame, i) => pcapRecord(frame, start + 250.25 * i, LINKTYPE_AX25_KISS, i)),
      ]),
    );
    for (const form of ['pcapng', 'nsecpcap', 'pcap']) {
      const converted = join(folder, `new.${form}`);
      execFileSync('editcap', ['-F', form, old, converted], { stdio: 'ignore' });
      const file = new Uint8Array(readFileSync(converted));
      for (const size of [file.length, 1, 7, 64]) {
        const reader = createCaptureReader();
        const records = [];
        for (let at = 0; at < file.length; at += size) {
          const part = reader.push(file.subarray(at, at + size));
          if (!part.ok) throw new Error(part.error.reason);
          records.push(...part.value);
        }
        expect(reader.end()).toEqual([]);
        expect(records.map((r) => r.kind === 'record' && [r.atMs.toFixed(2), r.port, hexOfOctets(r.frame)])).toEqual(
          frames.map((frame, i) => [(start + 250.25 * i).toFixed(2), i, hexOfOctets(frame)]),
        );
      }
      const cut = createCaptureReader();
      cut.push(file.subarray(0, file.length - 3));
      expect(cut.end()).toHaveLength(1);
      // Any damage is told, and nothing is thrown.
      fc.assert(
        fc.property(fc.nat(file.length - 1), fc.integer({ min: 1, max: 255 }), (at, flip) => {
          const damaged = file.slice();
          damaged[at]! ^= flip;
          const reader2 = createCaptureReader();
          if (reader2.push(damaged).ok) reader2.end();
        }),
        { numRuns: 200 },
      );
    }
  });

  it('that are no captures stay refused; a fraction of a second never makes a whole one', () => {
    const reader = createCaptureReader();
    expect(reader.push(pcapHeader(1)).ok).toBe(false);
    expect(reader.push(pcapHeader()).ok).toBe(false);
    expect(reader.end()).toEqual([]);
    const record = pcapRecord(new Uint8Array(20), 1999.9999);
    const view = new DataView(record.buffer);
    expect([view.getUint32(0, true), view.getUint32(4, true)]).toEqual([1, 999_999]);
    view.setUint32(4, 1_000_000, true);
    const wrong = createCaptureReader().push(joinOctets([pcapHeader(), record]));
    expect(wrong).toMatchObject({ value: [{ kind: 'fault', reason: expect.stringContaining('more than a second') }] });
  });

  it('are copied a few times in all, however small the pieces are', () => {
    const queue = new OctetQueue();
    for (let i = 0; i < 65_000; i++) queue.push(Uint8Array.of(i));
    expect(queue.moved).toBeLessThan(2 * 65_000);
    expect(queue.take(3)).toEqual(Uint8Array.of(0, 1, 2));
  });

  it('hand frames to the decoder unharmed', () => {
    const frame = fc.sample(arbitraryFrame, { numRuns: 1, seed: 5 })[0]!;
    const result = createCaptureReader().push(joinOctets([pcapHeader(), pcapRecord(octetsOf(frame), 0)]));
    const [record] = result.ok ? result.value : [];
    expect(record?.kind === 'record' && decodeFrame(record.frame).ok).toBe(true);
  });
});

describe('lines', () => {
  it('come whole from any cut, without line ends', () => {
    const text = octetsOfText('one\r\ntwo\n\nfour');
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 16 }), (size) => {
        const splitter = createLineSplitter(100);
        const lines = [];
        for (let at = 0; at < text.length; at += size) lines.push(...splitter.push(text.subarray(at, at + size)));
        lines.push(...splitter.end());
        expect(lines.map((line) => textOfOctets(line.octets))).toEqual(['one', 'two', '', 'four']);
        expect(lines.map((line) => line.at)).toEqual([0, 5, 9, 10]);
      }),
    );
  });
  it('keep only the beginning of a line of a megabyte', () => {
    const splitter = createLineSplitter(50);
    const lines = [...splitter.push(new Uint8Array(1_000_000).fill(65)), ...splitter.push(octetsOfText('\nnext\n'))];
    expect(lines).toMatchObject([{ overlong: true }, { overlong: false }]);
    expect(lines[0]!.octets).toHaveLength(50);
  });
});

describe('CSV', () => {
  it('defuses formulas and quotes as RFC 4180 says', () => {
    const csv = formatCsv(
      ['a', 'b'],
      [
        ['=1+1', 'x,"y"'],
        ['@cmd', -3],
        ['-2+3', null],
      ],
    );
    expect(csv).toBe('a,b\r\n"\'=1+1","x,""y"""\r\n"\'@cmd",-3\r\n"\'-2+3",\r\n');
  });
});
