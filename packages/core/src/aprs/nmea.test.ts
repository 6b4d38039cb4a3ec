import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { octetsOfLatin1 } from '../octets';
import { decodeInformation } from './information';
import { placeOf } from './told';
import { decodeNmea, encodeNmea, nmeaChecksum } from './nmea';

const read = (text: string) => {
  const sentence = decodeNmea(text);
  if (!sentence.ok) throw new Error(sentence.error.reason);
  return sentence.value;
};

/** What gpsd's own decoder makes of sentences (gpsdecode of Debian's gpsd-clients): the outside check. */
const gpsd = (sentences: readonly string[]): Record<string, number | string>[] =>
  execFileSync('gpsdecode', [], { input: sentences.map((s) => `${s}\r\n`).join(''), encoding: 'utf8' })
    .trim()
    .split('\n')
    .map((row) => JSON.parse(row));

const minutes = (value: number, digits: number) => {
  const total = Math.round(Math.abs(value) * 600_000);
  const degrees = Math.floor(total / 600_000);
  return `${String(degrees).padStart(digits, '0')}${((total - degrees * 600_000) / 10_000).toFixed(4).padStart(7, '0')}`;
};

describe('raw sentences of receivers (NMEA 0183)', () => {
  // The Reference's example (ch. 6), from memory; its checksum is recomputed by hand: the exclusive or is 0x21.
  it('reads a sentence with its checksum', () => {
    const text = '$GPRMC,063909,A,3349.4302,N,11700.3721,W,43.022,89.3,291099,13.6,E*52';
    expect(read(text)).toMatchObject({
      type: 'RMC',
      latitude: expect.closeTo(33 + 49.4302 / 60, 9),
      longitude: expect.closeTo(-(117 + 0.3721 / 60), 9),
      speedKnots: 43.022,
      courseDeg: 89.3,
      clock: '063909',
      valid: true,
      checked: true,
    });
    expect(read(text.split('*')[0]!)).toMatchObject({ checked: false });
  });
  it('agrees with the decoder of gpsd on place, speed, course and altitude', () => {
    const sample = fc.sample(
      fc.record({
        latitude: fc.double({ min: -89, max: 89, noNaN: true }),
        longitude: fc.double({ min: -179, max: 179, noNaN: true }),
        altitude: fc.integer({ min: -100, max: 8000 }),
      }),
      { numRuns: 25, seed: 5 },
    );
    const pairs = sample.map(({ latitude, longitude, altitude }, i) => {
      const clock = `1405${String(i).padStart(2, '0')}`;
      const place = `${minutes(latitude, 2)},${latitude < 0 ? 'S' : 'N'},${minutes(longitude, 3)},${longitude < 0 ? 'W' : 'E'}`;
      return [
        encodeNmea(`GPGGA,${clock},${place},1,08,1.0,${altitude}.0,M,0.0,M,,`),
        encodeNmea(`GPRMC,${clock},A,${place},012.50,088.0,251126,,`),
      ] as const;
    });
    // It reports once a cycle, after it has learned where a cycle ends.
    const told = gpsd(pairs.flat()).filter((row) => row.class === 'TPV');
    expect(told.length).toBeGreaterThan(20);
    for (const row of told) {
      const [gga, rmc] = pairs[Number(/05:(\d\d)/.exec(String(row.time))![1])]!;
      const ours = { ...read(rmc), altitudeM: read(gga).altitudeM };
      expect(ours.latitude).toBeCloseTo(Number(row.lat), 6);
      expect(ours.longitude).toBeCloseTo(Number(row.lon), 6);
      expect(ours.speedKnots! * (1852 / 3600)).toBeCloseTo(Number(row.speed), 2);
      expect(ours.courseDeg).toBeCloseTo(Number(row.track), 3);
      expect(ours.altitudeM).toBeCloseTo(Number(row.altMSL), 3);
    }
  });
  it('reads the other sentences, and keeps those it does not know', () => {
    expect(read(encodeNmea('GPGLL,4903.50,N,07201.75,W,140500,V'))).toMatchObject({ type: 'GLL', valid: false });
    expect(read(encodeNmea('GPVTG,088.0,T,,M,036.0,N,,K'))).toMatchObject({ courseDeg: 88, speedKnots: 36 });
    expect(read(encodeNmea('GPWPL,4903.50,N,07201.75,W,RAMP'))).toMatchObject({
      waypoint: 'RAMP',
      latitude: expect.closeTo(49.058, 3),
    });
    expect(read(encodeNmea('GPGSV,1,1,00'))).toMatchObject({ type: 'GSV', latitude: null });
    expect(read(encodeNmea('GPRMC,,V,,,,,,,,,'))).toMatchObject({ latitude: null, valid: false });
  });
  it.each([
    ['$GPRMC,063909,A,3349.4302,N,11700.3721,W,43.022,89.3,291099,13.6,E*53', 'not trusted'],
    ['$GPRMC,063909,A*xx', 'two hexadecimal digits'],
    ['$hello', 'not a sentence'],
    [encodeNmea('GPGLL,9903.50,N,07201.75,W,140500,A'), 'off the globe'],
    [encodeNmea('GPGLL,4973.50,N,07201.75,W,140500,A'), 'off the globe'],
    [encodeNmea('GPGLL,4903.50,X,07201.75,W,140500,A'), 'neither N nor S'],
    [encodeNmea('GPGLL,49xx.50,N,07201.75,W,140500,A'), 'degrees and minutes'],
    [encodeNmea('GPGLL,4903.50'), 'cut off'],
  ])('explains %p', (text, reason) => {
    const sentence = decodeNmea(text);
    expect(sentence.ok ? '' : sentence.error.reason).toContain(reason);
  });
  it('gives places, but not those of waypoints or without a fix', () => {
    const place = (body: string) => {
      const data = decodeInformation(octetsOfLatin1(encodeNmea(body)), 'APRS');
      return data.ok ? placeOf(data.value) : undefined;
    };
    expect(place('GPGLL,4903.50,N,07201.75,W,140500,A')).toMatchObject({ latitude: expect.closeTo(49.058, 3) });
    expect(place('GPGLL,4903.50,N,07201.75,W,140500,V')).toBeNull();
    expect(place('GPWPL,4903.50,N,07201.75,W,RAMP')).toBeNull();
  });
  it('finds every single wrong character by the checksum', () => {
    const body = 'GPGLL,4903.50,N,07201.75,W,140500,A';
    const sum = nmeaChecksum(body);
    fc.assert(
      fc.property(fc.nat(body.length - 1), fc.integer({ min: 0x20, max: 0x7e }), (at, code) => {
        fc.pre(body.charCodeAt(at) !== code);
        expect(nmeaChecksum(body.slice(0, at) + String.fromCharCode(code) + body.slice(at + 1))).not.toBe(sum);
      }),
    );
  });
});
