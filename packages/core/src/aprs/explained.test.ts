import fc from 'fast-check';
import { octetsOfLatin1 } from '../octets';
import { explainInformation, summaryOf } from './explain';
import { decodeInformation } from './information';
import { encodeNmea } from './nmea';

/** What each field says, and the octets it came from, as text. */
const explained = (text: string, destination = 'APRS'): [name: string, words: string, octets: string][] =>
  explainInformation(octetsOfLatin1(text), destination).map(({ name, words, from, to, part }) => [
    name,
    words,
    (part === 'destination' ? destination : text).slice(from, to),
  ]);
const summary = (text: string, destination = 'APRS') => {
  const data = decodeInformation(octetsOfLatin1(text), destination);
  return data.ok ? summaryOf(data.value) : data.error.reason;
};

describe('each kind of packet, field by field', () => {
  it('Mic-E', () => {
    expect(explained('`(_fn"Oj/"4T}On the road', 'S32UVT')).toEqual([
      ['Type', 'position, Mic-E', '`'],
      ['Fix', 'current', '`'],
      ['Latitude', '33° 25.64′ N, from the destination S32UVT', 'S32UVT'],
      ['Message', 'Returning, from the destination', 'S32'],
      ['Longitude', '112° 7.74′ W', '(_f'],
      ['Speed and course', '20 knots, 251°', 'n"O'],
      ['Symbol', 'off-road car', 'j/'],
      ['Altitude', '200 ft (61 m)', '"4T}'],
      ['Comment', 'On the road', 'On the road'],
    ]);
  });
  it('weather behind a position', () => {
    expect(explained('!4903.50N/07201.75W_220/004g005t077r000h50b09900wRSW').slice(3)).toEqual([
      ['Symbol', 'weather station', '_'],
      ['Wind', 'from 220°, 4 mph (1.8 m/s)', '220/004'],
      ['Gust', '5 mph (2.2 m/s)', 'g005'],
      ['Temperature', '77 °F (25.0 °C)', 't077'],
      ['Rain in the last hour', '0.00 in (0.0 mm)', 'r000'],
      ['Humidity', '50 %', 'h50'],
      ['Pressure', '990.0 hPa', 'b09900'],
      ['Comment', 'wRSW', 'wRSW'],
    ]);
  });
  it('weather without a position, with what is not measured', () => {
    expect(explained('_10090556c...s004g005t...')).toEqual([
      ['Type', 'weather without position', '_'],
      ['Time', '9 October, 05:56 UTC', '10090556'],
      ['Wind from', 'not measured', 'c...'],
      ['Wind', '4 mph (1.8 m/s)', 's004'],
      ['Gust', '5 mph (2.2 m/s)', 'g005'],
      ['Temperature', 'not measured', 't...'],
    ]);
  });
  it('objects and items', () => {
    expect(explained(';LEADER   _092345z4903.50N/07201.75W>088/036')).toEqual([
      ['Type', 'object', ';'],
      ['Name', 'LEADER', 'LEADER   '],
      ['State', 'taken off the map', '_'],
      ['Time', 'day 9, 23:45 UTC', '092345z'],
      ['Latitude', '49° 3.50′ N', '4903.50N'],
      ['Longitude', '72° 1.75′ W', '07201.75W'],
      ['Symbol', 'car', '>'],
      ['Course and speed', '88° at 36 knots', '088/036'],
    ]);
    expect(explained(')AID #2!4903.50N/07201.75WA').slice(0, 3)).toEqual([
      ['Type', 'item', ')'],
      ['Name', 'AID #2', 'AID #2'],
      ['State', 'live', '!'],
    ]);
  });
  it('telemetry and its definitions', () => {
    expect(explained('T#005,199,,255,073,123,01101001 ok')).toEqual([
      ['Type', 'telemetry', 'T#'],
      ['Number', '005', '005,'],
      ['Analog 1', '199', '199'],
      ['Analog 2', 'not sent', ''],
      ['Analog 3', '255', '255'],
      ['Analog 4', '73', '073'],
      ['Analog 5', '123', '123'],
      ['Digital', '01101001', '01101001'],
      ['Comment', 'ok', ' ok'],
    ]);
    expect(explained(':QT8PH-12 :EQNS.0,0.01,0,2,1,0').at(-1)).toEqual([
      'Defines',
      'channel 1 = 0.01·v + 0; channel 2 = 2·v² + 1·v + 0',
      'EQNS.0,0.01,0,2,1,0',
    ]);
  });
  it('status, queries, capabilities, user formats', () => {
    expect(explained('>IO91SX/- Here ^B7').slice(1)).toEqual([
      ['Locator', 'IO91sx', 'IO91SX'],
      ['Symbol', 'house', '/-'],
      ['Beam', 'toward 110°, 490 W effective', '^B7'],
      ['Text', 'Here ', 'Here '],
    ]);
    expect(explained('?APRS? 34.02,-117.15,0200').slice(1)).toEqual([
      ['Query', 'every station: tell your position', '?APRS?'],
      ['Only within', '200 miles of 34.02, -117.15', ' 34.02,-117.15,0200'],
    ]);
    expect(explained('<IGATE,MSG_CNT=43').slice(1)).toEqual([
      ['IGATE (passes packets between radio and internet)', 'yes', 'IGATE'],
      ['MSG_CNT (messages passed on)', '43', 'MSG_CNT=43'],
    ]);
    expect(explained('{{1abc').slice(1, 3)).toEqual([
      ['User', 'experimental', '{'],
      ['Type', '1', '1'],
    ]);
    expect(explained(':QT2AR-7  :?APRSH QT4LB-8').find(([name]) => name === 'Query')?.[1]).toBe(
      'asks how often we heard QT4LB-8',
    );
  });
  it('sentences of receivers', () => {
    const text = encodeNmea('GPRMC,063909,A,3349.4302,N,11700.3721,W,43.022,89.3,291099,13.6,E');
    expect(explained(text)).toEqual([
      ['Type', 'raw sentence of a receiver', '$'],
      ['Sentence', 'RMC of a receiver (talker GP)', '$GPRMC'],
      ['Time', '06:39:09 UTC', '063909'],
      ['Latitude', '33° 49.43′ N', '3349.4302,N'],
      ['Longitude', '117° 0.37′ W', '11700.3721,W'],
      ['Speed', '43.022 knots', '43.022'],
      ['Course', '89.3°', '89.3'],
      ['Date', '1999-10-29', '291099'],
      ['Checksum', 'right', text.slice(text.indexOf('*'))],
    ]);
  });
  it('what stands in comments', () => {
    const text = '!4903.50N/07201.75Wr146.940MHz T100 -060 R25m Net /A=000500 |!!""| !W57!';
    expect(explained(text).slice(4)).toEqual([
      ['Telemetry', 'number 0: 92', '|!!""|'],
      ['Extra precision', '0.0050′ and 0.0070′ more, away from 0°', '!W57!'],
      ['Altitude', '500 ft (152 m)', '/A=000500'],
      ['Voice frequency', '146.940 MHz', '146.940MHz'],
      ['Tone', '100.0 Hz, to send', ' T100'],
      ['Offset', 'send −0.600 MHz from it', ' -060'],
      ['Range', 'about 40 km', ' R25m'],
      ['Comment', 'Net', 'Net'],
    ]);
  });
  it('descriptions of stations, bearings and storms', () => {
    expect(explained('!4903.50N/07201.75W#PHG5132').at(-1)).toEqual([
      'Station',
      '25 W, antenna 20 ft above the land around, 3 dB, best toward 90°',
      'PHG5132',
    ]);
    expect(explained('@092345z4903.50N/07201.75W\\088/036/270/729').at(-1)).toEqual([
      'Bearing taken',
      '270°, within 1°, to about 4 miles',
      '/270/729',
    ]);
    expect(explained(';BRENDA   *092345z4903.50N/07201.75W@088/036/TS/055').at(-1)).toEqual([
      'Storm',
      'tropical storm, sustained 55 knots',
      '/TS/055',
    ]);
  });
});

describe('what cannot be read', () => {
  it('is named behind what could', () => {
    expect(explained('@0923xxz4903.50N/07201.75W>Hello').map(([name]) => name)).toEqual([
      'Type',
      'Latitude',
      'Longitude',
      'Symbol',
      'Comment',
      'Not understood',
    ]);
    expect(explained('!4903.50N/07201.75X>').at(-1)).toEqual([
      'Not understood',
      'the longitude ends in neither E nor W',
      'X>',
    ]);
    expect(explained(';LEADER   *092345z49').map(([name]) => name)).toEqual([
      'Type',
      'Name',
      'State',
      'Time',
      'Not understood',
    ]);
  });
  it('never lies outside the packet, and never stops the reader', () => {
    const text = fc
      .tuple(fc.constantFrom(..."!=/@`'\x1c;)>_T?<$[{},:"), fc.string({ unit: 'binary-ascii', maxLength: 90 }))
      .map(([type, rest]) => type + rest);
    // Real packets with one character changed reach further into the reader than chance alone.
    const samples = [
      '`(_fn"Oj/"4T}On the road',
      '!4903.50N/07201.75W_220/004g005t077r000h50b09900wRSW',
      ';LEADER   *092345z4903.50N/07201.75W>088/036',
      'T#005,199,000,255,073,123,01101001',
      '>IO91SX/- Here ^B7',
      '=/5L!!<*e7>7P[|!!""|146.940MHz T100 -060',
      '$GPRMC,063909,A,3349.4302,N,11700.3721,W,43.022,89.3,291099,13.6,E*52',
      '}QT1ZZ>APRS,TCPIP,QT1GW-10*:!4903.50N/07201.75W-',
    ];
    const spoilt = fc
      .tuple(fc.constantFrom(...samples), fc.nat(70), fc.integer({ min: 0, max: 255 }))
      .map(
        ([sample, at, code]) =>
          sample.slice(0, at % sample.length) + String.fromCharCode(code) + sample.slice((at % sample.length) + 1),
      );
    fc.assert(
      fc.property(fc.oneof(text, spoilt), fc.constantFrom('S32UVT', 'APRS', 'APZTOM-3'), (packet, destination) => {
        for (const { name, from, to, part } of explainInformation(octetsOfLatin1(packet), destination)) {
          expect(name).not.toBe('');
          expect(from).toBeGreaterThanOrEqual(0);
          expect(to).toBeLessThanOrEqual(part === 'destination' ? destination.length : packet.length);
        }
        expect(typeof summary(packet, destination)).toBe('string');
      }),
      { numRuns: 3000 },
    );
  });
});

describe('packets in one line', () => {
  it.each([
    [
      '!4903.50N/07201.75W_220/004g005t077b09900',
      '49° 3.50′ N 72° 1.75′ W – wind from 220° 1.8 m/s, gusts 2.2 m/s, 25 °C, 990.0 hPa',
    ],
    ['=4903.50N/07201.75W>088/036Convoy', '49° 3.50′ N 72° 1.75′ W – 88° at 36 kn – Convoy'],
    [';LEADER   _092345z4903.50N/07201.75W>', 'LEADER taken off the map – 49° 3.50′ N 72° 1.75′ W'],
    ['T#005,199,,255', 'number 005: 199, –, 255'],
    ['>IO91SX/- Here', 'IO91sx – Here'],
    ['<IGATE,MSG_CNT=43', 'IGATE, MSG_CNT 43'],
    ['?WX?', 'Asks WX'],
    ['[IO91SX] north', 'IO91SX – north'],
    ['{Q1x', 'Q1 x'],
    [',x', 'x'],
    ['}A1A>B:>x', 'Passed on for A1A'],
    [':QT1AA    :PARM.Level,Pump', 'QT1AA: names: Level, Pump'],
  ])('%s', (text, words) => expect(summary(text)).toBe(words));
});
