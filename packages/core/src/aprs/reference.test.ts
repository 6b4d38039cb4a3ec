import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { formatMonitorLine, parseMonitorLine } from './monitor';
import { encodeFrame } from '../link/ax25';
import { LINKTYPE_AX25, pcapHeader, pcapRecord } from '../formats/pcap';
import { joinOctets, octetsOfLatin1 } from '../octets';
import { decodeInformation, type Information } from './information';
import { encodeMicE } from './mic-e';
import { encodeUncompressedPosition } from './position/encode';
import { frameOfPacket, type Packet } from './packet';
import { encodeWeather, NO_WEATHER } from './weather';

/*
 * The outside check: a general network analyser (tshark of Debian's packages) takes the same frames apart. It is left out where it is
 * known to be wrong: course of Mic-E, speed and range of compressed positions, and which rain is which.
 */
let folder: string;
beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'reference-'))));
afterAll(() => rmSync(folder, { recursive: true }));

const packetOf = (info: string | Uint8Array, destination = 'APRS'): Packet => ({
  source: 'QT1AA-7',
  destination,
  path: [],
  info: typeof info === 'string' ? octetsOfLatin1(info) : info,
});

function analyse(packets: readonly Packet[], arguments_: readonly string[]): string {
  const file = join(folder, 'packets.pcap');
  const records = packets.map((packet, i) => {
    const frame = frameOfPacket(packet);
    const octets = frame.ok ? encodeFrame(frame.value) : frame;
    if (!octets.ok) throw new Error(octets.error.reason);
    return pcapRecord(octets.value, i * 1000, LINKTYPE_AX25);
  });
  writeFileSync(file, joinOctets([pcapHeader(LINKTYPE_AX25), ...records]));
  return execFileSync('tshark', ['-r', file, '-o', 'ax25_nol3.showaprs:TRUE', ...arguments_], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  });
}

const fieldsOf = (packets: readonly Packet[], ...fields: string[]): string[][] =>
  analyse(packets, ['-T', 'fields', '-E', 'separator=;', ...fields.flatMap((field) => ['-e', field])])
    .trimEnd()
    .split('\n')
    .map((row) => row.split(';'));

const understood = ({ info, destination }: Packet): Information => {
  const result = decodeInformation(info, destination);
  if (!result.ok) throw new Error(result.error.reason);
  return result.value;
};

const degrees = {
  latitude: fc.double({ min: -89.9, max: 89.9, noNaN: true }),
  longitude: fc.double({ min: -179.9, max: 179.9, noNaN: true }),
};
const motion = { courseDeg: fc.integer({ min: 1, max: 360 }), speedKnots: fc.integer({ min: 0, max: 200 }) };

/** `DDMM.hhN` as degrees. */
function angle(text: string): number {
  const found = /^(\d{2,3})(\d\d\.\d\d)([NSEW])$/.exec(text);
  if (!found) throw new Error(text);
  const value = Number(found[1]) + Number(found[2]) / 60;
  return 'SW'.includes(found[3]!) ? -value : value;
}

describe('what a network analyser reads in the same frames', () => {
  it('are the same plain positions, courses and speeds', () => {
    const packets = fc
      .sample(fc.record({ ...degrees, ...motion }), { numRuns: 60, seed: 11 })
      .map((send) => packetOf(`!${encodeUncompressedPosition({ ...send, symbol: { table: '/', code: '>' } })}`));
    const rows = fieldsOf(packets, 'aprs.position.lat', 'aprs.position.long', 'aprs.msg.cse', 'aprs.msg.spd');
    expect(rows).toHaveLength(packets.length);
    for (const [i, [latitude, longitude, course, speed]] of rows.entries()) {
      expect(understood(packets[i]!)).toMatchObject({
        kind: 'position',
        latitude: expect.closeTo(angle(latitude!), 9),
        longitude: expect.closeTo(angle(longitude!), 9),
        courseDeg: Number(course),
        speedKnots: Number(speed),
      });
    }
  });

  it('are the same Mic-E places, speeds and messages', () => {
    const sends = fc.sample(
      fc.record({ ...degrees, ...motion, message: fc.constantFrom('Off Duty', 'En Route', 'Returning', 'Priority') }),
      { numRuns: 60, seed: 12 },
    );
    const packets = sends.map((send) => {
      const { destination, info } = encodeMicE({ ...send, symbol: { table: '/', code: '>' } } as never);
      return packetOf(info, destination);
    });
    const rows = [
      ...analyse(packets, ['-V']).matchAll(
        /Mic-E: Lat: (\d{4}\.\d\d[NS]) Long: (\d{5}\.\d\d[EW]), Cse: \d+, Spd: (\d+), SSID: \d+, Msg (.+)/g,
      ),
    ];
    expect(rows).toHaveLength(packets.length);
    for (const [i, [, latitude, longitude, speed, message]] of rows.entries()) {
      expect(understood(packets[i]!)).toMatchObject({
        kind: 'Mic-E',
        latitude: expect.closeTo(angle(latitude!), 9),
        longitude: expect.closeTo(angle(longitude!), 9),
        speedKnots: Number(speed),
        message: message!.trim(),
      });
    }
  });

  it('are the same fields of a weather report', () => {
    const weather = {
      ...NO_WEATHER,
      windDirectionDeg: 220,
      windMph: 4,
      gustMph: 5,
      temperatureF: -7,
      rainHourIn100: 12,
      humidityPercent: 50,
      pressureHpa: 990.1,
    };
    const packet = packetOf(`!4903.50N/07201.75W_${encodeWeather(weather)}`);
    const [row] = fieldsOf(
      [packet],
      ...['dir', 'peak', 'temp', '1_hour', 'humidity', 'pressure'].map((name) =>
        name === 'dir' ? 'aprs.msg.dir' : `aprs.weather.${name}`,
      ),
    );
    expect(row).toEqual(['220', 'g005', 't-07', 'r012', 'h50', 'b09901']);
    expect(understood(packet)).toMatchObject({ weather });
  });

  it('are the same objects, items, descriptions, bearings and kinds', () => {
    const packets = [
      ';LEADER   *092345z4903.50N/07201.75W>088/036',
      ')AID #2!4903.50N/07201.75WA       ',
      '!4903.50N/07201.75W#PHG5132',
      '!4903.50N/07201.75W#RNG0050',
      '!4903.50N/07201.75W#DFS2360',
    ].map((info) => packetOf(info));
    const rows = fieldsOf(
      packets,
      ...['object', 'item', 'dhm', 'msg.phg.p', 'msg.phg.h', 'msg.phg.g', 'msg.phg.d', 'msg.rng', 'msg.dfs.s'].map(
        (name) => `aprs.${name}`,
      ),
    );
    expect(rows[0]![0]).toContain('LEADER');
    expect(understood(packets[0]!)).toMatchObject({
      kind: 'object',
      name: rows[0]![0]!.slice(0, 9).trim(),
      live: true,
    });
    expect(rows[0]![2]).toBe('092345z');
    expect(rows[1]![1]).toContain('AID #2');
    expect(understood(packets[1]!)).toMatchObject({ kind: 'item', name: 'AID #2' });
    expect(rows[3]![7]).toContain('0050');
    expect(understood(packets[3]!)).toMatchObject({ rangeMi: 50 });
    expect(rows[4]![8]).toBeTruthy();
  });
});

describe('any packet', () => {
  // Twice through the text form: what the log keeps is what was heard.
  it('comes back from monitor text', () => {
    const { info } = encodeMicE({
      latitude: 41.2,
      longitude: -43.4,
      symbol: { table: '/', code: '>' },
      message: 'En Route',
    });
    const packet = packetOf(info, 'TQPR5V');
    const line = parseMonitorLine(formatMonitorLine(packet, { escapes: true }), { escapes: true });
    expect(line.ok && [...line.value.info]).toEqual([...info]);
  });
});
