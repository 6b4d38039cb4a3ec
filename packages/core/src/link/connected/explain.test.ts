import { octetsOfHex } from '../../octets';
import { parseAddress, type Address } from '../address';
import { decodeFrame, encodeFrame } from '../ax25';
import { explainLinkFrame, linkFrameInWords, linkFrameMark } from './explain';
import { addressLinkFrame, linkFrameOf, type LinkFrame } from './link-frame';

const address = (call: string): Address => {
  const parsed = parseAddress(call);
  if (!parsed.ok) throw new Error(parsed.error.reason);
  return parsed.value;
};
const octetsOf = (frame: LinkFrame, path: readonly string[] = []): Uint8Array => {
  const encoded = encodeFrame(addressLinkFrame(address('QT1NC-1'), address('QT1BB-4'), path.map(address), frame));
  if (!encoded.ok) throw new Error(encoded.error.reason);
  return encoded.value;
};

describe('a frame of a connection in words', () => {
  // AX.25 v2.2, §4.2.1, figures 4.1 to 4.4: control octets of modulo 8.
  it.each([
    ['3f', true, '<SABM P>', 'SABM: asks for a connection; to be answered at once'],
    ['2f', true, '<SABM>', 'SABM: asks for a connection'],
    ['6f', true, '<SABME>', 'SABME: asks for a connection with numbers modulo 128'],
    ['73', false, '<UA F>', 'UA: agrees; as was asked'],
    ['1f', false, '<DM F>', 'DM: has no connection; as was asked'],
    ['53', true, '<DISC P>', 'DISC: ends the connection; to be answered at once'],
    ['61', false, '<RR 3>', 'RR: ready; has all before no. 3'],
    ['65', false, '<RNR 3>', 'RNR: not ready; has all before no. 3'],
    ['69', false, '<REJ 3>', 'REJ: asks for all from no. 3 again'],
    ['6d', false, '<SREJ 3>', 'SREJ: asks for no. 3 again'],
    ['a4', true, '<I 2 5>', 'I: text no. 2, 5 octets; has all before no. 5'],
    ['87', false, '<FRMR>', 'FRMR: could make nothing of a frame'],
    ['af', true, '<XID>', 'XID: tells what it is capable of'],
    ['e3', true, '<TEST>', 'TEST: is a test'],
  ])('control %s, command %s, is %s', (control, command, mark, words) => {
    const frame = linkFrameOf({
      source: address('QT1NC-1'),
      destination: address('QT1BB-4'),
      commandBits: { destination: command, source: !command },
      repeaters: [],
      control: octetsOfHex(control)![0]!,
      pid: 0xf0,
      info: new TextEncoder().encode('Count'),
    });
    expect(frame.ok && linkFrameMark(frame.value)).toBe(mark);
    expect(frame.ok && linkFrameInWords(frame.value)).toBe(words);
  });

  it('has every octet in one field, in their order', () => {
    const octets = octetsOf(
      { type: 'I', command: true, pollFinal: false, ns: 2, nr: 5, info: new TextEncoder().encode('Count') },
      ['QT0TH-3'],
    );
    const fields = explainLinkFrame(octets);
    expect(fields.map(({ name, words }) => [name, words])).toEqual([
      ['To', 'QT1BB-4'],
      ['From', 'QT1NC-1'],
      ['Digipeater', 'QT0TH-3'],
      ['Control', 'I: text no. 2, 5 octets; has all before no. 5'],
      ['Protocol', '0xf0'],
      ['Content', 'Count'],
    ]);
    let at = 0;
    for (const { from, to } of fields) {
      expect(from).toBe(at);
      at = to;
    }
    expect(at).toBe(octets.length);
    expect(explainLinkFrame(octetsOf({ type: 'UA', command: false, pollFinal: true })).at(-1)).toMatchObject({
      name: 'Control',
      to: 15,
    });
  });

  it('is nothing for octets that are no such frame', () => {
    expect(explainLinkFrame(new Uint8Array(3))).toEqual([]);
    const ui = octetsOf({ type: 'UA', command: false, pollFinal: false });
    ui[14] = 0x03;
    expect(decodeFrame(ui).ok).toBe(false);
    expect(explainLinkFrame(Uint8Array.of(...ui, 0xf0))).toEqual([]);
  });
});
