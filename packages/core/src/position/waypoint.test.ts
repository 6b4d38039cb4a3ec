import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { decodeNmea } from '../aprs/nmea';
import { encodeWaypoint, MOST_WAYPOINT_NAME, waypointName } from './waypoint';

const read = (name: string, latitude: number, longitude: number) => {
  const sentence = decodeNmea(encodeWaypoint(name, { latitude, longitude }));
  if (!sentence.ok) throw new Error(sentence.error.reason);
  return sentence.value;
};

describe('a waypoint for a navigation receiver', () => {
  it('is a sentence of NMEA 0183 with its checksum', () =>
    expect(encodeWaypoint('QT3TK-14', { latitude: 41.269, longitude: -43.285 })).toBe(
      '$GPWPL,4116.1400,N,04317.1000,W,QT3TK-14*5F\r\n',
    ));

  it('carries over into the next degree, and over no pole', () => {
    expect(encodeWaypoint('A', { latitude: 59.9999999, longitude: -179.9999999 })).toContain(
      ',6000.0000,N,18000.0000,W,A*',
    );
    expect(encodeWaypoint('A', { latitude: -90, longitude: 0 })).toContain(',9000.0000,S,00000.0000,E,A*');
  });

  it('has a name that breaks no sentence, whatever the air calls itself', () => {
    expect(waypointName('a,b*c$d')).toBe('A-B-C-D');
    expect(waypointName('  ')).toBe('-');
    fc.assert(
      fc.property(
        fc.string({ unit: 'binary', maxLength: 30 }),
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        (name, latitude, longitude) => {
          const sentence = read(name, latitude, longitude);
          expect(sentence.waypoint!.length).toBeLessThanOrEqual(MOST_WAYPOINT_NAME);
          expect(sentence.latitude!).toBeCloseTo(latitude, 5);
          expect(sentence.longitude!).toBeCloseTo(longitude, 5);
        },
      ),
    );
  });

  it('is read by a general converter of map files as the same place (gpsbabel)', () => {
    const folder = mkdtempSync(join(tmpdir(), 'waypoints-'));
    const file = join(folder, 'out.nmea');
    writeFileSync(
      file,
      encodeWaypoint('QT4LB-8', { latitude: 41.1046, longitude: -43.487 }) +
        encodeWaypoint('QT0BR-1', { latitude: -33.86, longitude: 151.2094 }),
    );
    const told = execFileSync('gpsbabel', ['-w', '-i', 'nmea', '-f', file, '-o', 'unicsv', '-F', '-'], {
      encoding: 'utf8',
    });
    rmSync(folder, { recursive: true });
    expect(told).toContain('41.104600,-43.487000,"QT4LB-8"');
    expect(told).toContain('-33.860000,151.209400,"QT0BR-1"');
  });
});
