import fc from 'fast-check';
import { octetsOfText } from '../octets';
import { airTimeMs, decodeHdlc, encodeHdlc, nrziDecode, nrziEncode, onAirBitCount, stuffedBitCount } from './hdlc';
import { encodeFrame, uiFrame } from './ax25';
import { encodeMessage } from '../aprs/message';

const anyFrame = fc.uint8Array({ minLength: 16, maxLength: 120 });

describe('HDLC on the channel', () => {
  it('stuffs a 0 after five 1s and only there (AX.25 v2.2 §3.6)', () => {
    expect(stuffedBitCount(Uint8Array.of(0b0001_1111))).toBe(1);
    expect(stuffedBitCount(Uint8Array.of(0b0000_1111))).toBe(0);
    expect(stuffedBitCount(Uint8Array.of(0xff, 0xff))).toBe(3);
    expect([...encodeHdlc(new Uint8Array(0)).slice(0, 8)]).toEqual([0, 1, 1, 1, 1, 1, 1, 0]);
  });

  it('brings back several frames in a row, through NRZI, and counts their bits exactly', () => {
    fc.assert(
      fc.property(fc.array(anyFrame, { minLength: 1, maxLength: 4 }), (frames) => {
        const parts = frames.map((frame) => encodeHdlc(frame));
        parts.forEach((part, i) => expect(part.length).toBe(onAirBitCount(frames[i]!)));
        const bits = Uint8Array.from(parts.flatMap((part) => [...part]));
        const events = decodeHdlc(nrziDecode(nrziEncode(bits)));
        expect(events).toEqual(frames.map((frame) => ({ kind: 'frame', frame })));
      }),
    );
  });

  it('reports a wrong FCS, a short frame and part of an octet, and reads the frame behind them', () => {
    const good = new Uint8Array(20).fill(0x41);
    const spoilt = encodeHdlc(good);
    spoilt[30]! ^= 1;
    const short = encodeHdlc(new Uint8Array(5).fill(0x41));
    const ragged = [...encodeHdlc(good)];
    ragged.splice(50, 3);
    const events = decodeHdlc(Uint8Array.from([...spoilt, ...short, ...ragged, ...encodeHdlc(good)]));
    expect(events.map((event) => (event.kind === 'bad' ? event.reason : 'frame'))).toEqual([
      expect.stringContaining('frame check sequence'),
      expect.stringContaining('too short'),
      expect.stringContaining('not whole octets'),
      'frame',
    ]);
  });

  it('drops an aborted frame and resynchronises at the next flag (§3.10)', () => {
    const good = new Uint8Array(20).fill(0x41);
    const aborted = [...encodeHdlc(good).slice(0, 60), 1, 1, 1, 1, 1, 1, 1, 1];
    expect(decodeHdlc(Uint8Array.from([...aborted, ...encodeHdlc(good)]))).toEqual([{ kind: 'frame', frame: good }]);
  });

  it('never throws on random bits', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 1 }), { maxLength: 3000 }), (bits) => {
        expect(Array.isArray(decodeHdlc(Uint8Array.from(bits)))).toBe(true);
      }),
    );
  });

  // Derivation: a run that starts afresh reaches five 1s after 2 + 4 + 8 + 16 + 32 = 62 random bits on average.
  it('stuffs one bit in 62 of random data', () => {
    let state = 1;
    const random = Uint8Array.from({ length: 200_000 }, () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return state >>> 24;
    });
    expect(stuffedBitCount(random) / (random.length * 8)).toBeCloseTo(1 / 62, 3);
  });

  // Common practice, no source: a full text over two path elements takes about a second at 1200 Bd with 300 ms TXDELAY.
  it('puts a text of 67 characters over two hops near one second', () => {
    const info = encodeMessage({ addressee: 'QT4LB-8', text: 'N'.repeat(67), number: '01' });
    if (!info.ok) throw new Error(info.error.reason);
    const frame = encodeFrame(
      uiFrame(
        { call: 'QT2AR', ssid: 7 },
        { call: 'APRS', ssid: 0 },
        [
          { call: 'WIDE1', ssid: 1 },
          { call: 'WIDE2', ssid: 1 },
        ],
        info.value,
      ),
    );
    if (!frame.ok) throw new Error(frame.error.reason);
    // 7·4 address octets, control, PID; `:` + 9 + `:` + 67 + `{01`; 2 FCS and 2 flags: 115 octets before stuffing.
    expect(frame.value.length + 4).toBe(28 + 2 + 81 + 4);
    const ms = airTimeMs(frame.value);
    expect(ms).toBeGreaterThan(300 + 20 + (919 / 1200) * 1000);
    expect(ms).toBeLessThan(1150);
  });

  it('counts the flags asked for', () => {
    const frame = octetsOfText('0123456789abcdef');
    expect(onAirBitCount(frame, { opening: 10, closing: 2 }) - onAirBitCount(frame)).toBe(80);
  });
});
