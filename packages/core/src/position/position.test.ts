import { execFileSync } from 'node:child_process';
import { encodeNmea } from '../aprs/nmea';
import { createFixReader, type Fix, type ReceiverEvent } from './fix';
import { keepFix, type KeptFix } from './kept-fix';

const RMC = 'GPRMC,081530.00,A,4116.140,N,04317.100,W,12.5,88.0,271126,,,A';
const GGA = 'GPGGA,081530.00,4116.140,N,04317.100,W,1,08,1.2,12.5,M,50.0,M,,';
const read = (...bodies: string[]) => {
  const reader = createFixReader();
  return bodies.map((body) => reader.push(body.startsWith('$') ? body : encodeNmea(body)));
};
const fixOf = (event: ReceiverEvent | null | undefined): Fix => {
  if (event?.is !== 'fix') throw new Error(JSON.stringify(event));
  return event.fix;
};

describe('a position receiver', () => {
  it.each([
    ['RMC first', [RMC, GGA]],
    ['GGA first', [GGA, RMC]],
  ])('is read whole from two sentences of one second, %s', (_, bodies) =>
    expect(fixOf(read(...bodies).at(-1))).toEqual({
      latitude: expect.closeTo(41.269, 6),
      longitude: expect.closeTo(-43.285, 6),
      altitudeM: 12.5,
      courseDeg: 88,
      speedKnots: 12.5,
      satellites: 8,
      hdop: 1.2,
      toldAt: '2026-11-27T08:15:30.000Z',
    }),
  );

  it('is read as a general tool reads it (gpsdecode of gpsd)', () => {
    const lines = [0, 1, 2, 3].flatMap((second) =>
      [RMC, GGA].map((body) =>
        encodeNmea(body.replace('081530', `08153${second}`).replace('4116.140', `4116.14${second * 2}`)),
      ),
    );
    const told = execFileSync('gpsdecode', { input: `${lines.join('\r\n')}\r\n`, encoding: 'utf8' })
      .split('\n')
      .filter((line) => line.includes('"TPV"'))
      .map((line) => JSON.parse(line) as { lat: number; lon: number; time: string })
      .filter(({ lat }) => lat !== undefined);
    const reader = createFixReader();
    const ours = lines
      .map((line) => reader.push(line))
      .filter((event) => event?.is === 'fix')
      .map(fixOf);
    expect(told.length).toBeGreaterThan(0);
    for (const { lat, lon, time } of told)
      expect(
        ours.some(
          ({ latitude, longitude, toldAt }) =>
            Math.abs(latitude - lat) < 1e-6 &&
            Math.abs(longitude - lon) < 1e-6 &&
            toldAt === new Date(time).toISOString(),
        ),
      ).toBe(true);
  });

  it('has no fix when one of its sentences says so, whatever another one of that second says', () => {
    expect(read(RMC.replace(',A,41', ',V,41'))).toEqual([{ is: 'no fix' }]);
    expect(read(GGA.replace(',1,08,', ',0,00,'), RMC)).toEqual([{ is: 'no fix' }, null]);
    expect(read('GPRMC,081530.00,V,,,,,,,271126,,,N')).toEqual([{ is: 'no fix' }]);
    // The next second is another matter.
    expect(read(GGA.replace(',1,08,', ',0,00,'), RMC.replace('081530', '081531')).at(-1)).toMatchObject({ is: 'fix' });
  });

  it('trusts nothing that was garbled, cut, or sent without a checksum', () => {
    const good = encodeNmea(RMC);
    for (const line of [
      good.replace('4116', '4117'),
      good.slice(0, 40),
      `$${RMC}`,
      'hello',
      '',
      '\u0000\uffff',
      '$GPRMC',
    ])
      expect(createFixReader().push(line)).toMatchObject({ is: 'wrong' });
    expect(read('GPGSV,1,1,01,21,00,000,00')).toEqual([null]);
  });

  it('tells no day that there is not', () => {
    expect(fixOf(read(RMC.replace('271126', '310226'))[0]).toldAt).toBeNull();
    expect(fixOf(read(RMC.replace('271126', ''))[0]).toldAt).toBeNull();
    expect(fixOf(read(RMC.replace('271126', '060180'))[0]).toldAt).toBe('1980-01-06T08:15:30.000Z');
  });
});

describe('the fix that is believed', () => {
  const at = (latitude: number, seconds: number): Fix => ({
    ...fixOf(read(RMC)[0]),
    latitude,
    toldAt: new Date(Date.UTC(2026, 10, 27, 8, 15, seconds)).toISOString(),
  });
  const after = (...fixes: readonly (readonly [latitude: number, told: number, received: number])[]) =>
    fixes.reduce<KeptFix | null>(
      (kept, [latitude, told, received]) => keepFix(kept, at(latitude, told), received * 1000),
      null,
    )!;

  it('moves as something moves', () => {
    // 0.001° of latitude in a second are 400 km/h.
    expect(after([41, 0, 0], [41.001, 1, 1], [41.002, 2, 2])).toMatchObject({ fix: { latitude: 41.002 }, doubted: [] });
  });

  it('does not jump, until three in a row say the same', () => {
    expect(after([41, 0, 0], [42, 1, 1])).toMatchObject({ fix: { latitude: 41 }, doubted: [{ latitude: 42 }] });
    expect(after([41, 0, 0], [42, 1, 1], [42, 2, 2], [42, 3, 3])).toMatchObject({ fix: { latitude: 42 }, doubted: [] });
    expect(after([41, 0, 0], [42, 1, 1], [43, 2, 2], [44, 3, 3]).fix.latitude).toBe(41);
    expect(after([41, 0, 0], [42, 1, 1], [41, 2, 2])).toMatchObject({ fix: { latitude: 41 }, doubted: [] });
  });

  it('does not go back in time', () => {
    expect(after([41, 10, 0], [41.0005, 5, 1])).toMatchObject({
      fix: { latitude: 41 },
      doubted: [{ latitude: 41.0005 }],
    });
  });

  it('may be far from where it was after a long silence', () =>
    expect(after([41, 0, 0], [45, 50, 3600]).fix.latitude).toBe(45));
});
