import { octetsOfLatin1, octetsOfText } from '../octets';
import { CONTROL_UI } from '../link/ax25';
import { formatGpx } from '../formats/places';
import { pathHops } from '../planner/paths';
import { routeOfDestination, symbolOfDestination } from './destination';
import { explainInformation } from './explain';
import { encodeFrequency, radioSetting } from './frequency';
import { decodeInformation, type Information } from './information';
import { packetOfFrame } from './packet';
import { ALTERNATE_NAMES, PRIMARY_NAMES } from './symbol-names';
import { symbolInWords, symbolMeaning, symbolName } from './symbol';
import { encodeWeather, NO_WEATHER } from './weather';

const read = (text: string, destination = 'APRS'): Information => {
  const data = decodeInformation(octetsOfLatin1(text), destination);
  if (!data.ok) throw new Error(`${text}: ${data.error.reason}`);
  return data.value;
};
const refused = (text: string) => decodeInformation(octetsOfLatin1(text), 'APRS').ok === false;

// Protocol Reference 1.0.1, ch. 11; the scale of the offsets from memory.
describe('area objects and signposts', () => {
  it('are figures, and no course and speed', () => {
    expect(read(';AREA     *092345z4903.50N\\07201.75Wl510/208')).toMatchObject({
      courseDeg: null,
      speedKnots: null,
      area: { shape: 'circle', filled: true, colour: 2, southDeg: 100 / 1500, eastDeg: 64 / 1500, corridorMi: null },
    });
    // Colours from ten on take the place of the slash.
    expect(read(';AREA     *092345z4903.50N\\07201.75Wl4201305')).toMatchObject({
      area: { shape: 'box', filled: false, colour: 13 },
    });
    expect(read(';LINE     *092345z4903.50N\\07201.75Wl630/410{12}Road')).toMatchObject({
      area: { shape: 'line', filled: false, eastDeg: -100 / 1500, corridorMi: 12 },
      comment: 'Road',
    });
    // Behind any other symbol the same characters are what they were.
    expect(read('=4903.50N/07201.75W>088/036')).toMatchObject({ area: null, courseDeg: 88, speedKnots: 36 });
  });
  it('bear up to three characters', () => {
    expect(read(')SIGN!4903.50N\\07201.75Wm{60}')).toMatchObject({ signpost: '60' });
    expect(read(')SIGN!4903.50N\\07201.75Wm{6000}')).toMatchObject({ signpost: null });
    expect(read('=4903.50N/07201.75W>{60}')).toMatchObject({ signpost: null });
  });
});

// Ch. 5: the type character `!` may stand anywhere up to the 40th place.
describe('a position behind a text', () => {
  it.each(['On the hill ', 'Tarn Head ', '$nothing ', '?what ', '[no locator ', 'wow! see !! '])(
    'that begins with “%s” is found',
    (head) => {
      expect(read(`${head}!4903.50N/07201.75W>`)).toMatchObject({ kind: 'position', latitude: 49 + 3.5 / 60 });
    },
  );
  it('is looked for no further than the fortieth place, and not where a type was meant', () => {
    expect(read(`${'x'.repeat(39)}!4903.50N/07201.75W>`)).toMatchObject({ kind: 'position' });
    expect(refused(`${'x'.repeat(40)}!4903.50N/07201.75W>`)).toBe(true);
    expect(refused('=broken !4903.50N/07201.75W>')).toBe(true);
    // A status stays one.
    expect(read('>At !4903.50N/07201.75W>')).toMatchObject({ kind: 'status' });
  });
});

// Ch. 14.
describe('messages', () => {
  it('to NWS and a word are bulletins', () => {
    expect(read(':NWS-WARN :092010z,THUNDER,VEIL')).toMatchObject({
      kind: 'bulletin',
      addressee: 'NWS-WARN',
      id: 'WARN',
      group: 'NWS',
      text: '092010z,THUNDER,VEIL',
    });
    expect(read(':NWS      :x')).toMatchObject({ kind: 'bulletin', id: 'NWS' });
    expect(read(':NWSOME-7 :x')).toMatchObject({ kind: 'message' });
  });
  it('that read like an answer keep their words', () => {
    expect(read(':QT2AR-7  :reject')).toMatchObject({ kind: 'rej', number: 'ect', text: 'reject' });
    expect(read(':QT2AR-7  :acknowledged')).toMatchObject({ kind: 'message', text: 'acknowledged' });
  });
});

// Ch. 12.
describe('weather', () => {
  it('is sent only as far as its fields reach', () => {
    const sent = (more: object) => encodeWeather({ ...NO_WEATHER, ...more });
    expect(sent({ rainHourIn100: 1000 })).toBe('.../...g...t...r...');
    expect(sent({ rainHourIn100: 999 })).toBe('.../...g...t...r999');
    expect(sent({ temperatureF: -100, windMph: 1200 })).toBe('.../...g...t...');
    expect(sent({ humidityPercent: 0.2 })).toBe('.../...g...t...h01');
    expect(sent({ humidityPercent: 100 })).toBe('.../...g...t...h00');
  });
  it('of a newer station does not lose what stands behind a letter that is not known', () => {
    expect(read('_10090556c220s004g005t077F123V138h50b09900wRSW')).toMatchObject({
      weather: { temperatureF: 77, humidityPercent: 50, pressureHpa: 990 },
      comment: 'wRSW',
    });
    expect(read('!4903.50N/07201.75W_220/004g005t077Nice and dry')).toMatchObject({ comment: 'Nice and dry' });
  });
  // Fields and their order from memory of ch. 12.
  it('as stations write it themselves is read', () => {
    expect(read('$ULTW00640080029E000027A2000000000000028A0001016A00050032')).toMatchObject({
      kind: 'weather',
      weather: {
        gustMph: expect.closeTo(6.21, 2),
        windDirectionDeg: 180,
        temperatureF: 67,
        rainCounter: 0,
        pressureHpa: 1014.6,
        humidityPercent: 65,
        rainMidnightIn100: 5,
        windMph: expect.closeTo(3.11, 2),
      },
    });
    expect(read('!!00320040FFF6----27A2----02EE')).toMatchObject({
      weather: { windMph: expect.closeTo(3.11, 2), windDirectionDeg: 90, temperatureF: -1, humidityPercent: 75 },
    });
    expect(read('#50B7500820082')).toMatchObject({ kind: 'weather', comment: '#50B7500820082' });
    expect(read('*50B7500820082')).toMatchObject({ kind: 'weather', weather: NO_WEATHER });
    expect(refused('$ULTWxyz')).toBe(true);
  });
});

describe('sentences of receivers (NMEA 0183)', () => {
  it('without a status do not tell whether there is a fix', () => {
    expect(read('$GPGLL,4903.50,N,07201.75,W')).toMatchObject({ latitude: 49 + 3.5 / 60, valid: null });
    expect(read('$GPGLL,4903.50,N,07201.75,W,123519,')).toMatchObject({ valid: null });
    expect(read('$GPGLL,4903.50,N,07201.75,W,123519,V')).toMatchObject({ valid: false });
  });
  it('have the symbol that their destination names (ch. 20)', () => {
    expect(read('$GPGLL,4903.50,N,07201.75,W', 'GPSMV')).toMatchObject({ symbol: { table: '/', code: '>' } });
    expect(read('$GPGLL,4903.50,N,07201.75,W', 'APRS')).toMatchObject({ symbol: null });
  });
});

describe('destinations', () => {
  // Ch. 20, appendix 2; letters from memory.
  it.each([
    ['GPSBB', '/!'],
    ['GPSPA', '/A'],
    ['SPCLK', '/k'],
    ['SYMHT', '/\\'],
    ['GPSP0', '/0'],
    ['GPSJ4', '/~'],
    ['GPSOB', '\\!'],
    ['GPSNV', '\\>'],
    ['GPSNV5', '5>'],
    ['SPCQ1', '\\{'],
    ['GPSC30', '/>'],
    ['GPSE30-3', '\\>'],
  ])('%s names the symbol %s', (destination, symbol) => {
    expect(symbolOfDestination(destination)).toEqual({ table: symbol[0], code: symbol[1] });
  });
  it.each(['APRS', 'GPS', 'GPSXX', 'GPSC99', 'GPSB', 'S32UVT'])('%s names none', (destination) => {
    expect(symbolOfDestination(destination)).toBeNull();
  });
  // Ch. 4, generic digipeater paths by the SSID of the destination.
  it('ask for a way by their number', () => {
    expect(['APRS', 'APRS-3', 'APRS-9', 'APRS-15'].map(routeOfDestination)).toEqual([
      null,
      'like WIDE3-3',
      'toward the south',
      'toward the west, like WIDE2-2',
    ]);
    const fields = explainInformation(octetsOfText('>x'), 'APRS-3');
    expect(fields.find(({ name }) => name === 'Way asked for')).toMatchObject({ part: 'destination' });
  });
});

describe('what is easily mistaken', () => {
  it('MD3-3 counts three hops (1.1 addendum)', () => {
    expect([pathHops(['MD3-3']), pathHops(['WIDE1-1', 'WIDE2-1']), pathHops(['QT0BR-1', 'RELAY'])]).toEqual([3, 2, 2]);
  });
  it('a protocol identifier other than 0xf0 is not APRS (ch. 3)', () => {
    const frame = {
      source: { call: 'A1A', ssid: 0 },
      destination: { call: 'APRS', ssid: 0 },
      commandBits: { destination: true, source: false },
      repeaters: [],
      control: CONTROL_UI,
      info: octetsOfText('>x'),
    };
    expect(packetOfFrame({ ...frame, pid: 0xf0 }).ok).toBe(true);
    expect(packetOfFrame({ ...frame, pid: 0xcf })).toMatchObject({
      error: { reason: expect.stringContaining('0xcf') },
    });
  });
  it('extra precision on the equator goes to the side that the sign tells (1.2 addendum)', () => {
    expect(read('!0000.00S/07201.75W>!W55!')).toMatchObject({ latitude: expect.closeTo(-0.005 / 60, 9) });
    expect(read('!0000.00N/07201.75W>!W55!')).toMatchObject({ latitude: expect.closeTo(0.005 / 60, 9) });
    expect(read('!4903.50N/00000.00W>!W55!')).toMatchObject({ longitude: expect.closeTo(-0.005 / 60, 9) });
  });
  it('a false first match does not hide a real one', () => {
    expect(read('!4903.50N/07201.75W>see !!! or !W5b! !W55!')).toMatchObject({
      latitude: expect.closeTo(49 + 3.505 / 60, 9),
    });
    expect(read('!4903.50N/07201.75W>/A=none /A=001234')).toMatchObject({ altitudeFt: 1234 });
    expect(read('!4903.50N/07201.75W>|abcde|!!!"!#|')).toMatchObject({ telemetry: { sequence: 0 } });
  });
  it('the circle of a query has blanks where a sign or digit could be (ch. 15)', () => {
    const circle = { latitude: 34.02, longitude: 117.15, radiusMi: 200 };
    expect(read('?APRS? 34.02, 117.15,0200')).toMatchObject({ footprint: circle });
    expect(read('?APRS? 34.02,-117.15, 200')).toMatchObject({ footprint: { ...circle, longitude: -117.15 } });
  });
  it('an old fix of one family of radios is a current one (ch. 10, from memory)', () => {
    const micE = (type: string, code: string) => read(`${type}(_fn"Oj/${code}Hello`, 'S32UVT');
    expect([micE("'", ']'), micE("'", '>'), micE('`', '>')].map((one) => 'current' in one && one.current)).toEqual([
      true,
      false,
      true,
    ]);
    // Suffixes of the type of radio are no part of the text (1.2 addendum, from memory).
    for (const [code, suffix] of [
      ['`', '_ '],
      ["'", '|3'],
      ['`', '(5'],
      ["'", ':8'],
      ['>', '='],
      [']', '='],
    ])
      expect(read(`\`(_fn"Oj/${code}Hello${suffix}`, 'S32UVT')).toMatchObject({ comment: 'Hello' });
  });
  it('a bearing of a direction finder (ch. 5; the form from memory)', () => {
    expect(read('%225/8')).toEqual({ kind: 'direction finder', bearingDeg: 225, quality: 8 });
    expect(read('%007')).toMatchObject({ bearingDeg: 7, quality: null });
    expect(refused('%400/1')).toBe(true);
  });
  it('the antimeridian in GPX is −180 (GPX 1.1, longitudeType)', () => {
    const at = { latitude: 0, longitude: 180, altitudeM: null, at: '2026-01-01T00:00:00Z' };
    const gpx = formatGpx([{ ...at, name: 'x', comment: '', meaning: 'other', trail: [] }], at.at);
    expect(gpx).toContain('lon="-180.0000000"');
  });
});

// 1.2 addendum, frequency formats; from memory.
describe('frequencies', () => {
  const of = (comment: string) => {
    const data = read(`!4903.50N/07201.75W>${comment}`);
    return 'frequency' in data ? data.frequency : null;
  };
  it('of microwaves begin with a letter', () => {
    expect(of('A96.000MHz')).toMatchObject({ frequencyMHz: 1296 });
    expect(of('K68.100MHz Toff')).toMatchObject({ frequencyMHz: 10_468.1, toneOff: true });
    expect(of('see FM146.520MHz')).toMatchObject({ frequencyMHz: 146.52 });
  });
  it('tell a burst of tone and where else the station listens', () => {
    expect(of('439.150MHz 1750 -760')).toMatchObject({ toneBurst: true, toneHz: null, offsetMHz: -7.6 });
    expect(of('439.150MHz l750')).toMatchObject({ toneBurst: true, narrow: true });
    const split = of('146.520MHz T100 147.300rx')!;
    expect(split).toMatchObject({ toneHz: 100, receiveMHz: 147.3 });
    expect(radioSetting(split)[1]).toEqual({ what: 'Send on', value: '147.300 MHz, where it listens' });
    expect(of(encodeFrequency(split))).toEqual(split);
    expect(of(encodeFrequency({ ...split, toneHz: null, toneBurst: true }))).toMatchObject({ toneBurst: true });
  });
  it('stand in the names of objects', () => {
    expect(read(';146.940BR*092345z4903.50N/07201.75WrT100 -060 R25m')).toMatchObject({
      name: '146.940BR',
      frequency: { frequencyMHz: 146.94, toneHz: 100, offsetMHz: -0.6 },
    });
    expect(read(';LEADER   *092345z4903.50N/07201.75W>')).toMatchObject({ frequency: null });
  });
});

// Appendix 2, from memory.
describe('the 188 codes of the two symbol tables', () => {
  const codes = Array.from({ length: 94 }, (_, i) => String.fromCharCode(0x21 + i));
  const all = ['/', '\\'].flatMap((table) => codes.map((code) => ({ table, code })));
  it('have one meaning each', () => {
    expect(all).toHaveLength(188);
    expect(all.filter((symbol) => symbolName(symbol) === null)).toEqual([]);
    expect(Object.keys(PRIMARY_NAMES).sort()).toEqual([...codes].sort());
    expect(Object.keys(ALTERNATE_NAMES).sort()).toEqual([...codes].sort());
    // No name stands twice, but for what is reserved.
    const names = all.map((symbol) => symbolName(symbol)!).filter((name) => !name.startsWith('reserved'));
    expect(names.filter((name, i) => names.indexOf(name) !== i)).toEqual([]);
  });
  it('are not drawn as what they are not', () => {
    expect(symbolMeaning({ table: '\\', code: 'h' })).toBe('store');
    expect(symbolMeaning({ table: '/', code: 'A' })).toBe('aid station');
    const drawnAs = (meaning: string) =>
      all.filter((symbol) => symbolMeaning(symbol) === meaning).map((s) => s.table + s.code);
    expect(drawnAs('hospital')).toEqual(['/h']);
    expect(drawnAs('emergency')).toEqual(['\\!']);
    expect(drawnAs('shelter')).toEqual(['/z', '\\z']);
    expect(drawnAs('digipeater')).toEqual(['/#', '\\#']);
  });
  it('are named in words, with what stands on them', () => {
    expect(symbolInWords({ table: '\\', code: 'h' })).toBe('store');
    expect(symbolInWords({ table: 'W', code: '#' })).toBe('digipeater, with a W on it');
    expect(symbolInWords({ table: '/', code: 'D' })).toBe('symbol /D');
  });
});
