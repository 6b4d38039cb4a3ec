import fc from 'fast-check';
import { joinOctets, octetsOfHex, hexOfOctets, octetsOfLatin1, latin1OfOctets, sameOctets } from '../octets';
import { explainInformation } from './explain';
import { encodeFrequency, findFrequency, plainFrequency } from './frequency';
import { decodeInformation } from './information';
import { decodeQuery, directedQuery, directedQueryInWords, encodeQuery } from './query';
import { OWN_SYMBOLS, symbolMeaning, symbolOf } from './symbol';

/** One of each kind, as a channel carries them; destinations matter for Mic-E alone. Invented, but for the forms. */
const WHOLE: [kind: string, info: string, destination?: string][] = [
  ['position', '!4903.50N/07201.75W-Ridge'],
  ['position with motion', '=4903.50N/07201.75W>088/036On the road /A=001234'],
  ['position with a time', '@092345z4903.50N/07201.75W>Late'],
  ['position with a local time', '/092345/4903.50N/07201.75W>Late'],
  ['compressed position', '=/5L!!<*e7>7P[Short'],
  ['weather', '!4903.50N/07201.75W_220/004g005t077r000p000P000h50b09900wRSW'],
  ['weather without a position', '_10090556c220s004g005t077r000p000P000h50b09900wRSW'],
  ['object', ';LEADER   *092345z4903.50N/07201.75W>088/036Gone ahead'],
  ['area object', ';AREA     *092345z4903.50N\\07201.75Wl630/410{12}Road'],
  ['frequency object', ';146.940BR*092345z4903.50N/07201.75WrT100 -060 R25m 147.300rx'],
  ['item', ')AID #2!4903.50N/07201.75WA'],
  ['signpost', ')SIGN!4903.50N\\07201.75Wm{60}'],
  ['raw weather', '$ULTW00640080029E000027A2000000000000028A0001016A00050032'],
  ['direction finder', '%225/8'],
  ['weather warning', ':NWS-WARN :092010z,THUNDER,VEIL'],
  ['Mic-E', '`(_fn"Oj/]Patrol', 'S32UVT'],
  ['status', '>092345zNet control'],
  ['telemetry', 'T#005,199,000,255,073,123,01101001 Pump'],
  ['message', ':QT2AR-7  :Testing{003}12'],
  ['telemetry definition', ':QT8PH-12 :EQNS.0,5.2,0,0,.53,-32,3,4.39,49,-32,3,18,1,2,3'],
  ['bulletin', ':BLN3WX   :Snow expected'],
  ['query', '?APRS? 34.02,-117.15,0200'],
  ['capabilities', '<IGATE,MSG_CNT=43,LOC_CNT=14'],
  ['sentence', '$GPGGA,102705,5157.9762,N,00029.3256,W,1,04,2.0,75.7,M,47.6,M,,*62'],
  ['third party', '}QT1ZZ>APRS,TCPIP,QT1GW-10*:>Passed on'],
  ['user defined', '{Q1abc'],
];

const octetsOf = (info: string) => octetsOfLatin1(info);

describe.each(WHOLE)('a damaged %s', (_kind, info = '', destination = 'APRS') => {
  const octets = octetsOf(info);
  /** What is wrong with how it was read: gathered, because an expectation for each of a million octets takes a minute. */
  const faultsOf = (damaged: Uint8Array): string[] => {
    const faults: string[] = [];
    const hold = (so: boolean, what: string) => so || faults.push(`${what} in ${hexOfOctets(damaged)}`);
    const result = decodeInformation(damaged, destination);
    if (!result.ok) {
      const { reason, at } = result.error;
      hold(/\S/.test(reason), 'a failure without a reason');
      hold(at >= 0 && at <= Math.max(damaged.length, destination.length), `a failure at ${at}`);
    }
    for (const { from, to, part, words } of explainInformation(damaged, destination)) {
      const limit = part === 'destination' ? destination.length : damaged.length;
      hold(from >= 0 && to >= from && to <= limit, `${part} from ${from} to ${to}`);
      hold(typeof words === 'string', `${part} without words`);
    }
    return faults;
  };

  it('is whole to begin with', () => expect(decodeInformation(octets, destination).ok).toBe(true));
  it('and cut off anywhere is read as far as it goes, or fails with a place and a reason', () => {
    expect(Array.from(octets, (_, length) => faultsOf(octets.subarray(0, length))).flat()).toEqual([]);
  });
  it('with any octet changed never throws', () => {
    const faults: string[] = [];
    for (let at = 0; at < octets.length; at++)
      for (const octet of [0x00, 0x0d, 0x20, 0x2f, 0x39, 0x7e, 0x7f, 0x80, 0xff]) {
        const changed = octets.slice();
        changed[at] = octet;
        faults.push(...faultsOf(changed));
      }
    expect(faults).toEqual([]);
  });
  it('with octets lost or doubled in the middle never throws', () => {
    fc.assert(
      fc.property(fc.nat(octets.length - 1), fc.nat(8), fc.boolean(), (at, count, doubled) => {
        const tail = octets.subarray(doubled ? at : at + count);
        expect(faultsOf(joinOctets([octets.subarray(0, doubled ? at + count : at), tail]))).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });
});

describe('damage behind the position', () => {
  // Everything up to here is the position; what comes later may be anything.
  it.each([
    ['!4903.50N/07201.75W', 49.0583, -72.0292],
    ['@092345z4903.50N/07201.75W', 49.0583, -72.0292],
    ['=/5L!!<*e7>7P[', 49.5, -72.75],
  ])('never loses it: %s', (head, latitude, longitude) => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (rest) => {
        // The symbol code is the last octet of the uncompressed forms.
        const whole = joinOctets([octetsOf(head.startsWith('=') ? head : `${head}-`), rest]);
        const result = decodeInformation(whole, 'APRS');
        expect(result.ok && result.value).toMatchObject({
          // Extra precision in a comment moves it by less than a hundredth of a minute.
          latitude: expect.closeTo(latitude, 3),
          longitude: expect.closeTo(longitude, 3),
        });
      }),
    );
  });
});

describe('queries', () => {
  it('to all come back as they were asked', () => {
    // Example of the Protocol Reference 1.0.1, ch. 15.
    const text = '?APRS? 34.02,-117.15,0200';
    const query = decodeQuery(text);
    expect(query).toMatchObject({
      ok: true,
      value: { what: 'APRS', footprint: { latitude: 34.02, longitude: -117.15, radiusMi: 200 } },
    });
    expect(query.ok && encodeQuery(query.value)).toBe(text);
    expect(encodeQuery({ what: 'WX', footprint: null })).toBe('?WX?');
  });
  it.each([
    ['?APRSD', 'asks which stations we hear direct'],
    ['?aprsm', 'asks for messages that wait for it'],
    ['?APRSO', 'asks for our objects'],
    ['?APRSP', 'asks for our position'],
    ['?APRSS', 'asks for our status'],
    ['?APRST', 'asks over which path we heard it'],
    ['?PING?', 'asks over which path we heard it'],
    ['?APRSH QT1NC', 'asks how often we heard QT1NC'],
  ])('to one are told in words: %s', (text, words) => {
    expect(directedQueryInWords(directedQuery(text)!)).toBe(words);
  });
  it('that only look like one stay texts', () => {
    for (const text of ['APRSD', '?APRSH', '?APRSX', 'why ?APRSD', '?APRSH TOO-LONG-CALL'])
      expect(directedQuery(text)).toBeNull();
  });
});

describe('what a station says of itself', () => {
  it('is a symbol with a meaning that everybody draws', () => {
    for (const text of OWN_SYMBOLS) expect(symbolMeaning(symbolOf(text)!)).not.toBe('other');
    expect(symbolOf('\\>')).toEqual({ table: '\\', code: '>' });
    expect(symbolOf('9>')).toEqual({ table: '9', code: '>' });
    for (const text of ['', '/', '//>', 'a>', '/ ', '/\x7f']) expect(symbolOf(text)).toBeNull();
  });
  it('is a frequency that others find again', () => {
    for (const frequencyMHz of [29.6, 146.52, 446.0, 1294.5]) {
      const text = `${encodeFrequency(plainFrequency(frequencyMHz))} Net control`;
      expect(findFrequency(text)?.frequency).toMatchObject({ frequencyMHz, toneHz: null, offsetMHz: null });
    }
  });
});

describe('octets', () => {
  it('come back from every way of writing them', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 9000 }), (octets) => {
        expect(sameOctets(octetsOfHex(hexOfOctets(octets))!, octets)).toBe(true);
        expect(sameOctets(octetsOfLatin1(latin1OfOctets(octets)), octets)).toBe(true);
      }),
      { numRuns: 40 },
    );
    expect(octetsOfHex('0g')).toBeUndefined();
    expect(octetsOfHex('012')).toBeUndefined();
    expect(sameOctets(Uint8Array.of(1), Uint8Array.of(1, 2))).toBe(false);
    expect(sameOctets(Uint8Array.of(1, 3), Uint8Array.of(1, 2))).toBe(false);
  });
});
