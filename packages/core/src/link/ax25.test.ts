import fc from 'fast-check';
import { CRC } from 'crc-full';
import { octetsOfHex, hexOfOctets, octetsOfText, sameOctets } from '../octets';
import { parseAddress, parseStationCall, formatAddress } from './address';
import { decodeFrame, encodeFrame, frameKind, frameRole, uiFrame, MAX_REPEATERS, type Ax25Frame } from './ax25';
import { fcsOf, hasGoodFcs, withFcs } from './fcs';

export const arbitraryAddress = fc.record({
  call: fc.stringMatching(/^[A-Z0-9]{1,6}$/),
  ssid: fc.integer({ min: 0, max: 15 }),
});

export const arbitraryFrame: fc.Arbitrary<Ax25Frame> = fc.record({
  destination: arbitraryAddress,
  source: arbitraryAddress,
  commandBits: fc.record({ destination: fc.boolean(), source: fc.boolean() }),
  repeaters: fc.array(
    fc.tuple(arbitraryAddress, fc.boolean()).map(([address, repeated]) => ({ ...address, repeated })),
    { maxLength: MAX_REPEATERS },
  ),
  control: fc.constant(0x03),
  pid: fc.constant(0xf0),
  info: fc.uint8Array({ maxLength: 256 }),
});

const encoded = (frame: Ax25Frame): Uint8Array => {
  const octets = encodeFrame(frame);
  if (!octets.ok) throw new Error(octets.error.reason);
  return octets.value;
};

describe('AX.25 frames', () => {
  // AX.25 v2.2 §3.12, worked by hand from the bit layout: each character shifted left one bit, SSID octet CRRSSSSE.
  it('lays out a UI frame as the address field is drawn in the standard', () => {
    const frame = uiFrame(
      { call: 'QT2AR', ssid: 7 },
      { call: 'APRS', ssid: 0 },
      [{ call: 'WIDE1', ssid: 1 }],
      octetsOfText('>hi'),
    );
    expect(hexOfOctets(encoded(frame))).toBe(
      '82a0a4a64040e0' + 'a2a86482a4406e' + 'ae92888a624063' + '03f0' + '3e6869',
    );
  });

  it('brings every frame back as it was', () => {
    fc.assert(
      fc.property(arbitraryFrame, (frame) => {
        const back = decodeFrame(encoded(frame));
        if (!back.ok) throw new Error(back.error.reason);
        expect({ ...back.value, info: [...back.value.info] }).toEqual({ ...frame, info: [...frame.info] });
      }),
    );
  });

  it('never throws, and explains what it cannot read', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 120 }), (octets) => {
        const frame = decodeFrame(octets);
        if (!frame.ok) {
          expect(frame.error.reason).not.toBe('');
          expect(frame.error.at).toBeLessThanOrEqual(octets.length);
        }
      }),
      { numRuns: 2000 },
    );
  });

  it('explains every way of cutting a frame short', () => {
    const octets = encoded(uiFrame({ call: 'QT1NC', ssid: 0 }, { call: 'APRS', ssid: 0 }, [], new Uint8Array(0)));
    for (let length = 0; length < octets.length; length++)
      expect(decodeFrame(octets.subarray(0, length)).ok).toBe(false);
    expect(decodeFrame(octets).ok).toBe(true);
  });

  it('refuses twenty repeaters both ways', () => {
    const hops = Array.from({ length: 20 }, (_, i) => ({ call: `D${i}`, ssid: 0 }));
    const frame = uiFrame({ call: 'QT1NC', ssid: 0 }, { call: 'APRS', ssid: 0 }, hops, new Uint8Array(0));
    expect(encodeFrame(frame)).toMatchObject({ ok: false, error: { reason: expect.stringContaining('20 repeaters') } });
    const eight = encoded({ ...frame, repeaters: frame.repeaters.slice(0, 8) });
    const twenty = new Uint8Array(eight.length + 12 * 7);
    twenty.set(eight.subarray(0, 70));
    twenty[69]! &= 0xfe;
    for (let i = 0; i < 12; i++) twenty.set(eight.subarray(14, 21), 70 + 7 * i);
    twenty[70 + 12 * 7 - 1]! |= 1;
    expect(decodeFrame(twenty)).toMatchObject({
      ok: false,
      error: { at: 69, reason: expect.stringContaining('past 8 repeaters') },
    });
  });

  it.each([
    ['60', 'lower case', 0x61 << 1],
    ['space inside', 'goes on after a space', 0x20 << 1],
  ])('refuses a call sign with %s', (_, __, octet) => {
    const octets = encoded(uiFrame({ call: 'QT1NC', ssid: 0 }, { call: 'APRS', ssid: 0 }, [], new Uint8Array(0)));
    octets[8] = octet;
    expect(decodeFrame(octets).ok).toBe(false);
  });

  // Control octets of AX.25 v2.2 figures 4.1–4.4, from memory; the network analyser confirms them in the capture tests.
  it.each([
    [0x03, { type: 'UI', pollFinal: false }],
    [0x2f, { type: 'SABM', pollFinal: false }],
    [0x3f, { type: 'SABM', pollFinal: true }],
    [0x73, { type: 'UA', pollFinal: true }],
    [0x53, { type: 'DISC', pollFinal: true }],
    [0x1f, { type: 'DM', pollFinal: true }],
    [0x00, { type: 'I', ns: 0, nr: 0, pollFinal: false }],
    [0xb4, { type: 'I', ns: 2, nr: 5, pollFinal: true }],
    [0x61, { type: 'RR', nr: 3, pollFinal: false }],
    [0x65, { type: 'RNR', nr: 3, pollFinal: false }],
    [0x79, { type: 'REJ', nr: 3, pollFinal: true }],
    [0x0b, { type: 'unknown', pollFinal: false }],
  ])('names control octet %p', (control, kind) => {
    expect(frameKind(control)).toEqual(kind);
  });

  it('tells commands, responses and earlier versions by the C bits', () => {
    const frame = uiFrame({ call: 'QT1NC', ssid: 0 }, { call: 'APRS', ssid: 0 }, [], new Uint8Array(0));
    expect(frameRole(frame)).toBe('command');
    expect(frameRole({ ...frame, commandBits: { destination: false, source: true } })).toBe('response');
    expect(frameRole({ ...frame, commandBits: { destination: true, source: true } })).toBe('earlier version');
  });
});

describe('addresses', () => {
  it.each(['QT2AR-7', 'A', 'WIDE2-2', '000000-15'])('reads and writes %s', (text) => {
    const address = parseAddress(text);
    expect(address.ok && formatAddress(address.value)).toBe(text);
  });
  it.each(['', 'qt2ar', 'TOOLONG', 'QT1-16', 'QT1-', 'QT1-07', 'Q T'])('refuses %p', (text) => {
    expect(parseAddress(text).ok).toBe(false);
  });
  it.each([
    ['qt2ar-7 ', true],
    ['QTAAA', false],
    ['Q1', false],
    ['QT22', false],
    ['QT2AR-99', false],
  ])('checks the own call %p', (text, good) => {
    expect(parseStationCall(text).ok).toBe(good);
  });
});

describe('frame check sequence', () => {
  const digits = octetsOfText('123456789');
  it('has the check value 0x906E (ITU-T X.25, catalogue of CRC parameters)', () => {
    expect(fcsOf(digits)).toBe(0x906e);
    expect(hexOfOctets(withFcs(digits)).slice(-4)).toBe('6e90');
  });
  it('agrees with a general CRC library on any octets', () => {
    const reference = CRC.default('CRC16_X_25')!;
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 300 }), (octets) => {
        expect(fcsOf(octets)).toBe(reference.compute([...octets] as unknown as Buffer));
      }),
    );
  });
  it('finds every single wrong bit', () => {
    const good = withFcs(octetsOfHex('82a0a4a64040e0a2a86482a4406f03f0')!);
    expect(hasGoodFcs(good)).toBe(true);
    for (let bit = 0; bit < good.length * 8; bit++) {
      const bad = good.slice();
      bad[bit >> 3]! ^= 1 << (bit & 7);
      expect(hasGoodFcs(bad)).toBe(false);
    }
    expect(sameOctets(good.subarray(0, 1), Uint8Array.of(0x82))).toBe(true);
    expect(hasGoodFcs(new Uint8Array(1))).toBe(false);
  });
});
