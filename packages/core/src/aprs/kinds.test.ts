import fc from 'fast-check';
import { octetsOfLatin1, octetsOfText } from '../octets';
import { CTCSS_TONES_HZ, encodeFrequency, findFrequency, radioSetting, standardTone } from './frequency';
import { decodeInformation } from './information';
import { faultsOf, placeOf } from './told';
import { decodeMicE, encodeMicE, type MicEMessage } from './mic-e';
import { encodeItem, encodeObject } from './object';
import { encodePowerHeightGain } from './extension';
import { answerText, directedQuery, encodeQuery, isAskedOf } from './query';
import { encodeStatus } from './status';
import {
  decodeTelemetryDefinition,
  encodeTelemetry,
  encodeTelemetryDefinition,
  learnMeaning,
  NO_MEANING,
  readTelemetry,
} from './telemetry';
import { encodeClockTime, encodeDayTime, encodeMonthTime, instantOf } from './time';
import { encodeLetteredWeather, encodeWeather, NO_WEATHER, type Weather } from './weather';
import { encodeUncompressedPosition } from './position/encode';
import { encodeCapabilities } from './capabilities';
import { encodeUserDefined } from './user-defined';

/*
 * Values marked "Reference" are the worked examples of the APRS Protocol Reference 1.0.1, written from memory; where a second route
 * exists it stands beside them (a hand calculation here, a general dissector in reference.test.ts).
 */
const read = (text: string, destination = 'APRS') => {
  const result = decodeInformation(octetsOfLatin1(text), destination);
  if (!result.ok) throw new Error(`${result.error.at}: ${result.error.reason}`);
  return result.value;
};
const whyNot = (text: string, destination = 'APRS') => {
  const result = decodeInformation(octetsOfLatin1(text), destination);
  return result.ok ? 'it was understood' : result.error.reason;
};

describe('Mic-E (ch. 10)', () => {
  // Reference. By hand: S32UVT = 3 3 2 5 6 4, bits 1 0 0, north, 100° more, west; `(` = 12, `_` = 67 − 60, `f` = 74.
  it('reads the example of the Reference', () => {
    expect(read('`(_fn"Oj/', 'S32UVT')).toMatchObject({
      kind: 'Mic-E',
      latitude: expect.closeTo(33 + 25.64 / 60, 8),
      longitude: expect.closeTo(-(112 + 7.74 / 60), 8),
      speedKnots: 20,
      courseDeg: 251,
      message: 'Returning',
      current: true,
      symbol: { table: '/', code: 'j' },
      faults: [],
    });
  });
  // Reference: the altitude `"4T}` is 61 m: by hand (1·91 + 19)·91 + 51 − 10 000 = 61.
  it('reads the altitude, the type of radio and the text', () => {
    const packet = read('`(_fn"Oj/"4T}On the road', 'S32UVT');
    expect(packet).toMatchObject({ altitudeFt: expect.closeTo(61 / 0.3048, 6), comment: 'On the road' });
    expect(read('`(_fn"Oj/`"4T}On the road_#\r', 'S32UVT')).toMatchObject({
      altitudeFt: expect.closeTo(61 / 0.3048, 6),
      comment: 'On the road',
    });
    expect(read('\'(_fn"Oj/>Hello=', 'S32UVT')).toMatchObject({ current: false, comment: 'Hello' });
  });
  it('reads telemetry of two and five channels', () => {
    expect(read('`(_fn"Oj/`1AFFtext', 'S32UVT')).toMatchObject({ channels: [26, 255], comment: 'text' });
    expect(read('`(_fn"Oj/\'0102030405', 'S32UVT')).toMatchObject({ channels: [1, 2, 3, 4, 5] });
    expect(read('`(_fn"Oj/\x1d\x05\x04\x03\x02\x01', 'S32UVT')).toMatchObject({ channels: [5, 4, 3, 2, 1] });
  });
  it('knows standard, custom, mixed and emergency messages', () => {
    const messageOf = (destination: string) => {
      const result = decodeMicE('`(_fn"Oj/', destination);
      return result.ok && result.value.message;
    };
    expect(['PPPUVT', 'PP0UVT', '000UVT', 'AAAUVT', 'A00UVT', 'PA0UVT'].map(messageOf)).toEqual([
      'Off Duty',
      'En Route',
      'Emergency',
      'Custom-0',
      'Custom-3',
      'unknown',
    ]);
  });
  it('reads blanks as the middle of what remains', () => {
    const result = decodeMicE('`(_fn"Oj/', 'S32UZL');
    // Two blanks: 25.__ and 7.__ minutes; L in the last place is also east.
    expect(result).toMatchObject({
      ok: true,
      value: {
        ambiguity: 2,
        latitude: expect.closeTo(33 + 25.5 / 60, 8),
        longitude: expect.closeTo(112 + 7.5 / 60, 8),
      },
    });
  });
  it.each([
    ['`(_fn"O', 'S32UVT', 'cut off'],
    ['`(_fn"Oj/', 'APRS', 'six characters'],
    ['`(_fn"Oj/', 'APZTOM', 'stands for no digit'],
    ['`(_fn"Oj ', 'S32UVT', 'symbol table'],
    ['`\x01_fn"Oj/', '332564', 'degrees of the longitude'],
    ['`(_\xfen"Oj/', 'S32UVT', 'hundredths'],
    ['`(_fn"Oj/', 'S369VT', 'minutes'],
  ])('explains %p to %p', (text, destination, reason) => expect(whyNot(text, destination)).toContain(reason));
  it('keeps the position when speed and course are nonsense', () => {
    const packet = read('`(_f\x01\x01\x01j/', 'S32UVT');
    expect(packet).toMatchObject({ courseDeg: null, speedKnots: null, latitude: expect.closeTo(33.427, 2) });
    expect(faultsOf(packet)[0]?.reason).toContain('speed and course');
  });
  it('brings back what it encodes', () => {
    const messages: Exclude<MicEMessage, 'unknown'>[] = [
      'Off Duty',
      'En Route',
      'Returning',
      'Priority',
      'Emergency',
      'Custom-0',
      'Custom-6',
    ];
    const sample = fc.record({
      latitude: fc.double({ min: -89.99, max: 89.99, noNaN: true }),
      longitude: fc.double({ min: -179.99, max: 179.99, noNaN: true }),
      speedKnots: fc.integer({ min: 0, max: 799 }),
      courseDeg: fc.integer({ min: 1, max: 360 }),
      altitudeM: fc.integer({ min: -500, max: 30_000 }),
      message: fc.constantFrom(...messages),
    });
    fc.assert(
      fc.property(sample, (send) => {
        const { destination, info } = encodeMicE({ ...send, symbol: { table: '/', code: '>' }, comment: 'x' });
        const back = decodeInformation(info, destination);
        if (!back.ok || back.value.kind !== 'Mic-E') throw new Error('not read back');
        const { value } = back;
        expect(Math.abs(value.latitude - send.latitude)).toBeLessThan(0.51 / 6000);
        expect(Math.abs(value.longitude - send.longitude)).toBeLessThan(0.51 / 6000);
        expect(value).toMatchObject({
          speedKnots: send.speedKnots,
          courseDeg: send.courseDeg,
          message: send.message,
          altitudeFt: expect.closeTo(send.altitudeM / 0.3048, 4),
          comment: 'x',
        });
      }),
    );
  });
});

describe('positions with more behind them (ch. 6 to 9)', () => {
  it('reads power, height and gain, range, signal strength', () => {
    // Reference: PHG5132 is 25 W, 20 ft, 3 dB, toward 90°.
    expect(read('!4903.50N/07201.75W#PHG5132/hello')).toMatchObject({
      powerHeightGain: { powerW: 25, heightFt: 20, gainDb: 3, directionDeg: 90 },
      comment: '/hello',
    });
    expect(read('!4903.50N/07201.75W#PHG51306/hello')).toMatchObject({
      powerHeightGain: { directionDeg: null },
      comment: 'hello',
    });
    expect(read('!4903.50N/07201.75W#RNG0050')).toMatchObject({ rangeMi: 50 });
    expect(read('!4903.50N/07201.75W#DFS2360')).toMatchObject({
      signalStrength: { sPoints: 2, heightFt: 80, gainDb: 6, directionDeg: null },
    });
    expect(encodePowerHeightGain({ powerW: 25, heightFt: 20, gainDb: 3, directionDeg: 90 })).toBe('PHG5132');
    expect(read('!4903.50N/07201.75W#PHGx132')).toMatchObject({ powerHeightGain: null, comment: 'PHGx132' });
  });
  // Reference: /270/729 behind 088/036: bearing 270°, hits 7 (87.5 %), range 2² = 4 miles, quality 9 = 1°.
  it('reads a bearing on a transmitter', () => {
    expect(read('@092345z4903.50N/07201.75W\\088/036/270/729')).toMatchObject({
      courseDeg: 88,
      bearing: { bearingDeg: 270, goodPercent: 87.5, rangeMi: 4, accuracyDeg: 1 },
    });
    expect(read('@092345z4903.50N/07201.75W\\088/036/270/700')).toMatchObject({ bearing: { accuracyDeg: null } });
  });
  // Reference, ch. 12: storm data.
  it('reads a storm', () => {
    expect(read(';BRENDA   *092345z4903.50N/07201.75W@088/036/HC/150^200/0980>090&030%040')).toMatchObject({
      kind: 'object',
      storm: {
        kind: 'hurricane',
        sustainedKnots: 150,
        gustKnots: 200,
        centralPressureHpa: 980,
        hurricaneRadiusNm: 90,
        stormRadiusNm: 30,
        galeRadiusNm: 40,
      },
    });
  });
  it('reads altitude and extra precision in a comment and leaves the rest to people', () => {
    const packet = read('!4903.50N/07201.75W>Up /A=001234 here !W57!');
    expect(packet).toMatchObject({
      altitudeFt: 1234,
      comment: 'Up here',
      latitude: expect.closeTo(49 + 3.505 / 60, 9),
      longitude: expect.closeTo(-(72 + 1.757 / 60), 9),
    });
    expect(read('!4903.50N/07201.75W>/A=-00012')).toMatchObject({ altitudeFt: -12 });
    // By hand: `!` is 0, `{` is 90 of 91 parts of a hundredth of a minute.
    expect(read('!4903.50N/07201.75W>!w!{!')).toMatchObject({
      latitude: expect.closeTo(49 + 3.5 / 60, 9),
      longitude: expect.closeTo(-(72 + (1.75 + (0.01 * 90) / 91) / 60), 9),
    });
    expect(read('!4903.50N/07201.75W>What! a day! /A=12')).toMatchObject({ comment: 'What! a day! /A=12' });
  });
  // Addendum 1.2, from memory: `|ss11|` in base 91; by hand `!!` = 0, `""` = 92, `{{` = 8280.
  it('reads telemetry in a comment', () => {
    expect(read('!4903.50N/07201.75W>Hi|""!!{{|')).toMatchObject({
      telemetry: { sequence: 92, analog: [0, 8280], bits: null },
      comment: 'Hi',
    });
    expect(read('!4903.50N/07201.75W>|!!!!!!!!!!!!!"|')).toMatchObject({
      telemetry: { analog: [0, 0, 0, 0, 0], bits: '10000000' },
    });
    expect(read('!4903.50N/07201.75W>a|b|c')).toMatchObject({ telemetry: null, comment: 'a|b|c' });
  });
  it('keeps the position when its time, its comment or its extension is spoilt', () => {
    const packet = read('@0923xxz4903.50N/07201.75W>\xff\xfe broken');
    expect(packet).toMatchObject({ kind: 'position', time: null, latitude: expect.closeTo(49.058, 3) });
    expect(faultsOf(packet)[0]?.reason).toContain('six digits');
    expect(faultsOf(read('@322561z4903.50N/07201.75W>'))[0]?.reason).toContain('no time');
    expect(read('!4903.50N/07201.75W>9x8/7y6')).toMatchObject({ courseDeg: null, comment: '9x8/7y6' });
  });
  it('says that 0° 0′ is nobody’s place', () => {
    const packet = read('!0000.00N\\00000.00E.');
    expect(faultsOf(packet)[0]?.reason).toContain('without a fix');
    expect(placeOf(packet)).toBeNull();
    expect(placeOf(read('!0000.00N/00100.00E-'))).toEqual({ latitude: 0, longitude: 1 });
  });
  it('sends positions with ambiguity that hold the true place inside', () => {
    const sample = fc.record({
      latitude: fc.double({ min: -89.9, max: 89.9, noNaN: true }),
      longitude: fc.double({ min: -179.9, max: 179.9, noNaN: true }),
      ambiguity: fc.integer({ min: 0, max: 4 }),
    });
    fc.assert(
      fc.property(sample, ({ latitude, longitude, ambiguity }) => {
        const text = encodeUncompressedPosition({ latitude, longitude, ambiguity, symbol: { table: '/', code: '-' } });
        const packet = read(`!${text}`);
        const halfMinutes = [0.005, 0.05, 0.5, 5, 30][ambiguity]!;
        expect(packet).toMatchObject({ ambiguity });
        if (packet.kind !== 'position') return;
        expect(Math.abs(packet.latitude - latitude) * 60).toBeLessThanOrEqual(halfMinutes + 1e-4);
        expect(Math.abs(packet.longitude - longitude) * 60).toBeLessThanOrEqual(halfMinutes + 1e-4);
      }),
    );
  });
  it('finds a position behind a text', () => {
    expect(read('Hello all !4903.50N/07201.75W-')).toMatchObject({ kind: 'position', symbol: { code: '-' } });
    expect(whyNot('Hello all!')).toContain('no packet type');
  });
});

describe('objects and items (ch. 11)', () => {
  // Reference.
  it('reads live and killed ones', () => {
    expect(read(';LEADER   *092345z4903.50N/07201.75W>088/036')).toMatchObject({
      kind: 'object',
      name: 'LEADER',
      live: true,
      courseDeg: 88,
      time: { day: 9 },
    });
    expect(read(';LEADER   _092345z4903.50N/07201.75W>088/036')).toMatchObject({ live: false });
    expect(read(')AID #2!4903.50N/07201.75WA')).toMatchObject({ kind: 'item', name: 'AID #2', live: true });
    expect(read(')AID #2_4903.50N/07201.75WA')).toMatchObject({ live: false });
    expect(read(')G/WB4APR!53  .  N\\002  .  Wd')).toMatchObject({ ambiguity: 4, latitude: 53.5 });
  });
  it.each([
    [';LEADER', 'cut off'],
    [';LEADER   x092345z4903.50N/07201.75W>', 'neither * nor _'],
    [';         *092345z4903.50N/07201.75W>', 'no name'],
    [')AB!4903.50N/07201.75WA', '3 to 9'],
    [')ABCDEFGHIJK!4903.50N/07201.75WA', 'neither ! nor _'],
    [';LEADER   *092345z49', 'cut off'],
  ])('explains %p', (text, reason) => expect(whyNot(text)).toContain(reason));
  it('keeps an object with a time that cannot be', () => {
    const packet = read(';LEADER   *992345z4903.50N/07201.75W>');
    expect(packet).toMatchObject({ name: 'LEADER', time: null });
    expect(faultsOf(packet)).toHaveLength(1);
  });
  it('brings back what it encodes, and refuses names that do not fit', () => {
    const place = { latitude: 41.2, longitude: -43.4, symbol: { table: '/', code: 'r' } };
    const at = Date.UTC(2026, 10, 25, 14, 5);
    const object = encodeObject('SHELTER', false, at, { ...place, comment: '146.940MHz' });
    expect(object.ok && object.value).toBe(';SHELTER  _251405z4112.00N/04324.00Wr146.940MHz');
    const item = encodeItem('RAMP', true, place);
    expect(item.ok && read(item.value)).toMatchObject({ name: 'RAMP', live: true });
    expect(encodeItem('A!B', true, place).ok).toBe(false);
    expect(encodeObject('TOO LONG NAME', true, at, place).ok).toBe(false);
  });
});

describe('status (ch. 16)', () => {
  // Reference.
  it('reads time, locator with symbol, and beam', () => {
    expect(read('>092345zNet Control Center')).toMatchObject({
      time: { day: 9, hour: 23 },
      text: 'Net Control Center',
    });
    expect(read('>IO91SX/G')).toMatchObject({ locator: 'IO91sx', symbol: { table: '/', code: 'G' }, text: '' });
    expect(read('>IO91/- My house')).toMatchObject({ locator: 'IO91', text: 'My house' });
    // B7: heading 11·10°, power 7²·10 W.
    expect(read('>IO91SX/- ^B7')).toMatchObject({ beam: { headingDeg: 110, effectivePowerW: 490 } });
    expect(read('>On duty')).toMatchObject({ text: 'On duty', locator: null, time: null, beam: null });
    expect(read('>Meeting 2026')).toMatchObject({ text: 'Meeting 2026', locator: null });
  });
  it('brings back what it encodes', () => {
    const symbol = { table: '/', code: '-' };
    const text = encodeStatus('Hello', {
      locator: { text: 'HN31ge', symbol },
      beam: { headingDeg: 110, effectivePowerW: 490 },
    });
    expect(text).toBe('>HN31GE/- Hello^B7');
    expect(read(text)).toMatchObject({ locator: 'HN31ge', text: 'Hello', beam: { headingDeg: 110 } });
    expect(encodeStatus('x', { atMs: Date.UTC(2026, 0, 9, 23, 45) })).toBe('>092345zx');
  });
});

describe('weather (ch. 12)', () => {
  // Reference.
  it('reads the report without position', () => {
    expect(read('_10090556c220s004g005t077r000p000P000h50b09900wRSW')).toEqual({
      kind: 'weather',
      time: { zone: 'UTC', month: 10, day: 9, hour: 5, minute: 56, second: null },
      weather: {
        ...NO_WEATHER,
        windDirectionDeg: 220,
        windMph: 4,
        gustMph: 5,
        temperatureF: 77,
        rainHourIn100: 0,
        rainDayIn100: 0,
        rainMidnightIn100: 0,
        humidityPercent: 50,
        pressureHpa: 990,
      },
      comment: 'wRSW',
      faults: [],
    });
  });
  it('reads it behind positions, plain, with time, and compressed', () => {
    expect(read('!4903.50N/07201.75W_220/004g005t077r000p000P000h50b09900wRSW')).toMatchObject({
      kind: 'position',
      weather: { windDirectionDeg: 220, windMph: 4, pressureHpa: 990 },
      comment: 'wRSW',
      courseDeg: null,
    });
    expect(read('@092345z4903.50N/07201.75W_220/004g005t-07r000h00b09900')).toMatchObject({
      weather: { temperatureF: -7, humidityPercent: 100 },
    });
    // Compressed: the course and speed are the wind's; speed 1.08^46 − 1 knots.
    expect(read('=/5L!!<*e7_7P[g005t077b09900')).toMatchObject({
      weather: { windDirectionDeg: 88, windMph: expect.closeTo((Math.pow(1.08, 47) - 1) * 1.15077945, 6) },
    });
  });
  it('tells missing, snow and light apart', () => {
    expect(read('!4903.50N/07201.75W_.../...g...t...r...p012P034h..b.....L123s004')).toMatchObject({
      weather: {
        ...NO_WEATHER,
        rainDayIn100: 12,
        rainMidnightIn100: 34,
        luminosityWm2: 123,
        snowIn: 4,
      },
    });
    expect(read('_10090556c...s   g005l123#042')).toMatchObject({
      weather: { windDirectionDeg: null, windMph: null, gustMph: 5, luminosityWm2: 1123, rainCounter: 42 },
    });
    expect(whyNot('_10090556nothing')).toContain('no weather');
    expect(faultsOf(read('_99990556c220s004g005t077'))[0]?.reason).toContain('no time');
  });
  it('keeps the position of a station with broken weather', () => {
    expect(read('!4903.50N/07201.75W_22x/004gxxx')).toMatchObject({ weather: null, comment: '22x/004gxxx' });
  });
  it('brings back what it encodes', () => {
    const three = fc.option(fc.integer({ min: 0, max: 999 }));
    const sample: fc.Arbitrary<Weather> = fc.record({
      windDirectionDeg: fc.option(fc.integer({ min: 0, max: 360 })),
      windMph: three,
      gustMph: fc.integer({ min: 0, max: 200 }),
      temperatureF: fc.option(fc.integer({ min: -99, max: 140 })),
      rainHourIn100: three,
      rainDayIn100: three,
      rainMidnightIn100: three,
      humidityPercent: fc.option(fc.integer({ min: 1, max: 100 })),
      pressureHpa: fc.option(fc.integer({ min: 8000, max: 11_000 }).map((tenths) => tenths / 10)),
      luminosityWm2: fc.option(fc.integer({ min: 0, max: 1999 })),
      snowIn: three,
      rainCounter: three,
    });
    fc.assert(
      fc.property(sample, (weather) => {
        expect(read(`!4903.50N/07201.75W_${encodeWeather(weather)}`)).toMatchObject({ weather });
        expect(read(`_10090556${encodeLetteredWeather(weather)}`)).toMatchObject({ weather });
      }),
    );
  });
});

describe('telemetry (ch. 13)', () => {
  // Reference.
  it('reads reports', () => {
    expect(read('T#005,199,000,255,073,123,01101001')).toEqual({
      kind: 'telemetry',
      sequence: '005',
      analog: [199, 0, 255, 73, 123],
      bits: '01101001',
      comment: '',
    });
    expect(read('T#MIC199,000,255,073,123,01101001Hi')).toMatchObject({ sequence: 'MIC', comment: 'Hi' });
    expect(read('T#7,1.5,,-3')).toMatchObject({ analog: [1.5, null, -3], bits: null });
  });
  it('reads definitions and computes the values', () => {
    const definition = (text: string) => {
      const packet = read(`:QT8PH-12 :${text}`);
      if (packet.kind !== 'telemetry definition') throw new Error(packet.kind);
      expect(packet.station).toBe('QT8PH-12');
      return packet.definition;
    };
    // Reference: EQNS.0,5.2,0,0,.53,-32,3,4.39,49,-32,3,18,1,2,3.
    const meaning = [
      definition('PARM.Battery,BTemp,AirTemp,Pres,Altude,Camra,Chut,Sun,10m,ATV'),
      definition('UNIT.v/100,deg.F,deg.F,Mbar,Kfeet,Clik,OPEN!,on,on,high'),
      definition('EQNS.0,5.2,0,0,.53,-32,3,4.39,49,-32,3,18,1,2,3'),
      definition('BITS.10110000,Big Balloon'),
    ].reduce(learnMeaning, NO_MEANING);
    const { analog, digital } = readTelemetry({ analog: [199, 0, 255, 73, 123], bits: '01101001' }, meaning);
    expect(analog.map(({ value }) => value)).toEqual([
      expect.closeTo(1034.8, 6),
      -32,
      3 * 255 * 255 + 4.39 * 255 + 49,
      -32 * 73 * 73 + 3 * 73 + 18,
      123 * 123 + 2 * 123 + 3,
    ]);
    expect(analog[0]).toMatchObject({ name: 'Battery', unit: 'v/100' });
    expect(digital.slice(0, 3)).toEqual([
      { channel: 1, name: 'Camra', label: 'Clik', active: false },
      { channel: 2, name: 'Chut', label: 'OPEN!', active: false },
      { channel: 3, name: 'Sun', label: 'on', active: true },
    ]);
    expect(meaning.project).toBe('Big Balloon');
  });
  it('shows values as sent where nothing was defined', () => {
    const { analog, digital } = readTelemetry({ analog: [1, null, 3], bits: '1' }, NO_MEANING);
    expect(analog).toEqual([
      { channel: 1, name: 'Analog 1', unit: '', value: 1 },
      { channel: 3, name: 'Analog 3', unit: '', value: 3 },
    ]);
    expect(digital).toEqual([{ channel: 1, name: 'Bit 1', label: '', active: true }]);
  });
  it.each([
    ['T005', 'no # behind T'],
    ['T#', 'no number'],
    ['T#005,abc', 'no values'],
    [':QT8PH-12 :EQNS.a,b,c', 'equation'],
    [':QT8PH-12 :BITS.2', 'senses'],
  ])('explains %p', (text, reason) => expect(whyNot(text)).toContain(reason));
  it('brings back what it encodes', () => {
    const text = encodeTelemetry(5, [199, 0, 255, 73, 123], '01101001', 'x');
    expect(text.ok && read(text.value)).toMatchObject({
      sequence: '005',
      analog: [199, 0, 255, 73, 123],
      comment: 'x',
    });
    expect(encodeTelemetry(5, [1], '01101001').ok).toBe(false);
    expect(encodeTelemetry(5, [1, 2, 3, 4, 5], '0').ok).toBe(false);
    for (const line of ['PARM.Level,Pump', 'UNIT.m,on', 'EQNS.0,0.01,0', 'BITS.11111111,Pump house']) {
      const definition = decodeTelemetryDefinition(line);
      expect(definition?.ok && encodeTelemetryDefinition(definition.value)).toBe(line);
    }
  });
});

describe('queries, capabilities, user formats, test data (ch. 15, 18)', () => {
  // Reference.
  it('reads queries to all', () => {
    expect(read('?APRS?')).toEqual({ kind: 'query', what: 'APRS', footprint: null });
    expect(read('?APRS? 34.02,-117.15,0200')).toMatchObject({
      footprint: { latitude: 34.02, longitude: -117.15, radiusMi: 200 },
    });
    expect(encodeQuery({ what: 'WX', footprint: { latitude: 34.02, longitude: -117.15, radiusMi: 200 } })).toBe(
      '?WX? 34.02,-117.15,0200',
    );
    expect(whyNot('?what')).toContain('between two question marks');
    expect(whyNot('?APRS? here')).toContain('circle');
    expect(whyNot('?APRS? 94.02,-117.15,0200')).toContain('off the globe');
  });
  it('asks who is in the circle', () => {
    const circle = { what: 'APRS', footprint: { latitude: 34.02, longitude: -117.15, radiusMi: 200 } };
    // A nautical mile is a minute of latitude, to half a percent: 200 statute miles are 2.90 degrees.
    const north = (degrees: number) => ({ latitude: 34.02 + degrees, longitude: -117.15 });
    expect(isAskedOf(circle, north(2.88))).toBe(true);
    expect(isAskedOf(circle, north(2.92))).toBe(false);
    expect(isAskedOf({ what: 'APRS', footprint: null }, north(90 - 34.02))).toBe(true);
    expect(isAskedOf({ what: 'APRS', footprint: null }, null)).toBe(false);
    expect(isAskedOf({ ...circle, what: 'WX' }, north(0))).toBe(false);
  });
  it('reads queries to one and answers what it can', () => {
    expect(directedQuery('?APRSD')).toEqual({ what: 'direct stations' });
    expect(directedQuery('?aprsp ')).toEqual({ what: 'position' });
    expect(directedQuery('?APRSH QT4LB-8')).toEqual({ what: 'heard', call: 'QT4LB-8' });
    expect(directedQuery('?PING?')).toEqual({ what: 'path' });
    expect(directedQuery('APRSD?')).toBeNull();
    const facts = {
      direct: Array.from({ length: 20 }, (_, i) => `QT${i % 10}AA-${i % 10}`),
      heardPerHour: () => [3, 0, 1],
      path: 'QT0BR-1*,WIDE2-1',
    };
    const direct = answerText({ what: 'direct stations' }, facts)!;
    expect(direct).toMatch(/^Directs=QT0AA-0 QT1AA-1 /);
    expect(direct.length).toBeLessThanOrEqual(67);
    expect(answerText({ what: 'heard', call: 'QT4LB-8' }, facts)).toBe('QT4LB-8 heard: 3 0 1');
    expect(answerText({ what: 'path' }, facts)).toBe('PATH= QT0BR-1*,WIDE2-1');
    expect(answerText({ what: 'position' }, facts)).toBeNull();
  });
  it('reads capabilities, formats of others and test data', () => {
    const text = '<IGATE,MSG_CNT=43,LOC_CNT=14';
    const packet = read(text);
    expect(packet).toMatchObject({
      tokens: [
        { name: 'IGATE', value: null },
        { name: 'MSG_CNT', value: '43' },
        { name: 'LOC_CNT', value: '14' },
      ],
    });
    if (packet.kind === 'capabilities') expect(encodeCapabilities(packet.tokens)).toBe(text);
    expect(read('{Q1qwerty')).toEqual({ kind: 'user defined', user: 'Q', type: '1', data: 'qwerty' });
    expect(encodeUserDefined({ user: 'Q', type: '1', data: 'qwerty' })).toBe('{Q1qwerty');
    expect(whyNot('{Q')).toContain('user and a type');
    expect(read(',garbage')).toEqual({ kind: 'test data', text: 'garbage' });
    expect(read('[IO91SX] 35 miles NNW')).toMatchObject({
      kind: 'locator',
      comment: '35 miles NNW',
      latitude: expect.closeTo(51.979, 3),
    });
    expect(whyNot('[IO9]')).toContain('locator');
  });
});

describe('frequencies in comments (1.2 addendum)', () => {
  // From the project's own domain notes, common practice: 146.940 MHz, 100.0 Hz, −0.600 MHz, 25 miles.
  it('reads frequency, tone, offset and range', () => {
    expect(read('!4903.50N/07201.75Wr146.940MHz T100 -060 R25m Net at 8')).toMatchObject({
      frequency: {
        frequencyMHz: 146.94,
        toneHz: 100,
        toneSquelch: false,
        offsetMHz: -0.6,
        rangeKm: expect.closeTo(40.23, 2),
        narrow: false,
      },
      comment: 'Net at 8',
    });
    expect(findFrequency('145.50MHz C088 +060')?.frequency).toMatchObject({
      toneHz: 88.5,
      toneSquelch: true,
      offsetMHz: 0.6,
    });
    expect(findFrequency('433.500 MHz d023')?.frequency).toMatchObject({ dcs: '023', narrow: true, offsetMHz: null });
    expect(findFrequency('146.520MHz Toff')?.frequency).toMatchObject({ toneOff: true, toneHz: null });
    expect(findFrequency('9999.999MHz')).toBeNull();
    expect(findFrequency('5 MHz wide')).toBeNull();
  });
  it('takes whole hertz for the standard tone', () => {
    expect(new Set(CTCSS_TONES_HZ.map(Math.trunc)).size).toBe(CTCSS_TONES_HZ.length);
    for (const tone of CTCSS_TONES_HZ) expect(standardTone(Math.trunc(tone))).toBe(tone);
    expect(standardTone(104)).toBe(103.5);
    expect(standardTone(999)).toBe(999);
  });
  it('says how to set the radio', () => {
    const frequency = findFrequency('146.940MHz T100 -060')!.frequency;
    expect(radioSetting(frequency)).toEqual([
      { what: 'Listen on', value: '146.940 MHz' },
      { what: 'Send on', value: '146.340 MHz (offset −0.600 MHz)' },
      { what: 'Tone to send', value: '100.0 Hz' },
    ]);
    expect(encodeFrequency(frequency)).toBe('146.940MHz T100 -060');
    expect(radioSetting({ ...frequency, offsetMHz: null })[1]!.value).toContain('not told');
  });
});

describe('times', () => {
  const heard = Date.UTC(2026, 2, 1, 0, 5);
  const time = (text: string) => {
    const packet = read(`@${text}4903.50N/07201.75W>`);
    return packet.kind === 'position' && packet.time ? instantOf(packet.time, heard) : undefined;
  };
  it('take the instant nearest to the reception, over midnight and the end of the month', () => {
    expect(time('282359z')).toBe(Date.UTC(2026, 1, 28, 23, 59));
    expect(time('010004z')).toBe(Date.UTC(2026, 2, 1, 0, 4));
    expect(time('310000z')).toBe(Date.UTC(2026, 2, 31));
    expect(time('235930h')).toBe(Date.UTC(2026, 1, 28, 23, 59, 30));
    expect(time('000100h')).toBe(Date.UTC(2026, 2, 1, 0, 1));
    expect(time('010004/')).toBeNull();
    const newYear = { zone: 'UTC', month: 12, day: 31, hour: 23, minute: 0, second: null } as const;
    expect(instantOf(newYear, Date.UTC(2027, 0, 1))).toBe(Date.UTC(2026, 11, 31, 23));
  });
  it('are sent as they are read', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4_000_000_000 }), (seconds) => {
        const at = seconds * 1000;
        const packet = read(`@${encodeDayTime(at)}4903.50N/07201.75W>`);
        if (packet.kind !== 'position') throw new Error();
        expect(Math.abs(instantOf(packet.time!, at)! - at)).toBeLessThan(60_000);
        const clock = read(`@${encodeClockTime(at)}4903.50N/07201.75W>`);
        if (clock.kind === 'position') expect(instantOf(clock.time!, at)).toBe(at);
        expect(encodeMonthTime(at)).toMatch(/^\d{8}$/);
      }),
    );
  });
});

describe('hostile text', () => {
  it('keeps bidirectional and zero-width characters as they came, as text and nothing else', () => {
    const packet = decodeInformation(octetsOfText('>\u202eabc\u200b\u2066'), 'APRS');
    expect(packet).toMatchObject({ ok: true, value: { text: '\u202eabc\u200b\u2066' } });
  });
});
