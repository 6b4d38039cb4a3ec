import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { encodeKiss, octetsOfText, pcapHeader, pcapRecord } from '@tombolo/core';
import { parse } from 'papaparse';
import type { FailureView, ImportView, PacketSummary } from '@tombolo/contract';
import type { Station } from '../station';
import { apiOf, createDatabase, frameOctets, openSettings, startTestStation, type Api } from '../testing/harness';
import { createCutter } from './run-import';
import { textTo } from '../testing/written';

let database: Awaited<ReturnType<typeof createDatabase>>;
let station: Station;
let api: Api;
beforeAll(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url);
  api = apiOf(station);
  await api.patch('/settings', openSettings);
});
afterAll(async () => {
  await station.stop();
  await database.drop();
});

const send = async (format: string, body: Uint8Array, more = ''): Promise<ImportView> => {
  const answer = await api.send(`/imports?name=test&format=${format}${more}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: body as BodyInit,
  });
  return (await answer.json()) as ImportView;
};
const packetsOf = (run: ImportView) => api.get<{ rows: PacketSummary[] }>(`/packets?importId=${run.id}`);
const failuresOf = (run: ImportView) => api.get<{ rows: FailureView[] }>(`/failures?importId=${run.id}`);

const FIRST = 'QT4LB-8>APRS,QT0BR-1*::QT1NC    :Fuel low{1';
const COPY = 'QT4LB-8>APRS,QT0BR-1,QT0TH-3*::QT1NC    :Fuel low{1';
const OTHER = 'QT3TK-14>APRS:!4114.55N/04327.36W>Truck';

describe('a recording', () => {
  it('of KISS octets is read with its copies joined, garbage explained', async () => {
    const octets = Buffer.concat([
      octetsOfText('login: '),
      ...[FIRST, COPY, OTHER].map((line) => encodeKiss(frameOctets(line))),
      encodeKiss(Uint8Array.of(1, 2, 3)),
    ]);
    const run = await send('kiss', octets, '&startedAt=2026-01-05T10:00:00Z');
    expect(run).toMatchObject({ understood: 3, notUnderstood: 2, packets: 2, problem: null });
    expect(run.readOctets).toBe(octets.length);
    const { rows } = await packetsOf(run);
    expect(rows.map(({ source, copies }) => [source, copies.length])).toEqual([
      ['QT3TK-14', 1],
      ['QT4LB-8', 2],
    ]);
    expect(rows[1]!.at).toBe('2026-01-05T10:00:00.000Z');
    const failures = await failuresOf(run);
    expect(failures.rows.map(({ reason }) => reason).sort()).toEqual([
      'octets before the first FEND',
      'the frame ends inside its first address',
    ]);
    expect(Buffer.from(failures.rows.find(({ reason }) => reason.startsWith('octets'))!.rawHex, 'hex').toString()).toBe(
      'login: ',
    );
  });

  it('in a capture file keeps the original times and ports', async () => {
    const at = Date.UTC(2026, 1, 3, 4, 5, 6, 789);
    const octets = Buffer.concat([pcapHeader(), pcapRecord(frameOctets(OTHER), at, undefined, 3)]);
    const run = await send('pcap', octets);
    const [packet] = (await packetsOf(run)).rows;
    expect(packet).toMatchObject({ at: new Date(at).toISOString(), copies: [{ port: 3, how: 'direct' }] });
  });

  it('cut off inside a record keeps what came before and says where it ended', async () => {
    const whole = Buffer.concat([
      pcapHeader(),
      pcapRecord(frameOctets(OTHER), Date.UTC(2026, 1, 4)),
      pcapRecord(frameOctets(FIRST), Date.UTC(2026, 1, 4, 1)),
    ]);
    const run = await send('pcap', whole.subarray(0, whole.length - 5));
    expect(run).toMatchObject({ understood: 1, notUnderstood: 1 });
    expect((await failuresOf(run)).rows[0]!.reason).toMatch(/at octet \d+/);
  });

  it('of monitor text survives a megabyte in one line, bad UTF-8 and control characters', async () => {
    const octets = Buffer.concat([
      octetsOfText(`2026-03-01T00:00:00Z ${OTHER}\n`),
      Buffer.alloc(1024 * 1024, 0x41),
      octetsOfText('\n2026-03-01T00:00:02Z QT9AA>APRS:>'),
      Buffer.from([0xff, 0xfe, 0x00, 0x1b]),
      octetsOfText('odd\r\n\n# a comment\n2026-03-01T00:00:03Z QT9AB>APRS:>fine\n'),
    ]);
    const run = await send('monitor', octets);
    expect(run).toMatchObject({ understood: 3, notUnderstood: 1, packets: 3, problem: null });
    const { rows } = await packetsOf(run);
    expect(rows.map(({ source }) => source)).toEqual(['QT9AB', 'QT9AA', 'QT3TK-14']);
    expect((await failuresOf(run)).rows[0]!.reason).toContain('longer than');
  });

  it('that is none says so and is kept in the list', async () => {
    const run = await send('pcap', octetsOfText('GIF89a, and nothing of a capture file in it'));
    expect(run.problem).not.toBeNull();
    expect(run.finishedAt).not.toBeNull();
    expect((await api.get<ImportView[]>('/imports')).some(({ id }) => id === run.id)).toBe(true);
  });

  it('of any octets, cut anywhere, loses none of them silently', () => {
    for (const format of ['kiss', 'pcap', 'monitor'] as const)
      fc.assert(
        fc.property(fc.uint8Array({ maxLength: 400 }), fc.nat(400), (octets, cut) => {
          const once = createCutter(format, 'x', 0);
          const twice = createCutter(format, 'x', 0);
          const whole = once.push(octets);
          const parts = [twice.push(octets.subarray(0, cut)), twice.push(octets.subarray(cut))];
          const heard = [...whole.heard, ...once.end()];
          const again = [...parts.flatMap((part) => part.heard), ...twice.end()];
          expect(again.map(({ raw }) => Buffer.from(raw).toString('hex'))).toEqual(
            heard.map(({ raw }) => Buffer.from(raw).toString('hex')),
          );
        }),
        { numRuns: 300 },
      );
  });
});

describe('an export', () => {
  it('of packets opens in a general network analyser, with the octets as they were heard', async () => {
    const run = await send('kiss', encodeKiss(frameOctets(COPY)), '&startedAt=2026-04-01T00:00:00Z');
    const capture = Buffer.from(await (await api.send(`/exports/heard.pcap?importId=${run.id}`)).arrayBuffer());
    const folder = mkdtempSync(join(tmpdir(), 'tombolo-export-'));
    try {
      const file = join(folder, 'heard.pcap');
      writeFileSync(file, capture);
      // Source: tshark of Debian's packages, a general network analyser.
      const [row] = execFileSync('tshark', ['-r', file, '-T', 'json', '-x'], {
        encoding: 'utf8',
        stdio: ['ignore', 'pipe', 'ignore'],
      })
        .trim()
        .split('\n\n');
      const [packet] = JSON.parse(row!) as [
        { _source: { layers: { frame_raw: [string]; ax25: Record<string, string> } } },
      ];
      const hex = packet._source.layers.frame_raw[0];
      // A KISS type octet (port 0, data) stands in front of the frame.
      expect(hex).toBe(`00${Buffer.from(frameOctets(COPY)).toString('hex')}`);
      expect(packet._source.layers.ax25['ax25.ctl_tree'] ?? packet._source.layers.ax25['ax25.ctl']).toBeDefined();
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('as monitor text comes back in as the same packets', async () => {
    const run = await send(
      'kiss',
      Buffer.concat([FIRST, OTHER].map((line) => encodeKiss(frameOctets(line)))),
      '&startedAt=2026-05-01T00:00:00Z',
    );
    const text = await (await api.send(`/exports/heard.txt?importId=${run.id}`)).text();
    const again = await send('monitor', octetsOfText(text));
    expect(again).toMatchObject({ understood: 2, notUnderstood: 0 });
    const lines = async (view: ImportView) =>
      (await packetsOf(view)).rows.map(({ copies, at }) => [at, copies[0]!.line]);
    expect(await lines(again)).toEqual(await lines(run));
  });

  it('of the log keeps a formula from the air from running in a spreadsheet', async () => {
    const id = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3d';
    await api.post('/bearers', { name: 'None', config: { kind: 'kiss-tcp', host: '127.0.0.1', port: 1 } });
    const [bearer] = await api.get<{ id: string }[]>('/bearers');
    await api.post(
      '/items',
      textTo('QT1NC', '=HYPERLINK("http://example","x")', { id, path: [], bearerId: bearer!.id }),
    );
    const csv = await (await api.send('/exports/log.csv')).text();
    // Source: papaparse, a general CSV reader.
    const { data, errors } = parse<string[]>(csv.trim());
    expect(errors).toEqual([]);
    const row = data.find((cells) => cells.some((cell) => cell.includes('HYPERLINK')))!;
    expect(row).toBeDefined();
    for (const cell of data.flat()) expect(cell).not.toMatch(/^[=+@\t\r]/);
  });
});
