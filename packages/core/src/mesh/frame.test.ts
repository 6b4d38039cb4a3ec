import fc from 'fast-check';
import { octetsOfHex } from '../octets';
import { decodeMeshContent, encodeMeshContent, type MeshContent } from './content';
import { explainMeshFrame, meshRoadInWords, summaryOfMesh } from './explain';
import {
  decodeMeshFrame,
  encodeMeshFrame,
  meshFrameLine,
  repeatedFrame,
  sameMeshPacket,
  type MeshFrame,
} from './frame';
import { EVERYBODY, formatNodeNumber, nodeNumberOctets, parseNodeNumber } from './number';
import { meshTextFrameOctets } from './text';

const hex = (text: string) => octetsOfHex(text)!;
const hexNumber = (digits: number) =>
  fc.uint8Array({ minLength: digits / 2, maxLength: digits / 2 }).map((octets) => Buffer.from(octets).toString('hex'));
const nodeNumber = fc.uint8Array({ minLength: 5, maxLength: 5 }).map(formatNodeNumber);

describe('the number of a node', () => {
  it('is 40 bits in Crockford’s base 32, as exact integers have it', () => {
    // Crockford's alphabet from memory; the digits by the integers of the language, which share nothing with ours.
    const alphabet = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 5, maxLength: 5 }), (octets) => {
        const digits = BigInt(`0x${Buffer.from(octets).toString('hex')}`)
          .toString(32)
          .padStart(8, '0')
          .replace(/./g, (digit) => alphabet[parseInt(digit, 32)]!);
        expect(formatNodeNumber(octets)).toBe(`${digits.slice(0, 4)}-${digits.slice(4)}`);
        expect(nodeNumberOctets(formatNodeNumber(octets))).toEqual(octets);
      }),
    );
    expect(formatNodeNumber(hex('ffffffffff'))).toBe(EVERYBODY);
  });
  it('is read as people type it: I and L for 1, O for 0, either case, hyphens or none', () => {
    for (const typed of ['01D1-0005', '01d10005', 'oLdi-ooo5', ' 01 d1 00 05 '])
      expect(parseNodeNumber(typed)).toEqual({ ok: true, value: '01D1-0005' });
    for (const wrong of ['', '01D1-000', '01D1-00055', 'U1D1-0005', '01D1/0005', '01D1-0005é'])
      expect(parseNodeNumber(wrong).ok).toBe(false);
  });
});

describe('a frame of the mesh', () => {
  const text: MeshFrame = {
    sealed: false,
    mark: '3fa2',
    sender: '01D1-0005',
    addressee: '01D1-0002',
    number: '0000002a',
    hopsLeft: 4,
    hops: 0,
    body: encodeMeshContent({ kind: 'text', n: '01', text: 'Hello' }),
  };
  it('is what docs/mesh.md says octet by octet', () => {
    const octets = hex(
      [
        '10', // version 1, no flags
        '3fa2', // channel mark
        '005a100005', // sender
        '005a100002', // addressee
        '0000002a', // packet number
        '40', // four hops left, none so far
        '01', // a text
        '3031000000', // its number, 01
        '48656c6c6f', // Hello
      ].join(''),
    );
    expect(encodeMeshFrame(text)).toEqual({ ok: true, value: octets });
    expect(octets).toHaveLength(meshTextFrameOctets('Hello', false));
    expect(decodeMeshFrame(octets)).toEqual({ ok: true, value: text });
    expect(meshFrameLine(text, octets)).toBe(
      '01D1-0005 > 01D1-0002 channel 3fa2 no 0000002a hops 0, 4 left: 103fa2005a100005005a1000020000002a4001303100000048656c6c6f',
    );
  });
  it('comes back as it was', () => {
    fc.assert(
      fc.property(
        fc.record({
          sealed: fc.boolean(),
          mark: hexNumber(4),
          sender: nodeNumber.filter((one) => one !== EVERYBODY),
          addressee: nodeNumber,
          number: hexNumber(8),
          hopsLeft: fc.nat(7),
          hops: fc.nat(8),
          body: fc.uint8Array({ maxLength: 237 }),
        }),
        (frame) => {
          const octets = encodeMeshFrame(frame);
          expect(octets.ok && decodeMeshFrame(octets.value)).toEqual({ ok: true, value: frame });
        },
      ),
    );
  });
  it('is repeated one hop on while hops are left, and stays the same packet', () => {
    const sent = encodeMeshFrame(text);
    let octets: Uint8Array | null = sent.ok ? sent.value : null;
    for (let hops = 1; hops <= 4; hops++) {
      octets = repeatedFrame(octets!);
      expect(decodeMeshFrame(octets!)).toMatchObject({ value: { hops, hopsLeft: 4 - hops, number: '0000002a' } });
      expect(sameMeshPacket(octets!, sent.ok ? sent.value : new Uint8Array())).toBe(true);
    }
    expect(repeatedFrame(octets!)).toBeNull();
    octets![20]! ^= 1;
    expect(sameMeshPacket(octets!, sent.ok ? sent.value : new Uint8Array())).toBe(false);
  });
  it('longer than a LoRa packet, of another version, or with unknown flags is refused', () => {
    expect(encodeMeshFrame({ ...text, body: new Uint8Array(238) }).ok).toBe(false);
    expect(encodeMeshFrame({ ...text, body: new Uint8Array(237) }).ok).toBe(true);
    expect(encodeMeshFrame({ ...text, hopsLeft: 15, hops: 1 }).ok).toBe(false);
    const octets = encodeMeshFrame(text);
    for (const [at, value] of [
      [0, 0x20],
      [0, 0x12],
      [17, 0xf1],
    ] as const) {
      const changed = octets.ok ? octets.value.slice() : new Uint8Array();
      changed[at] = value;
      expect(decodeMeshFrame(changed).ok).toBe(false);
    }
  });
  it('is nobody’s when it says that it is everybody’s', () => {
    const octets = encodeMeshFrame({ ...text, sender: EVERYBODY });
    expect(octets.ok && decodeMeshFrame(octets.value)).toMatchObject({ ok: false, error: { at: 3 } });
  });
  it('of any octets gives a frame or a reason, and so does its body', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (octets) => {
        const frame = decodeMeshFrame(octets);
        if (frame.ok) decodeMeshContent(frame.value.body);
        else expect(frame.error.reason).not.toBe('');
        decodeMeshContent(octets);
      }),
      { numRuns: 500 },
    );
    for (const kind of [1, 2, 3])
      fc.assert(
        fc.property(fc.uint8Array({ maxLength: 60 }), (rest) => {
          const content = decodeMeshContent(Uint8Array.of(kind, ...rest));
          if (content.ok && content.value.kind !== 'announcement')
            expect(encodeMeshContent(content.value)).toHaveLength(1 + rest.length);
        }),
      );
  });
});

describe('the body', () => {
  const text = fc.string({ unit: 'binary', minLength: 1, maxLength: 40 }).filter((one) => !/\p{Cs}/u.test(one));
  const content: fc.Arbitrary<MeshContent> = fc.oneof(
    fc.record({ kind: fc.constant('text' as const), n: fc.stringMatching(/^[A-Za-z0-9]{1,5}$/), text }),
    fc.record({ kind: fc.constant('acknowledgement' as const), of: hexNumber(8) }),
    fc.record({
      kind: fc.constant('announcement' as const),
      tag: fc.stringMatching(/^[A-Z0-9]{1,6}$/),
      name: text.filter((one) => Buffer.byteLength(one) <= 40),
      carrier: fc.boolean(),
      position: fc.option(
        fc.record({
          latitude: fc.integer({ min: -900_000_000, max: 900_000_000 }).map((n) => n / 1e7),
          longitude: fc.integer({ min: -1_800_000_000, max: 1_800_000_000 }).map((n) => n / 1e7),
        }),
      ),
      batteryPercent: fc.option(fc.nat(100)),
    }),
  );
  it('comes back as it was', () => {
    fc.assert(
      fc.property(content, (one) => {
        expect(decodeMeshContent(encodeMeshContent(one))).toEqual({ ok: true, value: one });
      }),
    );
  });
  it('of an announcement is as docs/mesh.md says', () => {
    expect(
      Buffer.from(
        encodeMeshContent({
          kind: 'announcement',
          tag: 'LSFARM',
          name: 'Farm',
          carrier: false,
          position: { latitude: 41.2851, longitude: -43.2479 },
          batteryPercent: 64,
        }),
      ).toString('hex'),
      // 41.2851° and −43.2479° in ten-millionths: 412 851 000 = 0x189b9b38, −432 479 000 = 0xe638e4e8.
    ).toBe(['03', '06', '4c534641524d', '189b9b38', 'e638e4e8', '40', '4661726d'].join(''));
  });
});

describe('a frame in words', () => {
  const frame = (content: MeshContent, more: Partial<MeshFrame> = {}): MeshFrame => ({
    sealed: false,
    mark: '3fa2',
    sender: '01D1-0005',
    addressee: EVERYBODY,
    number: '0000002a',
    hopsLeft: 3,
    hops: 1,
    body: encodeMeshContent(content),
    ...more,
  });
  const announcement: MeshContent = {
    kind: 'announcement',
    tag: 'LSFARM',
    name: 'Farm',
    carrier: false,
    position: { latitude: 41.2851, longitude: -43.2479 },
    batteryPercent: 64,
  };
  it('says what it is about, and nothing of what is sealed', () => {
    const text: MeshContent = { kind: 'text', n: '01', text: 'Hello' };
    expect(summaryOfMesh(frame(text))).toEqual({ kind: 'mesh text', summary: 'To everybody: Hello' });
    expect(summaryOfMesh(frame({ kind: 'acknowledgement', of: '0000002a' }, { addressee: '01D1-0002' }))).toEqual({
      kind: 'mesh acknowledgement',
      summary: 'Acknowledges packet 0000002a to 01D1-0002',
    });
    expect(summaryOfMesh(frame(announcement))).toEqual({
      kind: 'mesh announcement',
      summary: 'LSFARM – Farm – terminal – 41.2851, -43.2479 – battery 64 %',
    });
    expect(summaryOfMesh(frame(text, { sealed: true }))).toEqual({
      kind: 'mesh sealed',
      summary: 'To everybody: sealed, 11 octets, channel 3fa2',
    });
    expect(summaryOfMesh(frame(text, { body: Uint8Array.of(9) })).kind).toBe('not understood');
    expect(meshRoadInWords(frame(text))).toBe('over 1 hop of the mesh');
    expect(meshRoadInWords(frame(text, { hops: 0 }))).toBe('heard direct');
  });
  it('tells each octet once, whatever it carries', () => {
    fc.assert(
      fc.property(fc.boolean(), fc.uint8Array({ maxLength: 80 }), fc.boolean(), (sealed, noise, announced) => {
        const one = frame(announcement, announced ? {} : { sealed, body: noise });
        const octets = encodeMeshFrame(one);
        if (!octets.ok) return;
        let at = 0;
        for (const { from, to } of explainMeshFrame(one, octets.value)) {
          expect(from).toBe(at);
          expect(to).toBeGreaterThanOrEqual(from);
          at = to;
        }
        expect(at).toBe(octets.value.length);
      }),
    );
    const octets = encodeMeshFrame(frame(announcement));
    const fields = explainMeshFrame(frame(announcement), octets.ok ? octets.value : new Uint8Array());
    expect(fields.slice(6).map(({ name, words, from, to }) => [name, words, from, to])).toEqual([
      ['Kind', 'announcement', 18, 19],
      ['Flags', 'terminal', 19, 20],
      ['Tag', 'LSFARM', 20, 26],
      ['Position', '41.2851, -43.2479', 26, 34],
      ['Battery', '64 %', 34, 35],
      ['Name', 'Farm', 35, 39],
    ]);
  });
});
