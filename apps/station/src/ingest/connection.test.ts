import { addressLinkFrame, encodeFrame, encodeKiss, parseAddress, type Address, type LinkFrame } from '@tombolo/core';
import type { HeardLink, PacketDetail, PacketSummary, StationView } from '@tombolo/contract';
import type { Station } from '../station';
import {
  createDatabase,
  eventually,
  rebuilt,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
} from '../testing/harness';
import { wantRebuild } from './derived/rebuild';

const OWN = 'QT2AR-7';
let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Station & { api: Api };
let api: Api;
beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  station = await startWithModem(database.url, modem);
  ({ api } = station);
});
afterEach(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});

const address = (call: string): Address => {
  const parsed = parseAddress(call);
  if (!parsed.ok) throw new Error(parsed.error.reason);
  return parsed.value;
};
/** A frame of a connection as the modem hears it; `over` are digipeaters that have repeated it. */
function hear(from: string, to: string, frame: LinkFrame, over: readonly string[] = []): void {
  const addressed = addressLinkFrame(address(from), address(to), over.map(address), frame);
  const repeaters = addressed.repeaters.map((hop) => ({ ...hop, repeated: true }));
  const octets = encodeFrame({ ...addressed, repeaters });
  if (!octets.ok) throw new Error(octets.error.reason);
  modem.hearOctets(encodeKiss(octets.value));
}
const SABM: LinkFrame = { type: 'SABM', command: true, pollFinal: true };
const line = (text: string): LinkFrame => ({
  type: 'I',
  command: true,
  pollFinal: false,
  ns: 0,
  nr: 0,
  info: new TextEncoder().encode(text),
});
const listed = async () => (await api.get<{ rows: PacketSummary[] }>('/packets?kind=connection')).rows;
const heard = (n: number) =>
  eventually(async () => {
    const rows = await listed();
    return rows.length === n && rows;
  });

describe('frames of connections', () => {
  it('of others are on record like every packet: copies, path, fields, who hears whom, and made anew', async () => {
    hear('QT1NC-1', 'QT1BB-4', line('Count'));
    hear('QT1NC-1', 'QT1BB-4', line('Count'), ['QT0TH-3']);
    const [frame] = await eventually(async () => {
      const rows = await listed();
      return rows[0]?.copies.length === 2 && rows;
    });
    expect(frame).toMatchObject({
      source: 'QT1NC-1',
      destination: 'QT1BB-4',
      addressee: 'QT1BB-4',
      summary: 'I: text no. 0, 5 octets; has all before no. 0',
      copies: [
        { how: 'direct', via: [], line: 'QT1NC-1>QT1BB-4 <I 0 0>' },
        { how: 'relayed', via: ['QT0TH-3'], line: 'QT1NC-1>QT1BB-4,QT0TH-3* <I 0 0>' },
      ],
    });
    const detail = await api.get<PacketDetail>(`/packets/${frame!.id}`);
    expect(detail.fields.at(-1)).toMatchObject({ name: 'Content', words: 'Count' });
    expect(detail.copies[1]!.statements!.length).toBeGreaterThan(0);

    const links = async () =>
      (await api.get<HeardLink[]>('/heard-links')).map(({ from, by }) => `${by} hears ${from}`).sort();
    const stations = async () => (await api.get<StationView[]>('/stations')).map(({ call }) => call).sort();
    const before = [await links(), await stations()];
    expect(before[0]).toContain(`${OWN} hears QT1NC-1`);
    expect(before[0]).toContain(`${OWN} hears QT0TH-3`);
    expect(before[1]).toEqual(['QT0TH-3', 'QT1NC-1']);
    await wantRebuild(station.context.database);
    await rebuilt(station);
    expect([await links(), await stations()]).toEqual(before);
    expect((await api.get<{ rows: unknown[] }>('/failures')).rows).toEqual([]);
    expect((await api.get<{ rows: unknown[] }>('/items')).rows).toEqual([]);
  });

  it('of ours as well, and are answered all the same', async () => {
    hear('QT9XX', OWN, SABM);
    const [frame] = await heard(1);
    expect(frame).toMatchObject({ source: 'QT9XX', destination: OWN, summary: expect.stringContaining('SABM: asks') });
    await eventually(() => modem.sent.length > 0);
  });

  it('are in the capture file and not in the text, where a line is what a packet says', async () => {
    hear('QT1NC-1', 'QT1BB-4', line('Count'));
    modem.hear('QT6CL>APRS:>Here');
    await heard(1);
    await eventually(async () => (await api.get<{ rows: unknown[] }>('/packets')).rows.length === 2);
    const text = await (await api.send('/exports/heard.txt')).text();
    expect(text).toContain('QT6CL>APRS:>Here');
    expect(text).not.toContain('QT1BB-4');
    const capture = Buffer.from(await (await api.send('/exports/heard.pcap')).arrayBuffer());
    expect(capture.includes('Count')).toBe(true);
  });
});
