import fc from 'fast-check';
import { hexOfOctets, joinOctets, octetsOfHex, octetsOfText } from '../octets';
import { createKissDecoder, encodeKiss, encodeKissParameter, encodeKissTiming, FEND, type KissFrame } from './kiss';

const framesOf = (stream: Uint8Array, cuts: readonly number[] = []) => {
  const decoder = createKissDecoder();
  const edges = [0, ...cuts.map((cut) => cut % (stream.length + 1)).sort((a, b) => a - b), stream.length];
  return edges.slice(1).flatMap((edge, i) => decoder.push(stream.subarray(edges[i], edge)));
};

describe('KISS framing', () => {
  // Worked examples of Chepponis & Karn 1987, "Packet framing": quoted from memory of the paper.
  it('frames the paper’s examples', () => {
    expect(hexOfOctets(encodeKiss(octetsOfText('TEST')))).toBe('c00054455354c0');
    expect(hexOfOctets(encodeKiss(octetsOfText('Hello'), 5))).toBe('c05048656c6c6fc0');
    expect(hexOfOctets(encodeKiss(Uint8Array.of(0xc0, 0xdb)))).toBe('c000dbdcdbddc0');
    expect(hexOfOctets(encodeKiss(new Uint8Array(0), 15, 15))).toBe('c0ffc0');
    expect(hexOfOctets(encodeKissParameter('txDelay', 30))).toBe('c0011ec0');
    // The defaults of the paper: 500 ms, P = 63 for p = 0.25, 100 ms.
    expect(hexOfOctets(encodeKissTiming({ txDelayMs: 500, persistencePercent: 25, slotMs: 100 }))).toBe(
      'c00132c0c0023fc0c0030ac0',
    );
    expect(hexOfOctets(encodeKissTiming({ txDelayMs: 0, persistencePercent: 100, slotMs: 0 }, 1))).toBe(
      'c01100c0c012ffc0c01300c0',
    );
  });

  it('escapes a type octet that equals FEND (port 12, command 0)', () => {
    const stream = encodeKiss(octetsOfText('x'), 12);
    expect(hexOfOctets(stream)).toBe('c0dbdc78c0');
    expect(framesOf(stream)).toMatchObject([{ port: 12, command: 0 }]);
  });

  it('brings back any frames over any ports, however the reads are cut', () => {
    const sent = fc.array(
      fc.record({ data: fc.uint8Array({ maxLength: 80 }), port: fc.integer({ min: 0, max: 15 }) }),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(sent, fc.array(fc.nat(2000), { maxLength: 12 }), (frames, cuts) => {
        const stream = joinOctets(frames.map(({ data, port }) => encodeKiss(data, port)));
        const back = framesOf(stream, cuts) as KissFrame[];
        expect(back.map(({ port, data }) => [port, hexOfOctets(data)])).toEqual(
          frames.map(({ port, data }) => [port, hexOfOctets(data)]),
        );
      }),
    );
  });

  it('reports garbage and loses no neighbour frame', () => {
    const stream = joinOctets([
      octetsOfText('OK\r\n'),
      encodeKiss(octetsOfText('one')),
      Uint8Array.of(FEND, FEND),
      encodeKiss(octetsOfText('two')),
    ]);
    expect(framesOf(stream).map((event) => event.kind)).toEqual(['garbage', 'frame', 'frame']);
  });

  it('takes no action on a wrong escape and goes on, as the paper says', () => {
    const [frame] = framesOf(octetsOfHex('c00041db42 43c0')!) as [KissFrame];
    expect(frame).toMatchObject({ badEscapes: 1 });
    expect(hexOfOctets(frame.data)).toBe('4143');
  });

  it('gives up a frame without end, keeps no more than the limit, and reads the next one', () => {
    const decoder = createKissDecoder(1000);
    const endless = new Uint8Array(1_000_000).fill(0x41);
    const first = decoder.push(joinOctets([Uint8Array.of(FEND), endless]));
    expect(first).toEqual([]);
    const [garbage, frame] = decoder.push(joinOctets([Uint8Array.of(FEND), encodeKiss(octetsOfText('next'))]));
    expect(garbage).toMatchObject({ kind: 'garbage', reason: expect.stringContaining('longer than 1000') });
    expect(garbage!.kind === 'garbage' && garbage!.octets.length).toBe(1001);
    expect(frame).toMatchObject({ kind: 'frame' });
  });

  it('says what was left at the end of the stream', () => {
    const decoder = createKissDecoder();
    decoder.push(octetsOfHex('c00041')!);
    expect(decoder.end()).toMatchObject([{ reason: 'the stream ended inside a frame' }]);
    expect(decoder.end()).toEqual([]);
  });

  it('never throws on any octets', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (octets) => {
        const decoder = createKissDecoder(64);
        const events = [...decoder.push(octets), ...decoder.end()];
        expect(events.every((event) => event.kind === 'frame' || event.reason !== '')).toBe(true);
      }),
    );
  });
});
