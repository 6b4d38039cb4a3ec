import { decodeFrame, latin1OfOctets, packetOfFrame } from '@tombolo/core';
import type { BearerView, TransmissionView } from '@tombolo/contract';
import type { Station } from '../../station';
import {
  createDatabase,
  eventually,
  RADIO,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
} from '../../testing/harness';

const OWN = 'QT2AR-7';
let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Station & { api: Api };
/** By how much the station's clock is ahead of the machine's. */
let laterMs = 0;
beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  laterMs = 0;
  station = await startWithModem(
    database.url,
    modem,
    { answerQueries: true, position: { latitude: 41.27, longitude: -43.3 } },
    { now: () => Date.now() + laterMs },
  );
});
afterEach(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});

const listed = async () => (await station.api.get<{ rows: TransmissionView[] }>('/transmissions')).rows;
const asked = (rows = 1) =>
  eventually(async () => {
    const list = await listed();
    return list.length === rows && list;
  });
/** Beyond the time that answers to all are spread over. */
const untilDue = () => (laterMs += 21_000);
const sentInfo = () =>
  modem.sent.flatMap((octets) => {
    const frame = decodeFrame(octets);
    const packet = frame.ok ? packetOfFrame(frame.value) : frame;
    return packet.ok && packet.value.source === OWN ? [latin1OfOctets(packet.value.info)] : [];
  });

describe('a question to every station', () => {
  it('is answered once with our position, however many ask meanwhile; its record and its repeats belong to no item', async () => {
    modem.hear('QT1NC>APRS,WIDE1-1:?APRS?');
    const [waiting] = await asked();
    expect(waiting).toMatchObject({ role: 'answer', to: 'QT1NC', triesMade: 0 });
    expect(waiting!.evidence).toMatchObject([
      { kind: 'queued', by: OWN, note: 'our position, which QT1NC asked everybody for' },
    ]);
    modem.hear('QT6CL>APRS:?APRS?');
    untilDue();
    const [sent] = await eventually(async () => {
      const list = await listed();
      return list[0]?.evidence.some(({ kind }) => kind === 'sent') && list[0].nextAt === null && list;
    });
    expect(sent!.evidence.map(({ kind }) => kind)).toEqual(['queued', 'intended', 'sent']);
    expect(sentInfo()).toEqual(['=4116.20N/04318.00W[']);

    modem.hear(sent!.evidence[2]!.raw!.replace(/^([^:,]*)[^:]*:/, '$1,QT0TH-3*:'));
    const [repeated] = await eventually(async () => {
      const list = await listed();
      return list[0]?.evidence.some(({ kind }) => kind === 'relayed') && list;
    });
    expect(repeated!.evidence.at(-1)).toMatchObject({ kind: 'relayed', by: 'QT0TH-3', attempt: 1 });
    expect(repeated!.evidence.at(-1)!.packetId).not.toBeNull();
    expect(await asked()).toHaveLength(1);
    expect((await station.api.get<{ rows: unknown[] }>('/items')).rows).toEqual([]);
  });

  it('is answered in the circle that it asks, and nowhere else', async () => {
    modem.hear('QT1NC>APRS:?APRS? 41.00,-43.00,0010');
    modem.hear('QT6CL>APRS:?APRS? 41.00,-43.00,0030');
    modem.hear('QT6CL>APRS:?WX?');
    const [only] = await asked();
    expect(only!.evidence[0]!.note).toBe('our position, which QT6CL asked all within 30 miles for');
  });

  it('is left unanswered where answers are not allowed, and when it was recorded', async () => {
    await station.api.patch('/settings', { answerQueries: false });
    modem.hear('QT1NC>APRS:?APRS?');
    const heard = async () => (await station.api.get<{ rows: unknown[] }>('/packets')).rows.length;
    await eventually(async () => (await heard()) === 1);
    await station.api.patch('/settings', { answerQueries: true });
    await station.api.send('/imports?name=old&format=monitor', { method: 'POST', body: 'QT6CL>APRS:?APRS?' });
    modem.hear('QT8WX>APRS:?APRS?');
    const [only] = await asked();
    expect(only!.to).toBe('QT8WX');
  });

  it('is left out and said so when there is no air time for it in time', async () => {
    await station.api.patch('/settings', { automaticAirS: 1 });
    const radioNow = async () => (await station.api.get<BearerView[]>('/bearers'))[0]!;
    const radio = await radioNow();
    await station.api.patch(`/bearers/${RADIO}`, { config: { ...radio.config, txDelayMs: 1500 } });
    // It keys with that from the next connection to the modem, which is made at once.
    await eventually(async () => {
      const { state } = await radioNow();
      return state.link === 'up' && state.since !== radio.state.since;
    });
    modem.hear('QT1NC>APRS:?APRS?');
    await asked();
    laterMs += 100_000;
    const [out] = await eventually(async () => {
      const list = await listed();
      return list[0]?.nextAt === null && list;
    });
    expect(out!.evidence.map(({ kind }) => kind)).toEqual(['queued', 'left out']);
    expect(sentInfo()).toEqual([]);
  });
});
