import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { encodeNmea } from '../aprs/nmea';
import { createTrackReader, MOST_TRACK_POINTS } from './track-file';

const read = (text: string, piece = 7) => {
  const reader = createTrackReader();
  for (let at = 0; at < text.length; at += piece) if (!reader.push(text.slice(at, at + piece))) break;
  return reader.end();
};
const points = (text: string, piece?: number) => {
  const track = read(text, piece);
  if (!track.ok) throw new Error(track.error.reason);
  return track.value;
};
const at = (second: number) => new Date(Date.UTC(2026, 10, 25, 8, 0, second)).toISOString().replace('.000', '');
const trkpt = (n: number, time = at(n)) =>
  `<trkpt lat="${41 + n / 1000}" lon="-43.5"><ele>3</ele><time>${time}</time><fix>3d</fix><sat>7</sat></trkpt>`;
const gpx = (inside: string) =>
  `<?xml version="1.0"?>\n<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><metadata><time>2001-01-01T00:00:00Z</time></metadata><trk><trkseg>${inside}</trkseg></trk></gpx>`;

describe('a track out of a file', () => {
  it('is read from GPX, however it is cut, and what goes back in time is counted', () => {
    const text = gpx(
      trkpt(0) +
        trkpt(10) +
        trkpt(5) +
        trkpt(20) +
        '<trkpt lat="41" lon="200"><time>2027-01-01T00:00:00Z</time></trkpt>',
    );
    for (const piece of [1, 7, 4096]) {
      const track = points(text, piece);
      expect(track.leftOut).toBe(2);
      expect(track.points.map(({ atMs }) => new Date(atMs).toISOString())).toEqual(
        [0, 10, 20].map((s) => at(s).replace('Z', '.000Z')),
      );
      expect(track.points[2]).toMatchObject({ latitude: 41.02, longitude: -43.5 });
    }
  });

  it('is the same by a general converter of map files, as GPX and as sentences of a receiver (gpsbabel)', () => {
    const folder = mkdtempSync(join(tmpdir(), 'track-'));
    const [from, nmea, back] = ['in.gpx', 'out.nmea', 'back.gpx'].map((name) => join(folder, name)) as [
      string,
      string,
      string,
    ];
    const text = gpx([0, 10, 20, 30].map((second) => trkpt(second)).join(''));
    writeFileSync(from, text);
    execFileSync('gpsbabel', ['-t', '-i', 'gpx', '-f', from, '-o', 'nmea', '-F', nmea]);
    execFileSync('gpsbabel', ['-t', '-i', 'gpx', '-f', from, '-o', 'gpx', '-F', back]);
    const ours = points(text).points;
    for (const file of [nmea, back]) {
      const theirs = points(readFileSync(file, 'utf8')).points;
      expect(theirs.map(({ atMs }) => atMs)).toEqual(ours.map(({ atMs }) => atMs));
      theirs.forEach((point, n) => expect(point.latitude).toBeCloseTo(ours[n]!.latitude, 5));
    }
    rmSync(folder, { recursive: true });
  });

  it('with a wrong checksum loses that sentence alone', () => {
    const line = (second: number) =>
      encodeNmea(`GPRMC,0800${String(second).padStart(2, '0')}.00,A,4116.000,N,04317.000,W,5.0,90.0,251126,,,A`);
    const text = [line(0), line(10), line(20).replace(',A,', ',V,'), line(30)].join('\r\n');
    expect(points(text).points).toHaveLength(3);
  });

  it('that is none says why, and nothing breaks it', () => {
    for (const [text, reason] of [
      ['', 'no track is in the file'],
      ['hello', 'neither GPX nor sentences of NMEA 0183'],
      ['{"type":"Feature"}', 'neither GPX nor sentences of NMEA 0183'],
      [gpx(trkpt(0)), 'no track is in the file'],
      [gpx('<trkpt lat="41" lon="2"/><trkpt lat="41" lon="3"/>'), 'its points bear no times that go on'],
    ])
      expect(read(text!)).toMatchObject({ ok: false, error: { reason } });
    expect(read('<gpx><trk></gpx>')).toMatchObject({ ok: false, error: { reason: expect.stringContaining('XML') } });
    expect(read(gpx(trkpt(0) + trkpt(1)).slice(0, 300))).toMatchObject({ ok: false });
    fc.assert(fc.property(fc.string(), fc.constantFrom('<', '$', ''), (text, first) => void read(first + text)));
  });

  it('too long is refused before it fills the memory', () => {
    const reader = createTrackReader();
    reader.push('<gpx><trk><trkseg>');
    let n = 0;
    let more = true;
    while (more && n < MOST_TRACK_POINTS + 10_000) {
      let piece = '';
      for (let i = 0; i < 2000; i++, n++)
        piece += `<trkpt lat="1" lon="2"><time>${new Date(n * 1000).toISOString()}</time></trkpt>`;
      more = reader.push(piece);
    }
    expect(more).toBe(false);
    expect(reader.end()).toMatchObject({ ok: false, error: { reason: expect.stringContaining('cut the track') } });
  }, 60_000);
});
