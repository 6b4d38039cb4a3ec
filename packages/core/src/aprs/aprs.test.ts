import fc from 'fast-check';
import { octetsOfLatin1, octetsOfText, textOfOctets } from '../octets';
import { decodeInformation } from './information';
import {
  checkAddressee,
  checkMessageText,
  decodeMessage,
  encodeAnswer,
  encodeBulletin,
  encodeMessage,
  messageNumber,
} from './message';
import { formatMonitorLine, parseMonitorLine } from './monitor';
import { explainPath, explainRoad, packetRoadInWords, pathInWords, remainingHops } from './path';
import { innermostPacket, wrappedProperly } from './third-party';
import { decodePosition } from './position/decode';
import { encodeCompressedPosition, encodeUncompressedPosition } from './position/encode';
import { COPY_WINDOW_MS, createCopyWindow, packetIdentity } from './copies';
import type { Packet } from './packet';
import { symbolMeaning } from './symbol';

const decode = (text: string) => {
  const result = decodeInformation(octetsOfLatin1(text), 'APRS');
  if (!result.ok) throw new Error(`${result.error.at}: ${result.error.reason}`);
  return result.value;
};
const line = (text: string): Packet => {
  const result = parseMonitorLine(octetsOfText(text), { escapes: true });
  if (!result.ok) throw new Error(result.error.reason);
  return result.value;
};

describe('messages (Protocol Reference 1.0.1, ch. 14)', () => {
  it('reads a numbered message, its acknowledgement and its rejection', () => {
    expect(decode(':QT4LB-8  :Fuel low{003')).toMatchObject({
      kind: 'message',
      addressee: 'QT4LB-8',
      text: 'Fuel low',
      number: '003',
      replyAck: null,
    });
    expect(decode(':QT2AR-7  :ack003')).toMatchObject({ kind: 'ack', number: '003', addressee: 'QT2AR-7' });
    expect(decode(':QT2AR-7  :rej003')).toMatchObject({ kind: 'rej', number: '003' });
  });

  it('keeps a text that only looks numbered or answered', () => {
    expect(decode(':QT4LB-8  :set {a, b}')).toMatchObject({ text: 'set {a, b}', number: null });
    expect(decode(':QT4LB-8  :acknowledge please')).toMatchObject({ kind: 'message' });
    expect(decode(':QT4LB-8  :Fuel{toolong')).toMatchObject({ number: null, text: 'Fuel{toolong' });
  });

  // 1.1 addendum, reply-acks; quoted from memory.
  it('reads and writes reply-acks', () => {
    expect(decode(':QT4LB-8  :yes{MM}AA')).toMatchObject({ number: 'MM', replyAck: 'AA', numberField: 'MM}AA' });
    expect(decode(':QT4LB-8  :yes{MM}')).toMatchObject({ number: 'MM', replyAck: '' });
    expect(decode(':QT2AR-7  :ackMM}AA')).toMatchObject({ kind: 'ack', number: 'MM', replyAck: 'AA' });
    const out = encodeMessage({ addressee: 'QT4LB-8', text: 'yes', number: 'MM', replyAck: 'AA' });
    expect(out.ok && textOfOctets(out.value)).toBe(':QT4LB-8  :yes{MM}AA');
    expect(encodeMessage({ addressee: 'QT4LB-8', text: 'yes', number: '123', replyAck: 'A' }).ok).toBe(false);
  });

  it('reads and writes bulletins, announcements and group bulletins', () => {
    expect(decode(':BLN3     :Snow')).toMatchObject({ kind: 'bulletin', id: '3', announcement: false, group: null });
    expect(decode(':BLNQ     :Hill')).toMatchObject({ kind: 'bulletin', id: 'Q', announcement: true });
    expect(decode(':BLN4WX   :Gale')).toMatchObject({ kind: 'bulletin', id: '4', group: 'WX' });
    const out = encodeBulletin('4', 'WX', 'Gale');
    expect(out.ok && textOfOctets(out.value)).toBe(':BLN4WX   :Gale');
    expect(encodeBulletin('44', null, 'x').ok).toBe(false);
  });

  it('pads the addressee to nine and refuses what does not fit', () => {
    const out = encodeMessage({ addressee: 'qt1nc', text: 'Hello', number: null });
    expect(out.ok && textOfOctets(out.value)).toBe(':QT1NC    :Hello');
    expect(checkAddressee('TOOLONGCALL').ok).toBe(false);
    expect(checkAddressee('A:B').ok).toBe(false);
    expect(checkAddressee(' ').ok).toBe(false);
    for (const bad of ['', ' ', 'a|b', 'a~b', 'a{b', 'two\nlines', 'N'.repeat(68), 'é'.repeat(34)])
      expect(checkMessageText(bad).ok).toBe(false);
    expect(checkMessageText('N'.repeat(67)).ok).toBe(true);
  });

  it('brings every sendable message back', () => {
    const text = fc.stringMatching(/^[ -z]{1,67}$/).filter((t) => checkMessageText(t).ok);
    fc.assert(
      fc.property(text, fc.option(fc.stringMatching(/^[A-Za-z0-9]{1,5}$/)), (body, number) => {
        const out = encodeMessage({ addressee: 'QT1NC', text: body, number });
        if (!out.ok) throw new Error(out.error.reason);
        const back = decodeMessage(out.value);
        const looksLikeAnswer = number === null && /^(ack|rej)[A-Za-z0-9]{1,5}\s*$/.test(body);
        if (!looksLikeAnswer) expect(back).toMatchObject({ ok: true, value: { text: body, number } });
      }),
    );
  });

  it('echoes the whole number field in an answer', () => {
    const out = encodeAnswer('ack', 'QT4LB-8', 'MM}AA');
    expect(out.ok && textOfOctets(out.value)).toBe(':QT4LB-8  :ackMM}AA');
    expect(encodeAnswer('rej', 'QT4LB-8', '{').ok).toBe(false);
  });

  it('numbers go round after 1296', () => {
    expect([0, 35, 36, 1295, 1296].map(messageNumber)).toEqual(['00', '0Z', '10', 'ZZ', '00']);
  });
});

describe('positions', () => {
  // Ch. 9, worked example, from memory; by hand: 5L!! = ((20·91 + 43)·91 + 0)·91 + 0 = 15427503 = 380926·(90 − 49.5).
  it('reads the compressed example of the Reference', () => {
    const position = decode('=/5L!!<*e7>7P[');
    expect(position).toMatchObject({ kind: 'position', compressed: true, courseDeg: 88, messaging: true });
    if (position.kind !== 'position') return;
    expect(position.latitude).toBeCloseTo(90 - ((20 * 91 + 43) * 91 * 91) / 380926, 9);
    expect(position.latitude).toBeCloseTo(49.5, 4);
    expect(position.longitude).toBeCloseTo(-72.75, 4);
    expect(position.speedKnots).toBeCloseTo(36.2, 1);
  });

  // Ch. 9: from memory of the Reference.
  it('reads compressed range and altitude', () => {
    expect(decode('=/5L!!<*e7>{?!')).toMatchObject({ rangeMi: expect.closeTo(20.13, 2) });
    expect(decode('=/5L!!<*e7OS]S')).toMatchObject({ altitudeFt: expect.closeTo(10004.5, 1) });
    expect(decode('=/5L!!<*e7> sT')).toMatchObject({ courseDeg: null, rangeMi: null, altitudeFt: null });
  });

  // Ch. 8 forms, from memory.
  it('reads the uncompressed forms with and without time, motion and altitude', () => {
    expect(decode('!4903.50N/07201.75W-Test /A=001234')).toMatchObject({
      latitude: expect.closeTo(49.058333, 5),
      longitude: expect.closeTo(-72.029167, 5),
      altitudeFt: 1234,
      comment: 'Test',
      messaging: false,
    });
    expect(decode('@092345z4903.50N/07201.75W>088/036')).toMatchObject({
      time: { zone: 'UTC', day: 9, hour: 23, minute: 45 },
      courseDeg: 88,
      speedKnots: 36,
      messaging: true,
    });
    expect(decode('/092345/4903.50N/07201.75W>RNG0050')).toMatchObject({ rangeMi: 50 });
  });

  it('reads each degree of ambiguity as the middle of what remains', () => {
    const minutes = ['03.50', '03.5 ', '03.  ', '0 .  ', '  .  '];
    const middles = [3.5, 3.55, 3.5, 5, 30];
    minutes.forEach((text, blanks) => {
      expect(decode(`!49${text}N/072${text.replace('03', '01')}W-`)).toMatchObject({
        ambiguity: blanks,
        latitude: expect.closeTo(49 + middles[blanks]! / 60, 6),
      });
    });
  });

  it.each([
    ['!4903.50X/07201.75W-', 'neither N nor S'],
    ['!9103.50N/07201.75W-', 'off the globe'],
    ['!4963.50N/07201.75W-', 'minutes'],
    ['!4903.50N/07201.75', 'cut off'],
    ['!49 3.50N/07201.75W-', 'digit after a blank'],
    ['=/5L!', 'cut off'],
    ['=/5L! <*e7>7P[', 'base 91'],
    ['', 'empty'],
    ['\x01', 'no packet type'],
  ])('explains %p', (text, reason) => {
    const result = decodeInformation(octetsOfLatin1(text), 'APRS');
    expect(result.ok ? '' : result.error.reason).toContain(reason);
  });

  it('brings positions back within the resolution of their form', () => {
    const degrees = fc.record({
      latitude: fc.double({ min: -89.99, max: 89.99, noNaN: true }),
      longitude: fc.double({ min: -179.99, max: 179.99, noNaN: true }),
    });
    fc.assert(
      fc.property(degrees, ({ latitude, longitude }) => {
        const report = { latitude, longitude, symbol: { table: '/', code: '>' }, courseDeg: 88, speedKnots: 36 };
        const plain = decodePosition(encodeUncompressedPosition(report), 0);
        const packed = decodePosition(encodeCompressedPosition(report), 0);
        if (!plain.ok || !packed.ok) throw new Error('not read back');
        expect(Math.abs(plain.value.latitude - latitude)).toBeLessThan(0.5 / 6000 + 1e-9);
        expect(Math.abs(plain.value.longitude - longitude)).toBeLessThan(0.5 / 6000 + 1e-9);
        expect(Math.abs(packed.value.latitude - latitude)).toBeLessThan(0.51 / 380926);
        expect(Math.abs(packed.value.longitude - longitude)).toBeLessThan(0.51 / 190463);
        expect(plain.value).toMatchObject({ courseDeg: 88, speedKnots: 36 });
        expect(packed.value.courseDeg).toBe(88);
      }),
    );
  });

  it('names symbols by meaning', () => {
    expect(symbolMeaning({ table: '/', code: '>' })).toBe('car');
    expect(symbolMeaning({ table: '\\', code: '!' })).toBe('emergency');
    expect(symbolMeaning({ table: 'W', code: '#' })).toBe('digipeater');
    expect(symbolMeaning({ table: '\\', code: '~' })).toBe('other');
  });
});

describe('information fields', () => {
  it('opens third-party packets, even nested, and gives up on deep ones', () => {
    const inner = 'QT2AR-7>APRS,TCPIP,QT1GW-10*::QT4LB-8  :Hi{1';
    expect(decode(`}${inner}`)).toMatchObject({ kind: 'third party', inner: { source: 'QT2AR-7' } });
    expect(innermostPacket(line(`QT1GW-10>APRS:}${inner}`))).toMatchObject({
      wrapped: 1,
      packet: { source: 'QT2AR-7' },
    });
    expect(innermostPacket(line(`A>B:${'}A>B:'.repeat(9)}>x`)).wrapped).toBe(3);
    expect(innermostPacket(line('A>B:}garbage')).wrapped).toBe(0);
  });

  it('never throws on any octets', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 90 }), fc.constantFrom(...":!=/@}>`'T;)_?<$[{,#"), (octets, type) => {
        const info = Uint8Array.from([type.charCodeAt(0), ...octets]);
        const result = decodeInformation(info, 'S32UVT');
        if (!result.ok) expect(result.error.reason).not.toBe('');
      }),
      { numRuns: 3000 },
    );
  });
});

describe('monitor text', () => {
  it('puts the star behind the last used element', () => {
    const packet = line('QT2AR-7>APZTOM,QT0BR-1,WIDE2-1*,QT0TH-3:>x');
    expect(packet.path).toEqual([
      { call: 'QT0BR-1', used: true, implied: true },
      { call: 'WIDE2-1', used: true },
      { call: 'QT0TH-3', used: false },
    ]);
    expect(textOfOctets(formatMonitorLine(packet, { escapes: true }))).toBe(
      'QT2AR-7>APZTOM,QT0BR-1,WIDE2-1*,QT0TH-3:>x',
    );
  });

  it('brings any information field back on one line', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 120 }), (info) => {
        const text = formatMonitorLine({ source: 'A', destination: 'B', path: [], info }, { escapes: true });
        expect(text.includes(0x0a)).toBe(false);
        const back = parseMonitorLine(text, { escapes: true });
        expect(back.ok && [...back.value.info]).toEqual([...info]);
      }),
      { numRuns: 500 },
    );
    const escapeLike = octetsOfText('a\\x41b');
    const text = formatMonitorLine({ source: 'A', destination: 'B', path: [], info: escapeLike }, { escapes: true });
    expect(parseMonitorLine(text, { escapes: true })).toMatchObject({ ok: true, value: { info: escapeLike } });
  });

  it.each(['', 'no arrow:x', 'A>B', '>B:x', 'A>:x', 'A>B,:x', 'A>B,<b>:x', 'A'.repeat(5000)])('explains %p', (text) => {
    expect(parseMonitorLine(octetsOfText(text), { escapes: true }).ok).toBe(false);
  });
});

describe('paths explained', () => {
  it.each([
    ['A1A>B,WIDE1-1,WIDE2-1:x', 'direct', [], 'A1A', 'heard direct'],
    ['A1A>B,D1D*,WIDE2-1:x', 'relayed', ['D1D'], 'D1D', 'heard via D1D'],
    ['A1A>B,WIDE2-1:x', 'direct', [], 'A1A', 'heard direct, unless a digipeater left no mark'],
    ['A1A>B,D1D,D2D*:x', 'relayed', ['D2D'], 'D2D', 'heard via D2D (probably D1D as well)'],
    ['A1A>B,D1D*,D2D*:x', 'relayed', ['D1D', 'D2D'], 'D2D', 'heard via D1D, then D2D'],
    ['A1A>B,D1D*,WIDE1*,WIDE2-1:x', 'relayed', ['D1D'], 'D1D', 'heard via D1D'],
    ['A1A>B,D1D,WIDE1*:x', 'relayed', [], 'D1D', 'heard probably via D1D'],
    ['A1A>B,WIDE1-1,D2D*:x', 'relayed', ['D2D'], 'D2D', 'heard via D2D'],
    ['A1A>B,WIDE1*,D2D*:x', 'relayed', ['D2D'], 'D2D', 'heard via a digipeater that did not sign, then D2D'],
    ['A1A>B,MD2*:x', 'relayed', [], null, 'heard via a digipeater that did not sign'],
    ['A1A>B,TEMP1*:x', 'relayed', [], null, 'heard via a digipeater that did not sign'],
    ['A1A>B,LOCAL*:x', 'relayed', [], null, 'heard via a digipeater that did not sign'],
    ['A1A>B,RELAY*:x', 'relayed', [], null, 'heard via a digipeater that did not sign'],
    ['A1A>B,VEILRG*:x', 'relayed', [], 'VEILRG', 'heard probably via VEILRG'],
    ['A1A>B,WIDE1*,WIDE2-1:x', 'relayed', [], null, 'heard via a digipeater that did not sign'],
    ['A1A>B,D1D*,qAR,G1G-10:x', 'internet', [], null, 'by internet from G1G-10, which says that it had it via D1D'],
    ['A1A>B,TCPIP*,qAC,SRV:x', 'internet', [], null, 'by internet from SRV'],
  ])('%s', (text, how, via, heardFrom, words) => {
    const heard = explainPath(line(text));
    expect(heard).toMatchObject({ how, via, heardFrom });
    expect(pathInWords(heard)).toBe(words);
  });

  // Protocol Reference 1.0.1, ch. 17: the inner path is that of the other network, the gateway's call its last used element.
  it.each([
    [
      'QT1GW-10>APRS:}A1A>B,TCPIP,QT1GW-10*:x',
      'internet',
      ['QT1GW-10'],
      'by internet to QT1GW-10, which passed it on; that was heard direct',
      true,
    ],
    [
      'QT2XB>APRS,D9D*:}A1A>B,D1D,QT2XB*:x',
      'relayed',
      ['QT2XB', 'D9D'],
      'via D1D to QT2XB, which passed it on; that was heard via D9D',
      true,
    ],
    [
      'QT2XB>APRS:}A1A>B,QT2XB*:x',
      'relayed',
      ['QT2XB'],
      'direct to QT2XB, which passed it on; that was heard direct',
      true,
    ],
    [
      'QT2XB>APRS:}A1A>B,D1D*:x',
      'relayed',
      ['QT2XB'],
      'via D1D to QT2XB, which passed it on; that was heard direct',
      false,
    ],
  ])('tells the inner road, the gateway, then the outer road: %s', (text, how, via, words, properly) => {
    expect(explainRoad(line(text))).toMatchObject({ how, via, heardFrom: via.at(-1) });
    expect(packetRoadInWords(line(text))).toBe(words);
    expect(wrappedProperly(line(text))).toBe(properly);
  });

  it('counts what an element may still be repeated', () => {
    expect(['WIDE2-2', 'WIDE1-1', 'WIDE2', 'QT0BR-1', 'WIDE9-9'].map(remainingHops)).toEqual([2, 1, 0, 0, 0]);
  });
});

describe('copies', () => {
  const original = 'QT2AR-7>APZTOM,WIDE1-1,WIDE2-1::QT4LB-8  :Hi{1';
  it('knows the copies of one packet, direct, relayed, by internet and wrapped', () => {
    const identity = packetIdentity(line(original));
    for (const copy of [
      'QT2AR-7>APZTOM,QT0BR-1*,WIDE2-1::QT4LB-8  :Hi{1',
      'QT2AR-7>APZTOM-3,QT0BR-1,QT0TH-3*,qAR,QT1GW-10::QT4LB-8  :Hi{1\r',
      'QT1GW-10>APRS:}QT2AR-7>APZTOM,TCPIP,QT1GW-10*::QT4LB-8  :Hi{1',
    ])
      expect(packetIdentity(line(copy.replace('\r', '\\x0d')))).toBe(identity);
    expect(packetIdentity(line(original.replace('Hi', 'Ho')))).not.toBe(identity);
    expect(packetIdentity(line(original.replace('QT2AR-7', 'QT2AR-8')))).not.toBe(identity);
  });

  it('remembers for thirty seconds from the first copy', () => {
    const window = createCopyWindow();
    expect(window.seen('a', 0)).toBe(false);
    expect(window.seen('a', COPY_WINDOW_MS)).toBe(true);
    expect(window.seen('a', COPY_WINDOW_MS + 1)).toBe(false);
    expect(window.seen('a', COPY_WINDOW_MS + 2)).toBe(true);
  });
});
